"""Scale and fits that a few wrong values hardly move (Huber and Ronchetti 2009)."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.statistics.medians import median_of

Floats = NDArray[np.float64]

NORMAL = 1.4826
"""One sigma of a normal distribution over its median absolute deviation."""


def robust_sigma(away: Floats) -> Floats:
    """Give one sigma of deviations (n, ...) from their median absolute one.

    >>> float(robust_sigma(np.array([1.0, -1.0, 1.0, 90.0])))
    1.4826
    """
    return np.asarray(NORMAL * np.median(np.abs(away), axis=0))


def quick_sigma(away: Floats) -> Floats:
    """Give the same of many values, by the upper of two medians, which needs no sorting."""
    return np.asarray(NORMAL * median_of(np.abs(away)))


@dataclass(frozen=True, kw_only=True, eq=False)
class TrimmedFit:
    """A linear fit from which what lies far off was left out."""

    coefficients: Floats  # (terms, channels)
    left: Floats  # (n, channels) residuals, of what was left out as well
    sigma: float  # robust, of a channel's residual


def trimmed_fit(
    terms: Floats, values: Floats, *, far: float, least: float, rounds: int
) -> TrimmedFit:
    """Fit values (n, channels) by terms (n, terms), leaving out what lies `far` sigmas off.

    No sigma is taken to be under `least`; each of the rounds, at least one, looks at all again.
    """
    weight = np.ones(len(values))
    channels = values.shape[1]
    for _ in range(rounds):
        solved = np.linalg.lstsq(terms * weight[:, None], values * weight[:, None])[0]
        coefficients = np.asarray(solved, dtype=np.float64)
        left = values - terms @ coefficients
        size = np.linalg.norm(left, axis=1) / np.sqrt(channels)
        sigma = max(float(robust_sigma(size)), least)
        weight = (size < far * sigma).astype(float)
    return TrimmedFit(coefficients=coefficients, left=left, sigma=sigma)
