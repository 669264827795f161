"""From a reflectance to a colour: CIE 1931 2 degree observer, illuminant D50, 10 nm bands."""

from pathlib import Path

import numpy as np
from numpy.typing import ArrayLike, NDArray

from noema.core.colour.lab import xyz_to_lab

_TABLE = np.loadtxt(Path(__file__).parent / "data" / "observer_d50.csv", delimiter=",", skiprows=3)
WAVELENGTHS_NM: NDArray[np.float64] = _TABLE[:, 0]
"""The 31 bands every spectrum here is given at, 400 to 700 nm."""

XYZ_WEIGHTS: NDArray[np.float64] = _TABLE[:, 1:]
"""What a reflectance of 1 in each band adds to XYZ, shape (31, 3); the sum is the D50 white."""


def reflectance_to_lab(reflectance: ArrayLike) -> NDArray[np.float64]:
    """Turn reflectances 0..1, shape (..., 31), into Lab.

    >>> [round(float(v), 2) + 0.0 for v in reflectance_to_lab([1.0] * 31)]
    [100.0, 0.0, 0.0]
    """
    return xyz_to_lab(np.asarray(reflectance, dtype=float) @ XYZ_WEIGHTS)
