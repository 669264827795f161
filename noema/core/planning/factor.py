"""A factor on something usual, learned from measurements: a Gaussian of its logarithm."""

from collections.abc import Iterable
from dataclasses import dataclass
from math import exp


@dataclass(frozen=True, kw_only=True)
class LearnedFactor:
    """A factor with its doubt; both are logarithms."""

    log_factor: float
    sigma: float
    count: int  # measurements it was learned from

    @property
    def factor(self) -> float:
        """The factor itself."""
        return exp(self.log_factor)


def factor_from(prior_sigma: float, measured: Iterable[tuple[float, float]]) -> LearnedFactor:
    """Learn a factor from logarithms, each with its own sigma; without any it is 1.

    >>> factor_from(0.3, [(0.4, 0.1)] * 3).factor > 1.4
    True
    """
    precision, weighed, count = prior_sigma**-2, 0.0, 0
    for log, sigma in measured:
        weight = sigma**-2
        precision += weight
        weighed += weight * log
        count += 1
    return LearnedFactor(log_factor=weighed / precision, sigma=precision**-0.5, count=count)
