"""sRGB, for pictures that come in and swatches that are shown (IEC 61966-2-1)."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from noema.core.colour.adaptation import D50_TO_D65, D65_TO_D50
from noema.core.colour.lab import lab_to_xyz, xyz_to_lab

LINEAR_TO_XYZ_D65 = 100.0 * np.array(
    [
        [0.4124564, 0.3575761, 0.1804375],
        [0.2126729, 0.7151522, 0.0721750],
        [0.0193339, 0.1191920, 0.9503041],
    ]
)
LINEAR_TO_XYZ_D50 = D65_TO_D50 @ LINEAR_TO_XYZ_D65
XYZ_D50_TO_LINEAR = np.linalg.inv(LINEAR_TO_XYZ_D65) @ D50_TO_D65


def srgb_to_linear(srgb: ArrayLike) -> NDArray[np.float64]:
    """Undo the sRGB curve: encoded 0..1 to linear 0..1, any shape; the sign is kept."""
    value = np.asarray(srgb, dtype=float)
    size = np.abs(value)
    linear = np.where(size <= 0.04045, size / 12.92, ((size + 0.055) / 1.055) ** 2.4)
    return np.asarray(np.sign(value) * linear)


def linear_to_srgb(linear: ArrayLike) -> NDArray[np.float64]:
    """Apply the sRGB curve: linear 0..1 to encoded 0..1, any shape; the sign is kept."""
    value = np.asarray(linear, dtype=float)
    size = np.abs(value)
    curve = 1.055 * np.power(size, 1 / 2.4) - 0.055
    return np.asarray(np.sign(value) * np.where(size <= 0.0031308, size * 12.92, curve))


def linear_to_lab(linear_rgb: ArrayLike) -> NDArray[np.float64]:
    """Turn linear sRGB, shape (..., 3), unclipped, into Lab."""
    return xyz_to_lab(np.asarray(linear_rgb, dtype=float) @ LINEAR_TO_XYZ_D50.T)


def lab_to_linear(lab_d50: ArrayLike) -> NDArray[np.float64]:
    """Turn Lab, shape (..., 3), into linear sRGB, unclipped: strong paint leaves 0..1."""
    return lab_to_xyz(lab_d50) @ XYZ_D50_TO_LINEAR.T


def lab_to_bytes(lab_d50: ArrayLike) -> NDArray[np.uint8]:
    """Give the nearest colour a screen can show, 0..255, for Lab of shape (..., 3).

    >>> lab_to_bytes([100.0, 0.0, 0.0]).tolist()
    [255, 255, 255]
    """
    shown = np.clip(linear_to_srgb(lab_to_linear(lab_d50)), 0.0, 1.0)
    return np.rint(shown * 255.0).astype(np.uint8)


def lab_to_hex(lab_d50: ArrayLike) -> list[str]:
    """Give the nearest colour a screen can show for each row of an (n, 3) Lab array.

    >>> lab_to_hex([[100.0, 0.0, 0.0], [0.0, 0.0, 0.0]])
    ['#ffffff', '#000000']
    """
    digits = lab_to_bytes(lab_d50).tobytes().hex()
    return [f"#{digits[start : start + 6]}" for start in range(0, len(digits), 6)]
