"""CIELAB and CIE XYZ under the D50 white (CIE 15:2004, section 8.2.1)."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

D50_XYZ = np.array([96.422, 100.0, 82.521])
"""The ICC profile connection white, scaled to Y = 100 (ICC.1:2022, 7.2.16)."""

_EPSILON = (6.0 / 29.0) ** 3
_KAPPA = (29.0 / 3.0) ** 3


def xyz_to_lab(xyz_d50: ArrayLike) -> NDArray[np.float64]:
    """Turn XYZ under D50 (Y = 100 for the perfect diffuser), shape (..., 3), into Lab.

    >>> [round(float(v), 2) for v in xyz_to_lab([96.422, 100.0, 82.521])]
    [100.0, 0.0, 0.0]
    """
    ratio = np.asarray(xyz_d50, dtype=float) / D50_XYZ
    f = np.where(
        ratio > _EPSILON, np.cbrt(np.maximum(ratio, _EPSILON)), (_KAPPA * ratio + 16.0) / 116.0
    )
    return np.stack(
        [
            116.0 * f[..., 1] - 16.0,
            500.0 * (f[..., 0] - f[..., 1]),
            200.0 * (f[..., 1] - f[..., 2]),
        ],
        axis=-1,
    )


def lab_to_xyz(lab_d50: ArrayLike) -> NDArray[np.float64]:
    """Turn Lab, shape (..., 3), into XYZ under D50 (Y = 100 for the perfect diffuser).

    >>> [round(float(v), 3) for v in lab_to_xyz([100.0, 0.0, 0.0])]
    [96.422, 100.0, 82.521]
    """
    lab = np.asarray(lab_d50, dtype=float)
    fy = (lab[..., 0] + 16.0) / 116.0
    f = np.stack([fy + lab[..., 1] / 500.0, fy, fy - lab[..., 2] / 200.0], axis=-1)
    ratio = np.where(f > 6.0 / 29.0, f**3, (116.0 * f - 16.0) / _KAPPA)
    return np.asarray(ratio * D50_XYZ)
