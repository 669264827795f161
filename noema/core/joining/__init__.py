"""How students come in: a class code on the board and a card of three words in the hand."""
