"""How different two colours look: CIEDE2000 (Sharma, Wu and Dalal 2005, equations 2 to 22)."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

_POW7 = 25.0**7


def ciede2000(lab_one: ArrayLike, lab_two: ArrayLike) -> NDArray[np.float64]:
    """Give the CIEDE2000 difference of two Lab arrays of broadcasting shape (..., 3).

    >>> round(float(ciede2000([50.0, 2.6772, -79.7751], [50.0, 0.0, -82.7485])), 4)
    2.0425
    """
    one, two = np.broadcast_arrays(np.asarray(lab_one, float), np.asarray(lab_two, float))
    chroma_mean = (np.hypot(one[..., 1], one[..., 2]) + np.hypot(two[..., 1], two[..., 2])) / 2.0
    g = 0.5 * (1.0 - np.sqrt(chroma_mean**7 / (chroma_mean**7 + _POW7)))
    a1, a2 = one[..., 1] * (1.0 + g), two[..., 1] * (1.0 + g)
    c1, c2 = np.hypot(a1, one[..., 2]), np.hypot(a2, two[..., 2])
    h1 = np.degrees(np.arctan2(one[..., 2], a1)) % 360.0
    h2 = np.degrees(np.arctan2(two[..., 2], a2)) % 360.0

    neutral = c1 * c2 == 0.0
    turn = np.where(neutral, 0.0, (h2 - h1 + 180.0) % 360.0 - 180.0)
    # Equation 10 keeps exactly opposite hues at +180, where the modulus gives -180.
    turn = np.where((turn == -180.0) & (h2 > h1), 180.0, turn)
    delta_l = two[..., 0] - one[..., 0]
    delta_c = c2 - c1
    delta_h = 2.0 * np.sqrt(c1 * c2) * np.sin(np.radians(turn) / 2.0)

    l_mean, c_mean = (one[..., 0] + two[..., 0]) / 2.0, (c1 + c2) / 2.0
    apart = np.abs(h1 - h2) > 180.0
    h_mean = np.where(neutral, h1 + h2, (h1 + h2 + np.where(apart, 360.0, 0.0)) / 2.0) % 360.0
    t = (
        1.0
        - 0.17 * np.cos(np.radians(h_mean - 30.0))
        + 0.24 * np.cos(np.radians(2.0 * h_mean))
        + 0.32 * np.cos(np.radians(3.0 * h_mean + 6.0))
        - 0.20 * np.cos(np.radians(4.0 * h_mean - 63.0))
    )
    s_c, s_h = 1.0 + 0.045 * c_mean, 1.0 + 0.015 * c_mean * t
    rotation = -np.sin(np.radians(60.0 * np.exp(-(((h_mean - 275.0) / 25.0) ** 2)))) * (
        2.0 * np.sqrt(c_mean**7 / (c_mean**7 + _POW7))
    )
    light, chroma, hue = delta_l / lightness_weight(l_mean), delta_c / s_c, delta_h / s_h
    return np.asarray(np.sqrt(light**2 + chroma**2 + hue**2 + rotation * chroma * hue))


def lightness_weight(lightness: ArrayLike) -> NDArray[np.float64]:
    """Give S_L, by which a lightness difference at L* is divided (equation 15)."""
    away = (np.asarray(lightness, dtype=float) - 50.0) ** 2
    return np.asarray(1.0 + 0.015 * away / np.sqrt(20.0 + away), dtype=float)
