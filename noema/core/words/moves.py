"""The next move for a cell, as painters say it.

Paint is moved from the lighter side; a drawing is darkened by another layer and lightened by
lifting.
"""

from collections.abc import Mapping

from noema.core.coaching.moves import Act, Move
from noema.core.exercises.media import Medium
from noema.core.language import N_, gettext, said_together
from noema.core.pigments.says import say_adding
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
        if not others:
            return gettext("Start again from %(first)s.", first=first)
        return gettext(
            "Start again from %(first)s and bring in %(others)s by small touches, until it "
            "matches the key.",
            first=first,
            others=said_together(others),
        )
    if move.act is Act.LOOK:
        return gettext("Hold it beside the key in daylight before you add anything.")
    if move.act is Act.AS_IT_COMES:
        return gettext(
            "Start again with %(next)s as it comes, from a clean brush.", next=next(iter(named))
        )
    if move.act in (Act.DARKER, Act.LIGHTER):
        return gettext(_BY[medium.is_dry, move.act], steps=step_words(move.steps))
    return gettext(_OF_WASHES[move.act])


_BY = {
    (True, Act.DARKER): N_("Make it %(steps)s darker, with another thin layer."),
    (True, Act.LIGHTER): N_("Make it %(steps)s lighter, by lifting some off."),
    (False, Act.DARKER): N_("Make it %(steps)s darker, with a touch more black."),
    (False, Act.LIGHTER): N_(
        "Make it %(steps)s lighter: start again from the lighter pile and bring in less black."
    ),
}
"""How a step is mended, by whether it is drawn and where it has to go."""

_OF_WASHES = {
    Act.WASH_OVER: N_("Lay another thin wash over it when it is dry."),
    Act.MORE_WATER: N_("Start again with more water: a wash can be darkened, not lightened."),
    Act.THINNER: N_("Start again and brush it out thinner."),
}
