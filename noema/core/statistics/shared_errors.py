"""What values tell of unknowns where groups of them err together: linear Gaussian, by information.

Information is a precision matrix and that matrix times the mean, so that what independent groups
tell is added up (Bishop 2006, Pattern Recognition and Machine Learning, section 2.3).
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Self

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, eq=False)
class Told:
    """What is told of n unknowns."""

    precision: Floats  # (n, n), of any rank
    weighted: Floats  # (n,): precision times mean

    @classmethod
    def nothing(cls, size: int) -> Self:
        """Give no information."""
        return cls(precision=np.zeros((size, size)), weighted=np.zeros(size))

    @classmethod
    def of(cls, mean: Floats, covariance: Floats) -> Self:
        """Give a Gaussian's."""
        precision: Floats = np.asarray(np.linalg.inv(covariance), dtype=np.float64)
        return cls(precision=precision, weighted=precision @ mean)

    def __add__(self, other: "Told") -> "Told":
        return Told(
            precision=self.precision + other.precision, weighted=self.weighted + other.weighted
        )

    def blurred(self, covariance: Floats) -> "Told":
        """Give what is left of it where one more error, of a covariance (n, n), lies on all."""
        left = np.eye(len(self.weighted)) - self.precision @ np.linalg.inv(
            self.precision + np.linalg.inv(covariance)
        )
        return Told(precision=left @ self.precision, weighted=left @ self.weighted)

    def moments(self) -> tuple[Floats, Floats]:
        """Give mean (n,) and covariance (n, n), where everything is told."""
        covariance: Floats = np.asarray(np.linalg.inv(self.precision), dtype=np.float64)
        return covariance @ self.weighted, covariance


@dataclass(frozen=True, kw_only=True, eq=False)
class Values:
    """Values (m,) of a linear design (m, n) of unknowns; a group errs in `shared` (m, q)."""

    values: Floats
    design: Floats
    shared: Floats
    error: Floats  # (m, m) covariance of what is each value's own


def told_by(group: Sequence[Values], covariance: Floats) -> Told:
    """Say what a group tells whose shared errors have a covariance (q, q)."""
    unknowns, errors = group[0].design.shape[1], len(covariance)
    both = Told.nothing(unknowns + errors)
    for one in group:
        design = np.hstack([one.design, one.shared])
        told = design.T @ np.linalg.inv(one.error)
        both += Told(precision=told @ design, weighted=told @ one.values)
    own, rest = slice(0, unknowns), slice(unknowns, None)
    of_errors = both.precision[rest, rest] + np.linalg.inv(covariance)
    through = both.precision[own, rest] @ np.linalg.inv(of_errors)
    return Told(
        precision=both.precision[own, own] - through @ both.precision[rest, own],
        weighted=both.weighted[own] - through @ both.weighted[rest],
    )
