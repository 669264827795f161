"""The bench in words a twelve-year-old follows."""

from dataclasses import dataclass

from noema.core.bench.acts import LEAST_TAKEN_ML
from noema.core.bench.asking import Furthest
from noema.core.bench.practice import Practice
from noema.core.bench.practised import PractisedStep
from noema.core.bench.predicting import Foreseen
from noema.core.bench.task import THERE, BenchTask, TaskKind
from noema.core.language import N_, gettext, ngettext
from noema.core.pigments.next_move import NextMove
from noema.core.pigments.says import say_parts
from noema.core.planning.amounts import rounded_ml, squeezed

DOSES_ML = (LEAST_TAKEN_ML, 0.1, 0.5, 2.0)
"""What is taken or squeezed at once: a grain, a touch, a pea, a hazelnut."""

_NEARLY = 0.9  # of a grain, from which it is one
_NEARLY_THERE = 6.0  # CIEDE2000 at which a pile may be left

_HOW_NEAR = (
    (THERE, N_("It is there: side by side, few would see a difference.")),
    (4.0, N_("Very near: one sees it only side by side.")),
    (8.0, N_("Near: the same colour, a shade off.")),
    (16.0, N_("On the way: a neighbour of the colour.")),
    (float("inf"), N_("Still another colour.")),
)
_TITLES = {
    TaskKind.FREE: N_("Mix freely"),
    TaskKind.MATCH: N_("Match a colour"),
    TaskKind.NEUTRAL: N_("The neutral of %(one)s and %(other)s"),
    TaskKind.STEPS: N_("Five steps from %(one)s to %(other)s"),
    TaskKind.CLEAN: N_("The cleanest %(one)s"),
    TaskKind.DARK: N_("A dark without black"),
    TaskKind.GREYS: N_("A warm and a cool grey"),
    TaskKind.LIGHTEN: N_("Lighten an orange"),
    TaskKind.TONE_DOWN: N_("Tone a green down"),
}
_ASKS = {
    TaskKind.FREE: N_("Nothing is asked: try what happens."),
    TaskKind.MATCH: N_("Mix the colour shown, in pile a. Compare value first, then hue."),
    TaskKind.NEUTRAL: N_(
        "In pile a, grey one with the other until nobody can say which way it leans. It is looked "
        "at with a little white, since a dark hides its hue."
    ),
    TaskKind.STEPS: N_("Piles a to e: from one tube to the other in steps the eye takes for even."),
    TaskKind.CLEAN: N_("In pile a, the most intense %(one)s you can. Which two tubes?"),
    TaskKind.DARK: N_("In pile a, as dark and as neutral as you can, without black."),
    TaskKind.GREYS: N_(
        "Two greys of one middle value: pile a leans to %(one)s, pile b leans to %(other)s."
    ),
    TaskKind.LIGHTEN: N_(
        "Pile a is an orange. Make it %(other)s of a value lighter, as intense as can be."
    ),
    TaskKind.TONE_DOWN: N_(
        "Pile a is a green. Bring it to %(other)s of its intensity, no darker, and still green."
    ),
}


@dataclass(frozen=True, kw_only=True)
class TaskWords:
    """A task in words."""

    title: str
    asks: str


def task_words(task: BenchTask) -> TaskWords:
    """Say what is asked."""
    about = dict(zip(("one", "other"), task.about, strict=False))
    title, asks = _TITLES[task.kind], _ASKS[task.kind]
    if task.kind is TaskKind.MATCH and task.about:
        return TaskWords(
            title=gettext("Match %(one)s", **about),
            asks=gettext(asks),
        )
    return TaskWords(title=gettext(title, **about), asks=gettext(asks, **about))


def dose_words(ml: float) -> str:
    """Say an amount with its ml.

    >>> dose_words(0.5)
    'a pea (0.5 ml)'
    """
    return gettext("%(words)s (%(ml)s ml)", words=squeezed(ml), ml=f"{ml:g}")


def how_near(away: float) -> str:
    """Say how near a pile came."""
    return next(gettext(words) for most, words in _HOW_NEAR if away <= most)


def furthest_words(found: Furthest) -> str:
    """Say what is furthest: Look at the value: it is too dark."""
    return gettext(
        "Look at the %(axis)s: %(towards)s.",
        axis=found.axis.words,
        towards=gettext(found.towards.value, hue=found.hue),
    )


def hint_words(move: NextMove, pile_ml: float) -> str:
    """Say the next addition for a pile of so much paint."""
    if move.is_there:
        return gettext("Leave it: it is there.")
    if move.start_again is not None:
        return gettext(
            "No single addition helps: begin again with %(parts)s.",
            parts=say_parts(move.start_again.parts),
        )
    assert move.add is not None
    ml = move.share * move.keep * pile_ml
    if ml < _NEARLY * LEAST_TAKEN_ML and move.before <= _NEARLY_THERE:
        return gettext(
            "It is near: it lacks less than a grain of %(tube)s. Leave it, or begin a larger pile.",
            tube=move.add.label,
        )
    if ml < _NEARLY * LEAST_TAKEN_ML:
        return gettext(
            "It lacks less than a grain of %(tube)s: make the pile larger first, with more of what "
            "is in it, until a grain is right.",
            tube=move.add.label,
        )
    dose = min(DOSES_ML, key=lambda one: abs(one - ml)) if ml < DOSES_ML[-1] else ml
    added = gettext("about %(dose)s of %(tube)s", dose=squeezed(dose), tube=move.add.label)
    if move.keep < 1.0:
        kept = gettext("a half") if move.keep == 0.5 else gettext("a quarter")
        return gettext(
            "Keep %(kept)s of the pile, then bring in %(added)s.", kept=kept, added=added
        )
    return gettext("Bring in %(added)s.", added=added)


def foreseen_words(of: Foreseen) -> str:
    """Say which of what somebody said came true; empty where nothing can be told."""
    names = (
        (of.value, gettext("value")),
        (of.hue, gettext("hue")),
        (of.chroma, gettext("intensity")),
    )
    right = [name for came, name in names if came is True]
    wrong = [name for came, name in names if came is False]
    said = []
    if right:
        said.append(gettext("You foresaw: %(what)s.", what=", ".join(right)))
    if wrong:
        said.append(gettext("It came otherwise: %(what)s.", what=", ".join(wrong)))
    return " ".join(said)


def ended_words(practice: Practice) -> tuple[str, ...]:
    """Say at the end how near it came, at what cost, and where the way went back."""
    away, touches = practice.away(), practice.touches
    said = [gettext("Not every pile was begun.") if away is None else how_near(away)]
    said.append(
        ngettext(
            "%(count)s touch; %(ml)s ml came out of the tubes.",
            "%(count)s touches; %(ml)s ml came out of the tubes.",
            len(touches),
            ml=f"{rounded_ml(practice.squeezed_ml):g}" if practice.squeezed_ml else "0",
        )
    )
    back = [number for number, touch in enumerate(touches, start=1) if touch.led_away]
    if back:
        said.append(
            ngettext(
                "Touch %(numbers)s led away from it.",
                "Touches %(numbers)s led away from it.",
                len(back),
                numbers=", ".join(map(str, back)),
            )
        )
    return tuple(said)


def step_words(step: PractisedStep) -> str:
    """Say a step of a practised hand, with its amount."""
    reason = gettext(step.reason.value, tube=step.tube)
    return gettext("%(reason)s %(amount)s.", reason=reason, amount=_capital(squeezed(step.ml)))


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]
