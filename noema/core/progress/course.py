"""A skill over weeks: whether it rose, held or fell, so that noise isn't called progress.

Attempts are points in time with a doubt. Rising is tested against staying the same by
order-restricted inference (Bartholomew 1959, Biometrika 46:36; Robertson, Wright & Dykstra 1988,
Order Restricted Statistical Inference, 2.3): the best rising curve is the isotonic regression,
its gain over the weighted mean is the statistic, and with k attempts of like weight the chance of
such a gain from nothing is a mixture of chi-squares whose weights are Stirling numbers of the
first kind over k! (equation 2.4.11 there). No shape is assumed: a jump, a straight climb and a
curve that flattens are all rising. Falling is the same test backwards, from the best on.

An attempt's variance is what was measured (its own sigma) and how much a person's days differ.
The second can't be seen in few attempts, so it is drawn towards a usual value with the weight of
some attempts; it is estimated from differences of neighbours (von Neumann 1941; Rice 1984), which
a slow rise hardly touches.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import Enum
from functools import cache
from math import factorial, sqrt

import numpy as np
from scipy.optimize import isotonic_regression
from scipy.special import gammaincc

from noema.core.language import N_

FEWEST = 3
"""Attempts from which anything is said of a change."""

CHANCE, CHANCE_OF_ONE = 0.025, 0.0125
"""Of calling a rise or fall from nothing: of a student, and of one skill among several asked."""

_DAYS_DIFFER = 0.35  # points: how much a person's days usually differ (docs/measurements.md)
_DRAWN = 8.0  # attempts' worth of that, against what is seen
_WORTH_SAYING = 0.3  # points: a smaller change is nothing to a painter
_SETTLED = 0.35  # points within which later attempts count as the same level


class Trend(Enum):
    """How a skill went; the value says it of a person."""

    RISING = N_("better than at the start")
    STEADY = N_("steady")
    FALLING = N_("further out than it was")
    UNSAID = N_("too few sheets to say")
    UNTOLD = N_("on the whole")  # of a skill whose rise a term of sheets doesn't tell


@dataclass(frozen=True, kw_only=True)
class Point:
    """One attempt in one skill."""

    week: int  # of the unit
    points: float  # 0 to 4
    sigma: float


@dataclass(frozen=True, kw_only=True)
class Course:
    """A skill over all attempts."""

    way: Trend
    curve: tuple[float, ...]  # the level behind each attempt
    low: tuple[float, ...]  # nine in ten lie between these
    high: tuple[float, ...]
    since: int | None  # the week from which it has stayed about as it is
    chance: float  # of such a change from nothing

    @property
    def level(self) -> float:
        """Where it stands now, 0 to 4."""
        return self.curve[-1]


def course(points: Sequence[Point], chance_taken: float = CHANCE) -> Course:
    """Judge a course over its attempts, oldest first; at least one."""
    y = np.array([point.points for point in points])
    variance = np.array([point.sigma for point in points]) ** 2 + _days(points)
    level, chance = float(np.average(y, weights=1 / variance)), 1.0
    curve, way = np.full(len(y), level), Trend.UNSAID
    if len(y) >= FEWEST:
        curve, way, chance = _shape(y, variance, curve, chance_taken)
    doubt = _doubt(curve, variance)
    return Course(
        way=way,
        curve=tuple(curve.tolist()),
        low=tuple((curve - doubt).clip(0.0).tolist()),
        high=tuple((curve + doubt).clip(None, 4.0).tolist()),
        since=_since(points, curve) if way is not Trend.UNSAID else None,
        chance=chance,
    )


def _shape(
    y: np.ndarray, variance: np.ndarray, flat: np.ndarray, taken: float
) -> tuple[np.ndarray, Trend, float]:
    rising, up = _ordered(y, variance)
    falling, down = _ordered(-y, variance)
    if up < taken and rising[-1] - rising[0] >= _WORTH_SAYING:
        return _after_the_best(y, variance, rising, up, taken)
    if down < taken and falling[-1] - falling[0] >= _WORTH_SAYING:
        return -falling, Trend.FALLING, down
    return _after_the_best(y, variance, flat, min(up, down), taken)


def _after_the_best(
    y: np.ndarray, variance: np.ndarray, curve: np.ndarray, chance: float, taken: float
) -> tuple[np.ndarray, Trend, float]:
    """See whether it fell since it was best: where its running mean of three stood highest."""
    way = Trend.RISING if curve[-1] > curve[0] else Trend.STEADY
    if len(y) < 2 * FEWEST:
        return curve, way, chance
    means = np.convolve(y, np.ones(FEWEST) / FEWEST, mode="valid")
    best = int(means.argmax())
    tail = slice(best, None)
    # The best was looked for, so that some fall after it is to be expected: a harder test.
    falling, down = _ordered(-y[tail], variance[tail])
    if len(y) - best <= FEWEST or down >= taken / len(means):
        return curve, way, chance
    before, _ = _ordered(y[:best], variance[:best]) if best else (np.empty(0), 1.0)
    return np.concatenate([np.minimum(before, -falling[0]), -falling]), Trend.FALLING, down


def _ordered(y: np.ndarray, variance: np.ndarray) -> tuple[np.ndarray, float]:
    """Give the best rising curve and the chance of its gain over a flat one from nothing."""
    weights = 1 / variance
    fit = isotonic_regression(y, weights=weights).x
    mean = np.average(y, weights=weights)
    gain = float(weights @ (fit - mean) ** 2)
    if gain < 1e-9:
        return fit, 1.0
    shares = np.array(_level_chances(len(y)))
    # The chance that a chi-square of 1, 2, … degrees of freedom exceeds the gain.
    beyond = gammaincc(np.arange(1, len(y)) / 2, gain / 2)
    tail = float(shares[1:] @ beyond)
    return fit, tail


@cache
def _level_chances(k: int) -> tuple[float, ...]:
    """Give the chances that the isotonic regression of k like values has 1, 2, … k levels.

    >>> [round(one, 4) for one in _level_chances(3)]
    [0.3333, 0.5, 0.1667]
    """
    counts = [1]  # unsigned Stirling numbers of the first kind, by recurrence
    for n in range(1, k):
        counts = [
            n * (counts[m] if m < n else 0) + (counts[m - 1] if m else 0) for m in range(n + 1)
        ]
    return tuple(count / factorial(k) for count in counts)


def _days(points: Sequence[Point]) -> float:
    """Estimate how much days differ beyond what was measured, as a variance."""
    usual = _DAYS_DIFFER**2
    if len(points) < 2:
        return usual
    steps = [
        (b.points - a.points) ** 2 / 2 - (a.sigma**2 + b.sigma**2) / 2
        for a, b in zip(points, points[1:], strict=False)
    ]
    seen = max(sum(steps) / len(steps), 0.0)
    return (_DRAWN * usual + len(steps) * seen) / (_DRAWN + len(steps))


def _doubt(curve: np.ndarray, variance: np.ndarray) -> np.ndarray:
    """Give half the width of the band that holds nine in ten, level by level."""
    doubt = np.empty(len(curve))
    for level in np.unique(curve):
        same = curve == level
        doubt[same] = 1.64 * sqrt(1 / (1 / variance[same]).sum())
    return doubt


def _since(points: Sequence[Point], curve: np.ndarray) -> int | None:
    """Give the week from which the level hardly changed, where two attempts or more show it."""
    near = np.abs(curve - curve[-1]) <= _SETTLED
    first = len(near)
    while first and near[first - 1]:
        first -= 1
    return points[first].week if len(near) - first >= 2 else None
