"""What paint each lesson of a plan takes, and how a class's own use of it is learned.

A class that squeezes freely squeezes freely of every tube: one factor on what is usual, kept as a
Gaussian of its logarithm, follows what lessons were said to have used.
"""

from collections import defaultdict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime
from math import log

from noema.core.exercises.media import Medium
from noema.core.planning.amounts import Range, times
from noema.core.planning.factor import LearnedFactor, factor_from
from noema.core.planning.kept import KeptPlan

_CLASSES_DIFFER = 0.3  # one sigma of a logarithm
_TUBES_DIFFER = 0.25  # likewise, of one tube in one lesson
_LESSONS_DIFFER = 0.5  # of the doubt of amounts is left when a class is known


@dataclass(frozen=True, kw_only=True)
class TubeInMedium:
    """A tube in a medium."""

    tube: str
    medium: Medium


@dataclass(frozen=True, kw_only=True)
class PaintUse:
    """What one person needs of a paint for a piece of an exercise."""

    paint: TubeInMedium
    label: str
    wish: str
    at: datetime | None  # the lesson, at the school's clock; None where it has no place
    each: Range  # ml


@dataclass(frozen=True, kw_only=True)
class UsedPaint:
    """What a lesson was said to have used of a paint, beside what was expected of it; ml."""

    paint: TubeInMedium
    at: datetime
    expected: float  # as is usual, without the class's factor
    used: float


def learned_use(used: Iterable[UsedPaint]) -> LearnedFactor:
    """Learn how much more paint than usual a class takes."""
    measured = [(log(one.used / one.expected), _TUBES_DIFFER) for one in used if one.used > 0]
    return factor_from(_CLASSES_DIFFER, measured)


def uses_of(kept: KeptPlan, factor: LearnedFactor) -> tuple[PaintUse, ...]:
    """Give what every piece of a plan takes, at a class's own factor."""
    return tuple(
        PaintUse(
            paint=TubeInMedium(tube=need.tube, medium=work.medium),
            label=need.label,
            wish=wish,
            at=dict(enumerate(kept.times.get(wish, ()))).get(number),
            each=at_factor(need.each, factor),
        )
        for wish, work in kept.works.items()
        for number, needs in enumerate(work.paint)
        for need in needs
    )


def together_by_paint(uses: Iterable[PaintUse], people: int) -> dict[TubeInMedium, Range]:
    """Add up what some people take of each paint."""
    found: dict[TubeInMedium, list[Range]] = defaultdict(list)
    for one in uses:
        found[one.paint].append(times(one.each, people))
    return {paint: summed(some) for paint, some in found.items()}


def summed(some: Iterable[Range]) -> Range:
    """Add ranges up; a class that uses much uses much of all."""
    several = tuple(some)
    return Range(
        little=sum(one.little for one in several),
        usual=sum(one.usual for one in several),
        much=sum(one.much for one in several),
    )


def labels_of(uses: Iterable[PaintUse]) -> Mapping[TubeInMedium, str]:
    """Give what paints are called."""
    return {one.paint: one.label for one in uses}


def at_factor(each: Range, factor: LearnedFactor) -> Range:
    """Scale an amount to a class; the better the class is known, the narrower it is."""
    known = min(factor.sigma / _CLASSES_DIFFER, 1.0)
    narrowed = _LESSONS_DIFFER + (1.0 - _LESSONS_DIFFER) * known
    return Range(
        little=factor.factor * each.usual * (each.little / each.usual) ** narrowed,
        usual=factor.factor * each.usual,
        much=factor.factor * each.usual * (each.much / each.usual) ** narrowed,
    )
