"""A picture in which a sheet lies beside something else: light and camera are taken off it all.

What the sheet's paper and patches tell of the light and the camera holds for what lies beside it as
well; of the light it is the nearest place of the sheet that counts.
"""

import cv2
import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import map_coordinates

from noema.core.colour.lab import lab_to_xyz
from noema.core.colour.srgb import linear_to_srgb
from noema.core.colour.wide import SRGB_TO_WIDE, WIDE_TO_XYZ_D50, XYZ_D50_TO_WIDE
from noema.core.errors import BadSheet
from noema.core.photo.parameters.doubt import DOUBT
from noema.core.photo.picture import Picture
from noema.core.photo.stages.colour import ColouredSheet, tone_and_colour
from noema.core.photo.stages.identify import identify
from noema.core.photo.stages.light import light
from noema.core.photo.stages.place import SheetToPlace, Sought, place
from noema.core.photo.straighten import to_page, to_picture
from noema.core.sheet.layout import Layout, box

Floats = NDArray[np.float64]

_LONGEST_PX = 1600  # of what is given
_AT_ONCE = 64  # rows
_LIGHT_EVERY = 16  # pixels between which the light is interpolated
_GRID, _BRIGHTEST = 25, 1.4  # colours a side that the camera is undone for; light over paper's
_LEAST_LEFT = 0.25  # of a side, beside the sheet, for anything to lie there


def as_it_is(picture: Picture, layout: Layout) -> Picture | None:
    """Give what lies beside a sheet as it would look in even light, in sRGB; None: no such sheet.

    The picture is cut beside the sheet, where most is left, and made smaller.
    """
    coloured = _read(picture, layout)
    if coloured is None:
        return None
    window = _left_over(coloured, layout)
    if window is None:
        return None
    top, bottom, left, right = window
    rgb = picture.rgb[top:bottom, left:right]
    by = max(1.0, max(rgb.shape[:2]) / _LONGEST_PX)
    size = (round(rgb.shape[1] / by), round(rgb.shape[0] / by))
    small = np.asarray(cv2.resize(rgb, size, interpolation=cv2.INTER_AREA), dtype=np.uint8)
    at = np.array([left, top], dtype=float)
    return Picture(rgb=_true(small, at, by, picture, coloured))


def _read(picture: Picture, layout: Layout) -> ColouredSheet | None:
    own = next((one for one in identify(picture).sheets if one.code == layout.qr_text), None)
    if own is None:
        return None
    sought = Sought(picture=picture, layout=layout)
    try:
        placed = place(SheetToPlace(sought=sought, found=own))
        lit = light(placed)
    except BadSheet:
        return None
    return tone_and_colour(lit) if placed.sound and not lit.dark else None


def _left_over(coloured: ColouredSheet, layout: Layout) -> tuple[int, int, int, int] | None:
    """Give the largest part beside the sheet: top, bottom, left, right, in pixels."""
    sheet = coloured.lit.sheet
    width, height = sheet.size_px
    corners = to_picture(sheet.placed, box(0.0, 0.0, layout.width_mm, layout.height_mm))
    low = np.clip(np.floor(corners.min(axis=0)).astype(int), 0, (width, height))
    high = np.clip(np.ceil(corners.max(axis=0)).astype(int), 0, (width, height))
    parts = [
        (0, int(low[1]), 0, width),
        (int(high[1]), height, 0, width),
        (0, height, 0, int(low[0])),
        (0, height, int(high[0]), width),
    ]
    best = max(parts, key=lambda one: (one[1] - one[0]) * (one[3] - one[2]))
    enough = best[1] - best[0] >= _LEAST_LEFT * height and best[3] - best[2] >= _LEAST_LEFT * width
    return best if enough else None


def _true(
    small: NDArray[np.uint8], at: Floats, by: float, picture: Picture, coloured: ColouredSheet
) -> NDArray[np.uint8]:
    """Undo light and camera, some rows at a time."""
    table, lights = _table(coloured), _light_over(small.shape[:2], at, by, coloured)
    out = np.empty_like(small)
    for row in range(0, len(small), _AT_ONCE):
        part = slice(row, row + _AT_ONCE)
        linear = np.asarray(picture.linear(small[part]), dtype=np.float32)
        raw = np.clip(linear / np.maximum(lights[part], 1e-4), 0.0, _BRIGHTEST)
        where = np.sqrt(raw / _BRIGHTEST).reshape(-1, 3).T * (_GRID - 1)
        for channel in range(3):
            found = map_coordinates(table[..., channel], where, order=1)
            out[part][..., channel] = np.rint(found).reshape(raw.shape[:2])
    return out


def _table(coloured: ColouredSheet) -> Floats:
    """Give sRGB, 0 to 255, for a grid of colours relative to paper, closer in the dark.

    The curve is taken as it is where the sheet's middle is lit.
    """
    seeing, page = coloured.seeing, coloured.lit.page
    middle = page.light.at(np.array([page.light.size_mm]) / 2.0)
    steps = _BRIGHTEST * np.linspace(0.0, 1.0, _GRID) ** 2
    raw = np.stack(np.meshgrid(steps, steps, steps, indexing="ij"), axis=-1).reshape(-1, 3)
    raw = np.maximum(raw, DOUBT.least)
    toned = seeing.tone.true(raw, np.repeat(middle, len(raw), axis=0)) @ seeing.to_wide.T
    paper = lab_to_xyz(seeing.paper[0]) / lab_to_xyz([100.0, 0.0, 0.0])
    xyz = paper * (seeing.fit.true(toned) @ WIDE_TO_XYZ_D50.T)
    to_srgb = np.linalg.inv(SRGB_TO_WIDE) @ XYZ_D50_TO_WIDE
    srgb = linear_to_srgb(np.clip(xyz @ to_srgb.T, 0.0, 1.0))
    return np.asarray(255.0 * srgb.reshape(_GRID, _GRID, _GRID, 3))


def _light_over(
    shape: tuple[int, ...], at: Floats, by: float, coloured: ColouredSheet
) -> NDArray[np.float32]:
    """Give paper's light (h, w, 3) as it is at the nearest place of the sheet."""
    page = coloured.lit.page
    rows, columns = (np.arange(0, side + _LIGHT_EVERY, _LIGHT_EVERY) for side in shape)
    x, y = np.meshgrid(columns, rows)
    points = at + by * np.stack([x.ravel(), y.ravel()], axis=-1)
    on_page = to_page(coloured.lit.sheet.placed, points)
    nearest = np.clip(on_page, 0.0, np.array(page.light.size_mm))
    coarse = page.light.at(nearest).reshape(*x.shape, 3).astype(np.float32)
    size = (coarse.shape[1] * _LIGHT_EVERY, coarse.shape[0] * _LIGHT_EVERY)
    fine = cv2.resize(coarse, size, interpolation=cv2.INTER_LINEAR)
    return np.asarray(fine[: shape[0], : shape[1]], dtype=np.float32)
