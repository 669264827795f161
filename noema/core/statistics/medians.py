"""Medians, many and quickly."""

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]


def median_of(values: NDArray[np.generic]) -> Floats:
    """Give the median of rows (n, ...) of at least one; of an even number, the upper of two.

    >>> median_of(np.array([3.0, 1.0, 2.0])).tolist()
    2.0
    """
    half = len(values) // 2
    return np.asarray(np.partition(values, half, axis=0)[half], dtype=np.float64)


def medians_by(values: Floats, group: NDArray[np.intp], fewest: int) -> Floats:
    """Give the median of values (n,) of each group (n,) that has so many, in order of groups.

    >>> medians_by(np.array([5.0, 1.0, 9.0, 2.0]), np.array([1, 0, 1, 1]), fewest=2).tolist()
    [5.0]
    """
    order = np.lexsort((values, group))
    _, starts, counts = np.unique(group[order], return_index=True, return_counts=True)
    many = counts >= fewest
    return np.asarray(values[order[starts[many] + counts[many] // 2]])
