"""What all cells of a sheet share: a lamp's cast or a print's, which is nobody's mistake.

A photograph's colours err together far more than apart. So before one cell is said to stray, what
the others stray too is taken off: an offset and a gain in each of L*, a* and b*, fitted robustly
(with the weights of a Cauchy likelihood) and held small by a prior, since one mistake can also run
all over a sheet.
"""

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]

FEWEST_CELLS = 5
"""Cells from which something can be said to be shared."""

_OFFSET_SIGMA = (1.6, 1.6, 2.0)  # L*, a*, b*: how far sheets of the reader's stray as a whole
_GAIN_SIGMA = (1.2, 1.6, 2.0)  # the same, at the edges of what is painted
_FAR = 1.2  # sigmas at which a cell pulls half as hard
_TURNS = 12
_SPAN = (25.0, 30.0, 30.0)  # of L*, a* and b* from their middle to their edge
_MIDDLE = (55.0, 0.0, 0.0)


def shared_drift(expected_lab: ArrayLike, painted_lab: ArrayLike, sigma_lab: ArrayLike) -> Floats:
    """Give what the cells share of their drifts, (n, 3) in Lab; zeros for fewer than five.

    Expected and painted Lab are (n, 3), one sigma of each painted colour is (n,).
    """
    expected, painted = np.asarray(expected_lab, float), np.asarray(painted_lab, float)
    sigma = np.asarray(sigma_lab, float)
    if len(expected) < FEWEST_CELLS:
        return np.zeros_like(expected)
    off = painted - expected
    return np.stack([_fitted(expected[:, axis], off[:, axis], sigma, axis) for axis in range(3)], 1)


def _fitted(place: Floats, off: Floats, sigma: Floats, axis: int) -> Floats:
    """Fit an offset and a gain with their priors, cells far off hardly pulling."""
    design = np.stack([np.ones_like(place), (place - _MIDDLE[axis]) / _SPAN[axis]], axis=1)
    prior = np.diag([_OFFSET_SIGMA[axis] ** -2, _GAIN_SIGMA[axis] ** -2])
    pull = sigma**-2.0
    fit: Floats = np.zeros(2)
    for _ in range(_TURNS):
        away = np.abs(off - design @ fit) / sigma
        weight = pull / (1.0 + (away / _FAR) ** 2)
        fit = np.asarray(
            np.linalg.solve(design.T * weight @ design + prior, design.T * weight @ off)
        )
    return np.asarray(design @ fit)
