"""Gaussian processes and linear models with Gaussian errors.

Equations are those of Rasmussen and Williams 2006, Gaussian Processes for Machine Learning.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]

_MUCH = 1e30  # keeps a bordered matrix positive, whatever its border


def squared_exponential(apart: Floats, reach: ArrayLike) -> Floats:
    """Give the correlation (...) of places that lie apart (..., d), which falls over a reach (d,).

    Equation 4.9.

    >>> squared_exponential(np.array([[0.0, 0.0]]), 5.0).tolist()
    [1.0]
    """
    return np.asarray(np.exp(-0.5 * np.sum((apart / np.asarray(reach)) ** 2, axis=-1)))


def negative_log_likelihood(values: Floats, covariance: Floats) -> float:
    """Give twice the negative logarithm of how likely values (n,) are, but for a constant.

    Of several columns (n, k) alike, the mean is given. Equation 2.30.
    """
    size, rows = len(values), values.reshape(len(values), -1).T
    # One factor for both terms: the rows below it come out as the values over the factor.
    whole = np.empty((size + len(rows), size + len(rows)))
    whole[:size, :size] = covariance
    whole[size:, :size], whole[:size, size:] = rows, rows.T
    whole[size:, size:] = _MUCH * np.eye(len(rows))
    factor = np.linalg.cholesky(whole)
    fit = float(np.sum(factor[size:, :size] ** 2)) / len(rows)
    return fit + 2.0 * float(np.sum(np.log(np.diag(factor)[:size])))


@dataclass(frozen=True, kw_only=True, eq=False)
class LeftOut:
    """A process fitted to noisy values, and what each is when it is left out."""

    precision: Floats  # (n, n)
    weights: Floats  # (n, ...) of the kernel at each place
    miss: Floats  # (n, ...) each value less what all others make of it
    variance: Floats  # (n,) of that


def leave_one_out(shared: Floats, noise: Floats, values: Floats) -> LeftOut:
    """Fit values (n, ...) that share a covariance (n, n) beside noise (n,) of their own.

    Equations 2.23 and 5.12.
    """
    precision = np.asarray(np.linalg.inv(shared + np.diag(noise)), dtype=np.float64)
    own = np.diagonal(precision)
    weights = np.asarray(precision @ values)
    miss = weights / own.reshape(-1, *[1] * (values.ndim - 1))
    return LeftOut(precision=precision, weights=weights, miss=miss, variance=1.0 / own)


def with_blocks(shared: Floats, blocks: Floats) -> Floats:
    """Give a covariance (n d, n d) of rows with blocks (n, d, d) of each row's own added."""
    count, size = blocks.shape[:2]
    whole, rows = shared.copy(), np.arange(count)
    whole.reshape(count, size, count, size)[rows, :, rows, :] += blocks
    return whole


def leave_out_blocks(shared: Floats, noise: Floats, values: Floats) -> tuple[Floats, Floats]:
    """Give what each row of values (n, d) misses of what all others make of it; its covariance too.

    Rows share a covariance (n d, n d), row by row, beside noise (n, d, d) of their own. Gives
    (n, d) and (n, d, d). Equations 5.12, of blocks.
    """
    count, size = values.shape
    rows = np.arange(count)
    precision = np.linalg.inv(with_blocks(shared, noise))
    own = np.linalg.inv(precision.reshape(count, size, count, size)[rows, :, rows, :])
    weights = (precision @ values.reshape(-1)).reshape(count, size, 1)
    return np.asarray((own @ weights)[..., 0]), np.asarray(own)


def posterior_mean(prior: Floats, rest: Floats, values: Floats) -> Floats:
    """Give the mean (n,) of a process of a prior (n, n), seen in values beside the rest (n, n).

    Equation 2.23.
    """
    return np.asarray(prior @ np.linalg.solve(rest + prior, values))


def updated(
    mean: Floats, covariance: Floats, design: Floats, values: Floats, error: Floats | None = None
) -> tuple[Floats, Floats]:
    """Move a Gaussian prior of weights (t,) by values (n,) of a linear design (n, t).

    Errors of values have a covariance (n, n), or are of one and independent. Equations 2.7, 2.8.
    """
    told = design.T if error is None else design.T @ np.linalg.inv(error)
    before = np.linalg.inv(covariance)
    after = np.linalg.inv(before + told @ design)
    return np.asarray(after @ (before @ mean + told @ values)), np.asarray(after)
