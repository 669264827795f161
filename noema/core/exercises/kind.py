"""A kind of exercise: all that is particular to it, in one value."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from enum import Enum
from types import MappingProxyType
from typing import Any, Generic, TypeVar

from noema.core.errors import BadExercise
from noema.core.exercises.asked import Asked, Ground
from noema.core.exercises.from_picture import PictureFacts
from noema.core.exercises.levels import Level
from noema.core.exercises.media import Medium
from noema.core.exercises.options import Options, check, options_of
from noema.core.exercises.skills import Skill
from noema.core.exercises.teaching import Teaching
from noema.core.exercises.tolerance import USUAL_TOLERANCES, Tolerance
from noema.core.language import gettext

O = TypeVar("O", bound=Options)  # noqa: E741 - the options of a kind
Weights = Mapping[Skill, float]

MOST_ROWS = 7
"""Rows of cells at least 12 mm high that a sheet holds."""

CELL_MIN = MappingProxyType({0: 2.0, 1: 1.0, 2: 2.0, 3: 3.0})
"""Minutes to mix and paint a cell, by how many tubes go into it; three stands for more. A model of
usual classroom times: a colour straight from a tube is quickly laid, a third tube makes it
slower."""


class Plot(Enum):
    """How a kind's cells are drawn against each other, true to how painters think of them."""

    STAIR = "stair"  # value up, step by step
    ABOVE = "above"  # the wheel seen from above: hue round, chroma outwards
    BRIDGE = "bridge"  # chroma from one hue down to neutral and up to the other
    PATH = "path"  # value up, chroma outwards: the way to white, to dark or to grey


class Trait(Enum):
    """What is true of some kinds, on which judging and coaching depend."""

    ONE_SCALE = "one row from dark to light: only a move outwards opens a gap in it"
    VALUE_FIRST = "painters compare value first, then hue, then intensity"
    ANY_TUBE_STEERS = "any tube of the set may steer a mix; else its own and its row's alone"
    OWN_TUBES_ALONE = "a cell's own tubes alone may mend it: its row shares no others"
    UNLIKE_NEIGHBOURS = "neighbours needn't have a hue in common, so none can wander"
    LIGHT_AT_TOP = "it is there to show that hues run from light to dark"
    CLEAN_BESIDE_MUTED = "it is there to show which pairs stay clean beside those that don't"
    SHOWS_TUBES = "each tube stands by itself: a sheet of it tells how these tubes look"
    OPENS_A_SET = "shown first where a set of paints is looked at"


def weights(
    *,
    hue: float = 0.0,
    value: float = 0.0,
    intensity: float = 0.0,
    evenness: float = 0.0,
    neutral: float = 0.0,
    craft: float = 1.0,
) -> Weights:
    """Say how much each skill counts; 0: it doesn't.

    The choice is ours: what a kind is there to teach counts two or three, what it also shows
    counts one. A school writes its own over it.
    """
    return MappingProxyType(
        {
            Skill.HUE: hue,
            Skill.VALUE: value,
            Skill.INTENSITY: intensity,
            Skill.EVENNESS: evenness,
            Skill.NEUTRAL: neutral,
            Skill.CRAFT: craft,
        }
    )


USUAL_WEIGHTS = weights(hue=2, value=2, intensity=2)


@dataclass(frozen=True, kw_only=True)
class Kind(Generic[O]):
    """One kind of exercise: its name, what may be chosen, and how it is worked out and judged."""

    name: str  # as commands write it
    label: str  # for people
    says: str  # what it teaches, in a sentence
    teaching: Teaching  # what is shown and said when a class begins it
    options: type[O]  # what may be chosen
    ask: Callable[[O, Ground], Asked]
    without_paints: Callable[[O, Medium], Asked | None] | None = None
    """How it is worked out without a set of paints, where these options allow it."""
    from_picture: Callable[[PictureFacts], O | None] | None = None
    """What is chosen where it is made from a picture; None where that tells too little."""
    plot: Plot = Plot.ABOVE
    traits: frozenset[Trait] = frozenset()
    tolerances: Mapping[Level, Tolerance] = field(default_factory=lambda: USUAL_TOLERANCES)
    weights: Weights = field(default_factory=lambda: USUAL_WEIGHTS)
    cell_min: Mapping[int, float] = field(default_factory=lambda: CELL_MIN)
    turn: int | None = None  # its place among the kinds that train a skill, the first learnt first

    @property
    def needs_paints(self) -> bool:
        """Whether it can't be worked out without a set of paints."""
        return self.without_paints is None

    def chosen(self, values: Mapping[str, Any]) -> O:
        """Give the options of these names; refuses a choice this kind doesn't have."""
        known = {one.name for one in options_of(self.options)}
        if odd := [name for name in values if name not in known]:
            takes = ", ".join(sorted(known)) or "nothing"
            raise BadExercise(
                gettext(
                    "A %(label)s takes no %(odd)s: it takes %(takes)s.",
                    label=gettext(self.label).lower(),
                    odd=odd[0],
                    takes=takes,
                )
            )
        return self.options(**values)

    def asked(self, chosen: O, ground: Ground) -> Asked:
        """Work the exercise out; refuses what isn't among the choices, or can't be painted."""
        check(chosen, gettext(self.label).lower())
        return self.ask(chosen, ground)

    def asked_plainly(self, chosen: O, medium: Medium) -> Asked:
        """Work the exercise out without a set of paints; refuses where it needs one."""
        check(chosen, gettext(self.label).lower())
        plain = None if self.without_paints is None else self.without_paints(chosen, medium)
        if plain is None:
            raise BadExercise(
                gettext("Choose a set of paints: what is expected depends on its tubes.")
            )
        return plain
