"""A wide space to count in: linear BT.2020, in which nearly all paint keeps positive numbers."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from noema.core.colour.adaptation import D65_TO_D50
from noema.core.colour.lab import xyz_to_lab
from noema.core.colour.srgb import LINEAR_TO_XYZ_D50 as _SRGB_TO_XYZ

_TO_XYZ_D65 = 100.0 * np.array(
    [
        [0.6369580, 0.1446169, 0.1688810],
        [0.2627002, 0.6779981, 0.0593017],
        [0.0, 0.0280727, 1.0609851],
    ]
)  # from the primaries and white of ITU-R BT.2020-2, table 3

WIDE_TO_XYZ_D50 = D65_TO_D50 @ _TO_XYZ_D65
XYZ_D50_TO_WIDE = np.linalg.inv(WIDE_TO_XYZ_D50)
SRGB_TO_WIDE = XYZ_D50_TO_WIDE @ _SRGB_TO_XYZ
"""From linear sRGB; columns multiply the channels."""

WIDE_LUMINANCE = WIDE_TO_XYZ_D50[1] / 100.0
"""Share of each channel in luminance."""


def wide_to_lab(linear: ArrayLike) -> NDArray[np.float64]:
    """Turn linear BT.2020, shape (..., 3), into Lab.

    >>> [round(float(part), 1) + 0.0 for part in wide_to_lab([1.0, 1.0, 1.0])]
    [100.0, 0.0, 0.0]
    """
    return xyz_to_lab(np.asarray(linear, dtype=float) @ WIDE_TO_XYZ_D50.T)


def srgb_linear_to_wide(linear: ArrayLike) -> NDArray[np.float64]:
    """Turn linear sRGB, shape (..., 3), unclipped, into linear BT.2020."""
    return np.asarray(np.asarray(linear, dtype=float) @ SRGB_TO_WIDE.T)
