"""Why a cell has its verdict, in a painter's words."""

from noema.core.exercises.asked import SEE_THE_HUE
from noema.core.judging.judgement import Off, Reason, Why
from noema.core.language import N_, gettext
from noema.core.words.amounts import opening, step_words

_LITTLE, _MUCH = 1.5, 3.0  # tolerances
_UNSEEN = {
    "outside": N_("Part of this step lies outside the photograph."),
    "glare": N_("A shine lies over this step."),
    "shadow": N_("A shadow lies over this step."),
    "clipped": N_("The camera couldn't hold this colour: too bright, too dark or too intense."),
}
_LITTLE_OFF = {
    "dark": N_("a little too dark"),
    "light": N_("a little too light"),
    "dull": N_("a little too dull"),
    "intense": N_("a little too intense"),
}
_OFF = {
    "dark": N_("too dark"),
    "light": N_("too light"),
    "dull": N_("too dull"),
    "intense": N_("too intense"),
}
_MUCH_OFF = {
    "dark": N_("much too dark"),
    "light": N_("much too light"),
    "dull": N_("much too dull"),
    "intense": N_("much too intense"),
}
_BY_STEPS = {
    "dark": N_("%(steps)s too dark"),
    "light": N_("%(steps)s too light"),
    "dull": N_("%(steps)s too dull"),
    "intense": N_("%(steps)s too intense"),
}


def reason_words(reason: Reason) -> str:
    """Say a verdict's reason, the gravest quantity first."""
    if reason.told:
        return reason.told
    if reason.why is Why.HOLDS:
        return gettext("Holds its step.")
    if reason.why is Why.SAID:
        return gettext("Not there yet, to your teacher's eye.")
    if reason.why is Why.EMPTY:
        return gettext("Bare paper, or white paint: look.")
    if reason.why is Why.UNSEEN:
        return gettext(_UNSEEN[reason.flag])
    if reason.why is Why.NOT_COUNTED:
        see_hue = reason.limit == SEE_THE_HUE
        limit = (
            gettext("these paints can't quite give this colour")
            if see_hue
            else gettext(reason.limit)
        )
        return gettext("Not counted: %(limit)s.", limit=limit)
    if reason.why is Why.IN_QUESTION:
        return gettext("Not counted: most of the class painted it so, and why isn't settled.")
    said = [_off_words(one) for one in reason.off]
    if reason.why is Why.SEEMS:
        return _seems_words(reason.off[0])
    return opening(f"{', '.join(said)}.")


def _off_words(off: Off) -> str:
    """Say one quantity: a little within one and a half tolerances, much beyond three."""
    if off.another:
        return gettext("another hue: %(hue)s", hue=off.towards)
    if off.towards not in _OFF:
        return gettext("leans to %(towards)s", towards=off.towards)
    if off.steps is not None:
        return gettext(_BY_STEPS[off.towards], steps=step_words(off.steps))
    little, much = off.tolerances < _LITTLE, off.tolerances > _MUCH
    return gettext((_LITTLE_OFF if little else _MUCH_OFF if much else _OFF)[off.towards])


def _seems_words(off: Off) -> str:
    if off.another:
        return gettext("Seems another hue, %(hue)s, but the reading isn't sure.", hue=off.towards)
    if off.towards not in _OFF:
        return gettext(
            "Seems to lean to %(towards)s, but the reading isn't sure.", towards=off.towards
        )
    return gettext("Seems %(said)s, but the reading isn't sure enough.", said=_off_words(off))
