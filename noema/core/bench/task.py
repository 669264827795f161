"""What is asked of a hand at the bench: piles of certain colours."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import Enum

import numpy as np

from noema.core.bench.doing import Act
from noema.core.bench.seen import Lab
from noema.core.colour.axis import Axis
from noema.core.colour.difference import ciede2000

THERE = 2.0
"""CIEDE2000 up to which a pile is what was asked: side by side, few would see it."""


class TaskKind(Enum):
    """What is practised."""

    FREE = "free"  # nothing is asked
    MATCH = "match"
    NEUTRAL = "neutral"  # grey a pair until it leans nowhere
    STEPS = "steps"  # five even ones between two tubes
    CLEAN = "clean"  # as intense a secondary as these tubes give
    DARK = "dark"  # without black
    GREYS = "greys"  # a warm and a cool one of one value
    LIGHTEN = "lighten"  # an orange without fading it
    TONE_DOWN = "tone-down"  # a green without killing it


ALL_AXES = (Axis.VALUE, Axis.HUE, Axis.CHROMA)


@dataclass(frozen=True, kw_only=True)
class Amount:
    """A volume of one tube."""

    tube: str
    volume: float  # only its ratio to the others counts


@dataclass(frozen=True, kw_only=True)
class Goal:
    """One pile that is asked for."""

    pile: str
    lab: Lab  # dry
    parts: tuple[Amount, ...]  # of a mix that gives it
    counts: tuple[Axis, ...] = ALL_AXES  # in what a pile is held against it
    at_most: tuple[Axis, ...] = ()  # in which less than asked is as right
    at_least: tuple[Axis, ...] = ()  # and in which more is
    let_down: bool = False  # it is looked at with a little white: a dark hides its hue

    def beside(self, lab: Lab) -> Lab:
        """Give the colour that would be right and is nearest to a pile's: what counts is asked."""
        wanted, given = _lch(self.lab), _lch(lab)
        mixed = [
            self._right(axis, one, other)
            for axis, one, other in zip(
                (Axis.VALUE, Axis.CHROMA, Axis.HUE), wanted, given, strict=True
            )
        ]
        return _lab(*mixed)

    def away(self, lab: Lab) -> float:
        """Give the CIEDE2000 to go, in what counts."""
        return float(ciede2000(lab, self.beside(lab)))

    def away_by(self, axis: Axis, lab: Lab) -> float:
        """Give the CIEDE2000 that this way of differing alone makes."""
        return replace(self, counts=(axis,)).away(lab) if axis in self.counts else 0.0

    def _right(self, axis: Axis, wanted: float, given: float) -> float:
        """Give what is right along one axis and nearest to what is there."""
        if axis not in self.counts:
            return given
        if axis in self.at_most:
            return min(wanted, given)
        return max(wanted, given) if axis in self.at_least else wanted


@dataclass(frozen=True, kw_only=True)
class BenchTask:
    """What is asked, of a set of tubes."""

    kind: TaskKind
    goals: tuple[Goal, ...] = ()
    tubes: tuple[str, ...] = ()  # that may be used; none named: all
    about: tuple[str, ...] = ()  # a hue, tubes or a cell, by what people call them
    shows: bool = False  # the colour is shown; else it is said
    given: tuple[Act, ...] = ()  # what lies there to begin with

    def goal_of(self, pile: str) -> Goal | None:
        """Give what a pile is for; None for one that is nobody's goal."""
        return next((goal for goal in self.goals if goal.pile == pile), None)


def shares_of(parts: Sequence[Amount]) -> tuple[Amount, ...]:
    """Give the same parts summing to 1."""
    whole = sum(part.volume for part in parts)
    return tuple(Amount(tube=part.tube, volume=part.volume / whole) for part in parts)


def _lch(lab: Lab) -> tuple[float, float, float]:
    return lab[0], float(np.hypot(lab[1], lab[2])), float(np.arctan2(lab[2], lab[1]))


def _lab(lightness: float, chroma: float, hue: float) -> Lab:
    return lightness, chroma * float(np.cos(hue)), chroma * float(np.sin(hue))
