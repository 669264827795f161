"""What is ordered: the fewest tubes and bottles that hold enough paint."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from noema.core.planning.paint_uses import TubeInMedium

SIZES_ML = (75, 120, 200, 250, 500, 1000)
"""Tubes of 75, 120 and 200 ml, school bottles of 250, 500 and 1,000."""

_MOST_ML = 20_000
_ONE_MORE_ML = 25  # too much paint that is taken for one container less


@dataclass(frozen=True, kw_only=True)
class OrderLine:
    """One paint's part of an order."""

    paint: TubeInMedium
    label: str
    needed_ml: float  # that nineteen in twenty don't exceed
    there_ml: float
    containers: tuple[int, ...]  # in ml, the smallest first; none where enough is there

    @property
    def ordered_ml(self) -> int:
        """What comes with them."""
        return sum(self.containers)

    @property
    def said(self) -> str:
        """Write the containers, such as 1 × 120 ml."""
        counts = {size: self.containers.count(size) for size in self.containers}
        return ", ".join(f"{count} × {size} ml" for size, count in counts.items())


def order_of(
    needed_ml: Mapping[TubeInMedium, float],
    there_ml: Mapping[TubeInMedium, float],
    labels: Mapping[TubeInMedium, str],
) -> tuple[OrderLine, ...]:
    """Say what to order, by what is needed and there of each paint; the most needed first."""
    return tuple(
        OrderLine(
            paint=paint,
            label=labels[paint],
            needed_ml=needed_ml[paint],
            there_ml=there_ml.get(paint, 0.0),
            containers=containers(needed_ml[paint] - there_ml.get(paint, 0.0)),
        )
        for paint in sorted(needed_ml, key=lambda one: (-needed_ml[one], one.tube))
    )


def containers(ml: float) -> tuple[int, ...]:
    """Give the tubes and bottles that hold at least so much: few of them, and little too much.

    >>> containers(90), containers(530), containers(0)
    ((120,), (75, 500), ())
    """
    if ml <= 0:
        return ()
    large, rest = divmod(min(ml, _MOST_ML), SIZES_ML[-1])
    found = (*_least(-(-int(rest + 0.999) // _STEP_ML) * _STEP_ML), *[SIZES_ML[-1]] * int(large))
    return tuple(sorted(found))


_STEP_ML = 5  # all sizes are multiples


@cache
def _least(ml: int) -> tuple[int, ...]:
    """Find the cheapest that is enough, one more to carry and to open counted as paint."""
    if ml <= 0:
        return ()
    tried = [(size, *_least(ml - size)) for size in SIZES_ML]
    return min(tried, key=lambda some: (sum(some) + _ONE_MORE_ML * len(some), len(some)))
