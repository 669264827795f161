"""The next move for a cell, as painters say it.

Paint is moved from the lighter side; a drawing is darkened by another layer and lightened by
lifting.
"""

from collections.abc import Mapping

from noema.core.coaching.moves import Act, Move
from noema.core.exercises.media import Medium
from noema.core.pigments.says import say_adding, say_volumes
from noema.core.words.amounts import opening, step_words
from noema.core.words.tubes import tube_words


def move_words(move: Move, medium: Medium, own_tubes: Mapping[str, str]) -> str:
    """Say a move in one sentence."""
    if move.told:
        return move.told
    named = {tube_words(name, own_tubes): volume for name, volume in move.tubes.items()}
    if move.act is Act.ADD:
        [(tube, share)] = named.items()
        return f"{opening(say_adding(tube, share, move.keep))}."
    if move.act is Act.AGAIN:
        first, *others = named
        into = f" and bring in {' and '.join(others)}" if others else ""
        return f"Start again from {first}{into}: {say_volumes(list(named.items()))}."
    if move.act is Act.AS_IT_COMES:
        return f"Start again with {next(iter(named))} as it comes, from a clean brush."
    if move.act in (Act.DARKER, Act.LIGHTER):
        by = _by(move.act, medium)
        return f"Make it {step_words(move.steps)} {move.act.value}{by}."
    return _OF_WASHES[move.act]


def _by(act: Act, medium: Medium) -> str:
    if medium.is_dry:
        return ", with another thin layer" if act is Act.DARKER else ", by lifting some off"
    if act is Act.DARKER:
        return ", with a touch more black"
    return ": start again from the lighter pile and bring in less black"


_OF_WASHES = {
    Act.WASH_OVER: "Lay another thin wash over it when it is dry.",
    Act.MORE_WATER: "Start again with more water: a wash can be darkened, not lightened.",
    Act.THINNER: "Start again and brush it out thinner.",
}
