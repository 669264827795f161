"""Finding a threshold in few answers: QUEST+ (Watson 2017, Journal of Vision 17(3):10).

Whoever is asked is right by chance at small levels and nearly always at large ones; in between the
share right follows a Weibull function of the level over the threshold. Every threshold, slope and
share of lapses keeps a probability; the next level is the one whose answer is expected to leave the
least entropy in them, and each answer weighs them anew.
"""

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

SLOPES = (1.2, 2.0, 3.5)
"""Of a Weibull function: shallow for hard comparisons, 3.5 as usual for two shown at once."""

LAPSES = (0.01, 0.05)
"""Shares of answers given without looking."""

COVERS = 0.95
"""What share of the time the range given should hold the threshold."""

_THRESHOLDS, _LEVELS = 81, 41
_PRIOR_SIGMA = 0.9  # of the logarithm of a threshold: within a factor of six, nine times in ten
_FORGETS = 1.25  # by which an old result's sigma grows before new answers


@dataclass(frozen=True, kw_only=True)
class Found:
    """A threshold and its doubt."""

    threshold: float
    low: float
    high: float
    sigma_log: float


@dataclass(frozen=True, kw_only=True, eq=False)
class Quest:
    """What is known of one threshold so far."""

    guess: float  # share right by chance
    lowest: float  # level, in the threshold's own unit
    highest: float
    weights: Floats  # (thresholds, slopes, lapses), summing to 1

    @property
    def levels(self) -> Floats:
        """The levels that may be asked, evenly in their logarithm."""
        return np.geomspace(self.lowest, self.highest, _LEVELS)

    def next_level(self) -> float:
        """Give the level whose answer tells most."""
        right = _right(self.guess, self.lowest, self.highest)
        p = np.einsum("ltsk,tsk->l", right, self.weights)
        after_right = right * self.weights / p[:, None, None, None]
        after_wrong = (1.0 - right) * self.weights / (1.0 - p)[:, None, None, None]
        expected = p * _entropy(after_right) + (1.0 - p) * _entropy(after_wrong)
        return float(self.levels[int(np.argmin(expected))])

    def after(self, level: float, *, right: bool) -> "Quest":
        """Weigh everything anew by an answer; the level need be none of those offered."""
        likely = _weibull(np.array([level]), self.guess, self.lowest, self.highest)[0]
        weights = self.weights * (likely if right else 1.0 - likely)
        return replace(self, weights=weights / weights.sum())

    def found(self) -> Found:
        """Give the threshold: the median, and the range that should hold it."""
        logs = np.log(_thresholds(self.lowest, self.highest))
        share = self.weights.sum(axis=(1, 2))
        total = np.cumsum(share)
        low, middle, high = np.interp([(1 - COVERS) / 2, 0.5, (1 + COVERS) / 2], total, logs)
        mean = float(share @ logs)
        sigma = float(np.sqrt(share @ (logs - mean) ** 2))
        return Found(
            threshold=float(np.exp(middle)),
            low=float(np.exp(low)),
            high=float(np.exp(high)),
            sigma_log=sigma,
        )


def begin(
    *,
    guess: float,
    lowest: float,
    highest: float,
    usual: float,
    before: Found | None = None,
) -> Quest:
    """Begin from what is usual, or from what was found before, a little less sure than then.

    >>> quest = begin(guess=0.5, lowest=0.05, highest=3.0, usual=0.5)
    >>> 0.4 < quest.found().threshold < 0.6
    True
    """
    middle = usual if before is None else before.threshold
    sigma = _PRIOR_SIGMA if before is None else max(_FORGETS * before.sigma_log, 0.2)
    logs = np.log(_thresholds(lowest, highest))
    prior = np.exp(-0.5 * ((logs - np.log(middle)) / sigma) ** 2)
    weights = prior[:, None, None] * np.ones((1, len(SLOPES), len(LAPSES)))
    return Quest(guess=guess, lowest=lowest, highest=highest, weights=weights / weights.sum())


def _thresholds(lowest: float, highest: float) -> Floats:
    return np.geomspace(lowest, highest, _THRESHOLDS)


def _weibull(levels: Floats, guess: float, lowest: float, highest: float) -> Floats:
    """Give the share right at levels (l,): (l, thresholds, slopes, lapses), Watson's equation 2."""
    over = levels[:, None, None, None] / _thresholds(lowest, highest)[None, :, None, None]
    slope = np.array(SLOPES)[None, None, :, None]
    lapse = np.array(LAPSES)[None, None, None, :]
    seen = 1.0 - np.exp(-(over**slope))
    return np.asarray(guess + (1.0 - guess - lapse) * seen)


@lru_cache(maxsize=32)
def _right(guess: float, lowest: float, highest: float) -> Floats:
    return _weibull(np.geomspace(lowest, highest, _LEVELS), guess, lowest, highest)


def _entropy(weights: Floats) -> Floats:
    return np.asarray(-(weights * np.log(np.maximum(weights, 1e-300))).sum(axis=(1, 2, 3)))
