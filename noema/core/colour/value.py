"""Value from luminance factor and back (ASTM D1535, the quintic; perfect diffuser = 100)."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

_QUINTIC = (0.00081939, -0.020484, 0.23352, -0.22533, 1.1914, 0.0)
_GRID_VALUE = np.linspace(0.0, 11.0, 2201)
_GRID_Y = np.polyval(_QUINTIC, _GRID_VALUE)


def value_to_y(value: ArrayLike) -> NDArray[np.float64]:
    """Give the luminance factor Y (0..100) of a value 0..10, any shape.

    >>> round(float(value_to_y(10.0)), 3), round(float(value_to_y(5.0)), 2)
    (100.0, 19.27)
    """
    return np.asarray(np.polyval(_QUINTIC, np.asarray(value, dtype=float)), dtype=float)


def y_to_value(luminance_y: ArrayLike) -> NDArray[np.float64]:
    """Give the value of a luminance factor Y (0..100), any shape; below 0 counts as 0.

    >>> round(float(y_to_value(19.27)), 3)
    5.0
    """
    y = np.clip(np.asarray(luminance_y, dtype=float), 0.0, _GRID_Y[-1])
    value = np.interp(y, _GRID_Y, _GRID_VALUE)
    slope = np.polyval(np.polyder(np.array(_QUINTIC)), value)
    return np.asarray(np.maximum(value - (value_to_y(value) - y) / slope, 0.0))


def lightness_to_value(lightness: ArrayLike) -> NDArray[np.float64]:
    """Give the value of a neutral of CIE lightness L* (0..100), any shape."""
    f = (np.asarray(lightness, dtype=float) + 16.0) / 116.0
    return y_to_value(
        100.0 * np.where(f > 6.0 / 29.0, f**3, (116.0 * f - 16.0) * (3.0 / 29.0) ** 3)
    )


def value_to_lab(value: ArrayLike) -> NDArray[np.float64]:
    """Give the neutral Lab colour, shape (..., 3), of values of any shape."""
    y = value_to_y(value) / 100.0
    lightness = np.where(
        y > (6.0 / 29.0) ** 3,
        116.0 * np.cbrt(np.maximum(y, 0.0)) - 16.0,
        y * (29.0 / 3.0) ** 3,
    )
    return np.stack([lightness, np.zeros_like(lightness), np.zeros_like(lightness)], axis=-1)
