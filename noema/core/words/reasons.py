"""Why a cell has its verdict, in a painter's words."""

from noema.core.exercises.asked import SEE_THE_HUE
from noema.core.judging.judgement import Off, Reason, Why
from noema.core.words.amounts import opening, step_words

_LITTLE, _MUCH = 1.5, 3.0  # tolerances
_UNSEEN = {
    "outside": "Part of this step lies outside the photograph.",
    "glare": "A shine lies over this step.",
    "shadow": "A shadow lies over this step.",
    "clipped": "The camera burnt this step out.",
}
_SIDES = ("dark", "light", "dull", "intense")


def reason_words(reason: Reason) -> str:
    """Say a verdict's reason, the gravest quantity first."""
    if reason.told:
        return reason.told
    if reason.why is Why.HOLDS:
        return "Holds its step."
    if reason.why is Why.EMPTY:
        return "Nothing painted here yet."
    if reason.why is Why.UNSEEN:
        return _UNSEEN[reason.flag]
    if reason.why is Why.NOT_COUNTED:
        see_hue = reason.limit == SEE_THE_HUE
        limit = "these paints can't quite give this colour" if see_hue else reason.limit
        return f"Not counted: {limit}."
    said = [_off_words(one) for one in reason.off]
    if reason.why is Why.SEEMS:
        return f"Seems {said[0]}, but the reading isn't sure enough."
    return opening(f"{', '.join(said)}.")


def _off_words(off: Off) -> str:
    """Say one quantity: a little within one and a half tolerances, much beyond three."""
    if off.towards not in _SIDES:
        return f"leans to {off.towards}"
    if off.steps is not None:
        return f"{step_words(off.steps)} too {off.towards}"
    much = "a little " if off.tolerances < _LITTLE else "much " if off.tolerances > _MUCH else ""
    return f"{much}too {off.towards}"
