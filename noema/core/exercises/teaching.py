"""What a teacher shows and says when a class begins a kind of exercise."""

from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class Teaching:
    """Sentences about a kind, to be looked up in the reader's language."""

    place: int  # in the order that skills build on each other, 1 for the first
    see: str  # what the class should see happen
    mistake: str  # the commonest
    say: str  # to whom it happens
    easier: str
    harder: str
    ask: str  # at the end
