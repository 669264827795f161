"""Hue, value and chroma of a colour, and the colour of a hue, value and chroma (ASTM D1535).

Hues run 0..100 with 5R = 5, 5YR = 15, ... 5RP = 95. Below `NEUTRAL_CHROMA` nobody can name a
hue: it is given as not-a-number and the notation says N.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from noema.core.colour.adaptation import C_TO_D50, C_XY, C_XYZ, D50_TO_C
from noema.core.colour.lab import lab_to_xyz, xyz_to_lab
from noema.core.colour.renotation import MAX_CHROMA, chromaticity, tabulated_chroma
from noema.core.colour.value import value_to_y, y_to_value

Floats = NDArray[np.float64]

NEUTRAL_CHROMA = 0.3
"""Chroma under which a hue isn't named: a third of the smallest difference seen side by side."""

FAMILIES = ("R", "YR", "Y", "GY", "G", "BG", "B", "PB", "P", "RP")

_CLOSE_ENOUGH = 1e-6  # of chromaticity: a hundredth of the table's last digit
_MOST_TURNS, _SETTLED = 40, 8
_CHUNK = 65536  # colours solved at once: keeps the working arrays in the cache


@dataclass(frozen=True, kw_only=True)
class HVC:
    """One colour in a painter's terms."""

    hue100: float | None  # 0..100, None for a neutral
    value: float  # 0 black .. 10 white
    chroma: float  # 0 neutral, paint rarely above 18

    @property
    def notation(self) -> str:
        """The hue as D1535 writes it, such as 5.0R, or N for a neutral."""
        if self.hue100 is None:
            return "N"
        tenth = round(self.hue100, 1) % 100.0
        family, step = divmod(tenth, 10.0)
        if round(step, 1) == 0.0:
            return f"10.0{FAMILIES[int(family) - 1]}"
        return f"{step:.1f}{FAMILIES[int(family)]}"


def hvc_to_lab(hvc: ArrayLike) -> Floats:
    """Turn (hue100, value, chroma), shape (..., 3), into Lab; a hue of NaN counts as neutral.

    >>> [round(float(v), 1) for v in hvc_to_lab([5.0, 5.0, 10.0])]
    [51.4, 44.4, 22.8]
    """
    given = np.asarray(hvc, dtype=float)
    hue, value, chroma = (given[..., i].ravel() for i in range(3))
    named = np.isfinite(hue)
    dx, dy = chromaticity(np.where(named, hue, 0.0), value, np.where(named, chroma, 0.0))
    x, y = C_XY[0] + dx, np.maximum(C_XY[1] + dy, 1e-6)
    luminance = value_to_y(value)
    xyz = np.stack([luminance * x / y, luminance, luminance * (1.0 - x - y) / y], axis=-1)
    return xyz_to_lab(xyz @ C_TO_D50.T).reshape(given.shape)


def lab_of(hvcs: Sequence[HVC]) -> Floats:
    """Give the Lab (n, 3) of colours in a painter's terms."""
    return hvc_to_lab(
        [(np.nan if one.hue100 is None else one.hue100, one.value, one.chroma) for one in hvcs]
    )


def lab_to_hvc(lab_d50: ArrayLike) -> Floats:
    """Turn Lab, shape (..., 3), into (hue100, value, chroma); hue is NaN for a neutral.

    >>> [round(float(v), 1) for v in lab_to_hvc([51.42, 44.43, 22.82])]
    [5.0, 5.0, 10.0]
    """
    given = np.asarray(lab_d50, dtype=float)
    flat = given.reshape(-1, 3)
    solved = [_solve(flat[start : start + _CHUNK]) for start in range(0, len(flat), _CHUNK)]
    return np.concatenate([*solved, np.empty((0, 3))]).reshape(given.shape)


def hvc_of(lab_d50: ArrayLike) -> HVC:
    """Give the hue, value and chroma of one Lab colour."""
    return hvcs_of(np.asarray(lab_d50, dtype=float)[None])[0]


def hvcs_of(lab_d50: ArrayLike) -> list[HVC]:
    """Give the hue, value and chroma of each row of Lab (n, 3), worked out together."""
    return [
        HVC(hue100=None if np.isnan(hue) else hue, value=value, chroma=chroma)
        for hue, value, chroma in lab_to_hvc(np.asarray(lab_d50, float).reshape(-1, 3)).tolist()
    ]


def hue_gap(hues100: ArrayLike, hue100: float) -> Floats:
    """Give how many hue steps apart hues of any shape are from one, the shorter way round.

    >>> hue_gap([95.0, 5.0], 3.0).tolist()
    [8.0, 2.0]
    """
    return np.asarray(np.abs((np.asarray(hues100, dtype=float) - hue100 + 50.0) % 100.0 - 50.0))


def is_extrapolated(hvc: ArrayLike) -> NDArray[np.bool_]:
    """Say which (hue100, value, chroma), shape (..., 3), lie beyond the tabulated chroma."""
    given = np.asarray(hvc, dtype=float)
    hue, value, chroma = (given[..., i].ravel() for i in range(3))
    named = np.isfinite(hue)
    reach = tabulated_chroma(np.where(named, hue, 0.0), value)
    beyond = named & ((chroma > reach) | (value < 1.0) | (value > 9.0))
    return np.asarray(beyond.reshape(given.shape[:-1]))


def _solve(lab_d50: Floats) -> Floats:
    xyz = lab_to_xyz(lab_d50) @ D50_TO_C.T
    total = np.maximum(xyz.sum(axis=1), 1e-9)
    dark = xyz[:, 1] <= 1e-6
    dx = np.where(dark, 0.0, xyz[:, 0] / total - C_XY[0])
    dy = np.where(dark, 0.0, xyz[:, 1] / total - C_XY[1])
    value = y_to_value(xyz[:, 1] * 100.0 / C_XYZ[1])
    hue, chroma = _hue_and_chroma(dx, dy, value)
    neutral = chroma < NEUTRAL_CHROMA
    return np.stack([np.where(neutral, np.nan, hue), value, np.where(neutral, 0.0, chroma)], -1)


def _first_guess(dx: Floats, dy: Floats, value: Floats) -> tuple[Floats, Floats]:
    """Start from the hue whose ray at chroma 8, value 5 lies nearest in angle."""
    hues = np.arange(0.0, 100.0, 0.5)
    x, y = chromaticity(hues, np.full_like(hues, 5.0), np.full_like(hues, 8.0))
    angles = np.arctan2(y, x)
    order = np.argsort(angles)
    nearest = np.searchsorted(angles[order], np.arctan2(dy, dx)) % len(hues)
    hue = hues[order][nearest]
    x8, y8 = chromaticity(hue, value, np.full_like(hue, 8.0))
    return hue, np.clip(8.0 * np.hypot(dx, dy) / np.maximum(np.hypot(x8, y8), 1e-6), 0.0, 40.0)


def _hue_and_chroma(dx: Floats, dy: Floats, value: Floats) -> tuple[Floats, Floats]:
    """Find hue and chroma whose chromaticity is (dx, dy) from C, by damped Newton steps."""
    hue, chroma = _first_guess(dx, dy, value)
    best_hue, best_chroma, best = hue.copy(), chroma.copy(), np.full_like(hue, np.inf)
    left = np.arange(len(hue))
    for turn in range(_MOST_TURNS):
        h, c, v = hue[left], chroma[left], value[left]
        x, y = chromaticity(h, v, c)
        miss_x, miss_y = dx[left] - x, dy[left] - y
        miss = np.hypot(miss_x, miss_y)
        nearer = miss < best[left]
        better = left[nearer]
        best[better], best_hue[better], best_chroma[better] = miss[nearer], h[nearer], c[nearer]
        # No colour is so intense that it stays at the table's end for long.
        open_ = (miss > _CLOSE_ENOUGH) & ~((turn > _SETTLED) & (c >= MAX_CHROMA))
        left = left[open_]
        if not len(left):
            break
        step = _newton_step(
            h[open_], v[open_], c[open_], x[open_], y[open_], miss_x[open_], miss_y[open_]
        )
        ease = 1.0 if turn < 12 else 0.5
        hue[left] = (h[open_] + ease * step[0]) % 100.0
        chroma[left] = np.clip(c[open_] + ease * step[1], 0.02, MAX_CHROMA)
    return best_hue, best_chroma


def _newton_step(
    hue: Floats, value: Floats, chroma: Floats, x: Floats, y: Floats, miss_x: Floats, miss_y: Floats
) -> tuple[Floats, Floats]:
    """Solve the 2 x 2 system for the change of hue and chroma, bounded for safety."""
    nudge = 0.01
    xh, yh = chromaticity((hue + nudge) % 100.0, value, chroma)
    xc, yc = chromaticity(hue, value, chroma + nudge)
    a, b, c, d = (xh - x) / nudge, (xc - x) / nudge, (yh - y) / nudge, (yc - y) / nudge
    det = a * d - b * c
    det = np.where(np.abs(det) < 1e-12, np.copysign(1e-12, det), det)
    turn = (d * miss_x - b * miss_y) / det
    out = (a * miss_y - c * miss_x) / det
    return np.clip(turn, -8.0, 8.0), np.clip(out, -6.0, 6.0)
