"""Seeing a colour under another white: the Bradford transform (ICC.1:2022, annex E)."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from noema.core.colour.lab import D50_XYZ

D65_XYZ = np.array([95.047, 100.0, 108.883])
"""Daylight D65, 2 degree observer (IEC 61966-2-1)."""

C_XY = (0.31006, 0.31616)
"""Chromaticity of illuminant C, 2 degree observer (ASTM D1535)."""

C_XYZ = np.array([C_XY[0] / C_XY[1] * 100.0, 100.0, (1.0 - sum(C_XY)) / C_XY[1] * 100.0])

_BRADFORD = np.array(
    [[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]]
)


def bradford(from_white_xyz: ArrayLike, to_white_xyz: ArrayLike) -> NDArray[np.float64]:
    """Give the 3 x 3 matrix that adapts a column of XYZ from one white to another.

    >>> [round(float(v), 3) for v in bradford(D65_XYZ, D50_XYZ) @ D65_XYZ]
    [96.422, 100.0, 82.521]
    """
    source = _BRADFORD @ np.asarray(from_white_xyz, dtype=float)
    target = _BRADFORD @ np.asarray(to_white_xyz, dtype=float)
    return np.asarray(np.linalg.inv(_BRADFORD) @ np.diag(target / source) @ _BRADFORD)


D65_TO_D50 = bradford(D65_XYZ, D50_XYZ)
D50_TO_D65 = bradford(D50_XYZ, D65_XYZ)
D50_TO_C = bradford(D50_XYZ, C_XYZ)
C_TO_D50 = bradford(C_XYZ, D50_XYZ)
