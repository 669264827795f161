"""What can be said of one cell, given how far it lies from its step and how sure that is."""

from enum import Enum
from statistics import NormalDist

from noema.core.language import N_

ENOUGH = 0.7
"""Probability a verdict must reach; below it the teacher is asked to look. 0.7 is a bet of more
than two to one: a lower bar would often be wrong, a higher one would say nothing near an edge."""

OFF_AT = 2.0
"""A cell is off, not just drifting, beyond twice the tolerance."""


class Verdict(Enum):
    """What is said of a cell."""

    HOLDS = N_("holds")  # within the tolerance of its step
    DRIFTS = N_("drifts")  # beyond the tolerance, not surely beyond twice
    OFF = N_("off")  # beyond twice the tolerance
    LOOK = N_("look yourself")  # the reading doesn't allow a verdict


def verdict_of(drift: float, sigma: float, tolerance: float) -> Verdict:
    """Judge a drift with a Gaussian doubt; all three in the same unit.

    >>> verdict_of(0.1, 0.1, 0.5), verdict_of(0.5, 0.3, 0.5)
    (<Verdict.HOLDS: 'holds'>, <Verdict.LOOK: 'look yourself'>)
    """
    seen = NormalDist(abs(drift), max(sigma, 1e-6))
    if seen.cdf(tolerance) - seen.cdf(-tolerance) >= ENOUGH:
        return Verdict.HOLDS
    if 1.0 - seen.cdf(OFF_AT * tolerance) >= ENOUGH:
        return Verdict.OFF
    # Whether it drifts or is off may stay open: that it strays to this side is enough to say.
    return Verdict.DRIFTS if 1.0 - seen.cdf(tolerance) >= ENOUGH else Verdict.LOOK
