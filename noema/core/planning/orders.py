"""What is ordered for a unit: the fewest tubes and bottles that hold enough paint."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache

from noema.core.planning.amounts import Amounts

SIZES_ML = (75, 120, 200, 250, 500, 1000)
"""Tubes of 75, 120 and 200 ml, school bottles of 250, 500 and 1,000."""

_MOST_ML = 20_000
_ONE_MORE_ML = 25  # too much paint that is taken for one container less


@dataclass(frozen=True, kw_only=True)
class OrderLine:
    """One tube's part of an order."""

    tube: str
    label: str
    needed_ml: float  # that nine in ten classes don't exceed
    there_ml: float
    containers: tuple[int, ...]  # in ml, the largest first; none where enough is there

    @property
    def ordered_ml(self) -> int:
        """What comes with them."""
        return sum(self.containers)


def order_of(amounts: Amounts, there_ml: Mapping[str, float]) -> tuple[OrderLine, ...]:
    """Say what to order for amounts, by what is there of each tube; most is needed of the first."""
    names = sorted(amounts.tubes, key=lambda name: (-amounts.tubes[name].much, name))
    return tuple(
        OrderLine(
            tube=name,
            label=amounts.labels[name],
            needed_ml=amounts.tubes[name].much,
            there_ml=there_ml.get(name, 0.0),
            containers=containers(amounts.tubes[name].much - there_ml.get(name, 0.0)),
        )
        for name in names
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
