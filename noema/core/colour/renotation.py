"""The renotation tables as one regular grid of chromaticities (ASTM D1535, illuminant C).

Between tabulated points Centore (2012) is followed: along a hue ovoid in a straight line or an
arc as the table says, in chroma linearly, between value planes linearly in luminance. Above the
tabulated chroma the last step is carried on; whoever asks is told so.
"""

from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.adaptation import C_XY
from noema.core.colour.value import value_to_y

Floats = NDArray[np.float64]

HUE_STEP = 2.5
CHROMA_STEP = 2.0
VALUE_PLANES = np.array([0.2, 0.4, 0.6, 0.8, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10], dtype=float)
MAX_CHROMA = 60.0

_TABLE = Path(__file__).parent / "data" / "renotation.csv"


@dataclass(frozen=True, kw_only=True, eq=False)
class Grid:
    """Polar chromaticities around illuminant C on value plane x hue x chroma."""

    x: Floats  # (14, 40, 31) x minus that of C
    y: Floats  # (14, 40, 31) y minus that of C
    straight: NDArray[np.bool_]  # (14, 40, 31) straight line to the next hue, else an arc
    tabulated: Floats  # (14, 40) highest chroma that stands in the table
    plane_y: Floats  # (14,) luminance factor of each plane


def _read() -> Floats:
    return np.loadtxt(_TABLE, delimiter=",", skiprows=5)


def _carry_on(axis: Floats, known: NDArray[np.bool_]) -> None:
    """Fill each ovoid's missing outer chromas, in place, by repeating its last step."""
    for level in range(2, axis.shape[2]):
        ahead = 2.0 * axis[:, :, level - 1] - axis[:, :, level - 2]
        axis[:, :, level] = np.where(known[:, :, level], axis[:, :, level], ahead)


def _load() -> Grid:
    table = _read()
    shape = (len(VALUE_PLANES), 40, int(MAX_CHROMA / CHROMA_STEP) + 1)
    x, y = np.zeros(shape), np.zeros(shape)
    straight = np.zeros(shape, dtype=bool)
    known = np.zeros(shape, dtype=bool)
    plane = np.searchsorted(VALUE_PLANES, table[:, 1])
    place = (plane, (table[:, 0] / HUE_STEP).astype(int), (table[:, 2] / CHROMA_STEP).astype(int))
    x[place], y[place] = table[:, 3] - C_XY[0], table[:, 4] - C_XY[1]
    straight[place] = table[:, 6] > 0
    known[place] = True
    known[-1] = True  # at value 10 there is only white
    straight[:, :, 0] = True
    _carry_on(x, known)
    _carry_on(y, known)
    tabulated = known[:, :, 1:].sum(axis=2) * CHROMA_STEP
    return Grid(x=x, y=y, straight=straight, tabulated=tabulated, plane_y=value_to_y(VALUE_PLANES))


GRID = _load()


def _ovoid(
    plane: NDArray[np.intp], hue: NDArray[np.intp], level: NDArray[np.intp], along: Floats
) -> tuple[Floats, Floats]:
    """Give the point `along` (0..1) the ovoid from one tabulated hue to the next."""
    after = (hue + 1) % 40
    x0, y0 = GRID.x[plane, hue, level], GRID.y[plane, hue, level]
    x1, y1 = GRID.x[plane, after, level], GRID.y[plane, after, level]
    x, y = x0 + along * (x1 - x0), y0 + along * (y1 - y0)
    arc = ~GRID.straight[plane, hue, level] & (plane < len(VALUE_PLANES) - 1)
    if not arc.any():
        return x, y
    phi0 = np.arctan2(y0, x0)
    turn = (np.arctan2(y1, x1) - phi0 + np.pi) % (2 * np.pi) - np.pi
    r0 = np.hypot(x0, y0)
    radius, phi = r0 + along * (np.hypot(x1, y1) - r0), phi0 + along * turn
    return np.where(arc, radius * np.cos(phi), x), np.where(arc, radius * np.sin(phi), y)


def _on_plane(plane: NDArray[np.intp], hue100: Floats, chroma: Floats) -> tuple[Floats, Floats]:
    place = (hue100 / HUE_STEP) % 40.0
    hue = np.minimum(place.astype(int), 39)
    rank = np.clip(chroma / CHROMA_STEP, 0.0, MAX_CHROMA / CHROMA_STEP)
    level = np.minimum(rank.astype(int), int(MAX_CHROMA / CHROMA_STEP) - 1)
    x0, y0 = _ovoid(plane, hue, level, place - hue)
    x1, y1 = _ovoid(plane, hue, level + 1, place - hue)
    part = rank - level
    return x0 + part * (x1 - x0), y0 + part * (y1 - y0)


def chromaticity(hue100: Floats, value: Floats, chroma: Floats) -> tuple[Floats, Floats]:
    """Give x and y under illuminant C, less those of C itself, for flat arrays of HVC."""
    clipped = np.clip(value, VALUE_PLANES[0], VALUE_PLANES[-1])
    below = np.clip(np.searchsorted(VALUE_PLANES, clipped, side="right") - 1, 0, 12)
    y_below, y_above = GRID.plane_y[below], GRID.plane_y[below + 1]
    part = (value_to_y(clipped) - y_below) / (y_above - y_below)
    x0, y0 = _on_plane(below, hue100, chroma)
    x1, y1 = _on_plane(below + 1, hue100, chroma)
    return x0 + part * (x1 - x0), y0 + part * (y1 - y0)


def tabulated_chroma(hue100: Floats, value: Floats) -> Floats:
    """Give the chroma up to which the table reaches near a hue and value, for flat arrays."""
    plane = np.clip(np.searchsorted(VALUE_PLANES, value, side="right") - 1, 0, 12)
    hue = (hue100 / HUE_STEP).astype(int) % 40
    upper = np.minimum(plane + 1, 12)
    return np.asarray(np.minimum(GRID.tabulated[plane, hue], GRID.tabulated[upper, hue]))
