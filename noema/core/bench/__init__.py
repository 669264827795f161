"""Mixing by hand, as on a palette: a state, an act, the next state.

Paint is squeezed into dabs, taken with a knife, brought into piles and mixed. What clings to an
unwiped knife comes along; what is wiped off is waste; nothing is lost: all that was squeezed is in
dabs, piles, on the knife, in the jar or wiped off. Colours are worked out from what a pile holds,
wet and dry. A task asks for a colour; what comes of working at it is told when it is asked for.
"""
