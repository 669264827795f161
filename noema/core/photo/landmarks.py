"""Printed things whose places are known, looked for where they should be.

Marks alone can mislead: a blurred one lies, three may all be a little wrong, curled paper rises
between them. Patches and the outlines of cells show where the page really is.
"""

from dataclasses import dataclass, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.bend import fit_bend
from noema.core.photo.knowledge import CARD_SOURCE, TUBE_SOURCE
from noema.core.photo.parameters.place import PLACE, PlaceParameters
from noema.core.photo.straighten import Placed, straighten, to_page, to_picture
from noema.core.sheet.layout import Layout, PatchKind, Polygon

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, eq=False)
class Landmarks:
    """What was found of what was looked for."""

    points_mm: Floats  # (n, 2)
    shifts_mm: Floats  # (n, 2) how far from there it was seen
    sigma_mm: Floats  # (n,)
    patches_tried: int
    patches_found: int


@dataclass(frozen=True, kw_only=True, eq=False)
class Registered:
    """A page placed by everything that could be found of it."""

    placed: Placed
    sound: bool  # whether printed patches lie where they should


def register(
    picture: NDArray[np.uint8], placed: Placed, layout: Layout, parameters: PlaceParameters = PLACE
) -> Registered:
    """Bend a page placed by its marks until printed patches and cells lie where they should."""
    by_marks = _bent(placed, *_mark_shifts(placed, parameters))
    seen = find_landmarks(picture, by_marks, layout, parameters)
    points, shifts, sigma = _mark_shifts(placed, parameters)
    now = seen.points_mm + seen.shifts_mm
    before = np.zeros_like(now) if by_marks.bend is None else by_marks.bend.at(now)
    bent = _bent(
        placed,
        np.concatenate([points, seen.points_mm]),
        np.concatenate([shifts, seen.shifts_mm + before]),
        np.concatenate([sigma, seen.sigma_mm]),
    )
    if seen.patches_tried < parameters.fewest_to_check:
        return Registered(placed=bent, sound=True)
    share = seen.patches_found / seen.patches_tried
    misfit = 0.0 if bent.bend is None else bent.bend.misfit_mm
    return Registered(
        placed=bent, sound=share >= parameters.sound_share and misfit <= parameters.sound_mm
    )


def shows_print(
    picture: NDArray[np.uint8], placed: Placed, layout: Layout, parameters: PlaceParameters = PLACE
) -> bool:
    """Whether the layout's own patches are seen where a placed page has them."""
    seen = find_landmarks(picture, placed, layout, parameters)
    enough = seen.patches_found >= parameters.sound_share * seen.patches_tried
    return seen.patches_tried >= parameters.fewest_to_check and enough


def find_landmarks(
    picture: NDArray[np.uint8], placed: Placed, layout: Layout, parameters: PlaceParameters = PLACE
) -> Landmarks:
    """Look for patches and cells round their places, in RGB bytes (h, w, 3)."""
    size = (layout.width_mm, layout.height_mm)
    flat = straighten(picture, placed, size, px_per_mm=parameters.look_px_per_mm)
    look = np.asarray(cv2.cvtColor(flat, cv2.COLOR_RGB2GRAY), dtype=np.uint8)
    drawn = _drawn(layout, look.shape, parameters)
    patches = [
        patch.polygon_mm
        for patch in layout.reference
        if patch.kind is not PatchKind.PAPER
        and patch.lab_source not in (TUBE_SOURCE, CARD_SOURCE)
        and np.mean(patch.nominal_srgb) < parameters.pale
        and _in_picture(picture, placed, patch.polygon_mm)
    ]
    cells = [
        cell.polygon_mm
        for cell in layout.cells
        if np.ptp(cell.polygon_mm, axis=0).max() < parameters.largest_cell_mm
    ]
    tried = [
        *((one, parameters.patch_mm) for one in patches),
        *((one, parameters.cell_mm) for one in cells),
    ]
    shifts = [_shift_of(look, drawn, polygon, parameters) for polygon, _ in tried]
    seen = [n for n, shift in enumerate(shifts) if shift is not None]
    return Landmarks(
        points_mm=np.array([np.mean(tried[n][0], axis=0) for n in seen]).reshape(-1, 2),
        shifts_mm=np.array([shifts[n] for n in seen], dtype=float).reshape(-1, 2),
        sigma_mm=np.array([tried[n][1] for n in seen]),
        patches_tried=len(patches),
        patches_found=sum(n < len(patches) for n in seen),
    )


def _mark_shifts(placed: Placed, parameters: PlaceParameters) -> tuple[Floats, Floats, Floats]:
    shifts = to_page(placed, placed.corners_px) - placed.corners_mm
    return placed.corners_mm, shifts, np.full(len(shifts), parameters.mark_mm)


def _bent(placed: Placed, points: Floats, shifts: Floats, sigma: Floats) -> Placed:
    return replace(placed, bend=fit_bend(points, shifts, sigma))


def _drawn(
    layout: Layout, shape: tuple[int, ...], parameters: PlaceParameters
) -> NDArray[np.uint8]:
    """Draw in grey what the page should look like, cells filled in."""
    page = np.full(shape[:2], 240, np.uint8)
    for patch in layout.reference:
        if patch.kind is not PatchKind.PAPER and patch.lab_source != TUBE_SOURCE:
            red, green, blue = patch.nominal_srgb
            _fill(page, patch.polygon_mm, round(0.3 * red + 0.59 * green + 0.11 * blue), parameters)
    for cell in layout.cells:
        _fill(page, cell.polygon_mm, 110, parameters)
    for marker in layout.markers:
        _fill(page, marker.corners_mm, 60, parameters)
    return np.asarray(cv2.GaussianBlur(page, (0, 0), parameters.soft_px), dtype=np.uint8)


def _fill(
    page: NDArray[np.uint8], polygon: Polygon, grey: int, parameters: PlaceParameters
) -> None:
    points = np.array(polygon) * parameters.look_px_per_mm - 0.5
    # Places count in sixteenths of a pixel.
    cv2.fillPoly(page, [np.rint(points * 16.0).astype(np.int32)], grey, cv2.LINE_AA, 4)


def _shift_of(
    look: NDArray[np.uint8], drawn: NDArray[np.uint8], polygon: Polygon, parameters: PlaceParameters
) -> tuple[float, float] | None:
    """Give by how much a drawn thing is seen shifted, in mm; None where nothing is like it."""
    points = np.array(polygon) * parameters.look_px_per_mm
    margin, reach = (
        round(parameters.round_mm * parameters.look_px_per_mm),
        round(parameters.search_mm * parameters.look_px_per_mm),
    )
    low = np.floor(points.min(axis=0)).astype(int) - margin
    high = np.ceil(points.max(axis=0)).astype(int) + margin
    limit = np.array(look.shape[::-1])
    low, high = np.maximum(low, 0), np.minimum(high, limit)
    wide_low, wide_high = np.maximum(low - reach, 0), np.minimum(high + reach, limit)
    wanted = drawn[low[1] : high[1], low[0] : high[0]]
    where = look[wide_low[1] : wide_high[1], wide_low[0] : wide_high[0]]
    if min(wanted.shape) < 8 or wanted.std() < 4.0:
        return None
    alike = cv2.matchTemplate(where, wanted, cv2.TM_CCOEFF_NORMED)
    row, column = np.unravel_index(int(np.argmax(alike)), alike.shape)
    inner = 0 < row < alike.shape[0] - 1 and 0 < column < alike.shape[1] - 1
    if not inner or not alike[row, column] >= parameters.alike:
        return None
    x = column + _top(*alike[row, column - 1 : column + 2]) + wide_low[0] - low[0]
    y = row + _top(*alike[row - 1 : row + 2, column]) + wide_low[1] - low[1]
    return float(x) / parameters.look_px_per_mm, float(y) / parameters.look_px_per_mm


def _top(before: float, here: float, after: float) -> float:
    """Give where between its neighbours a peak stands, by a parabola."""
    bow = before - 2.0 * here + after
    return 0.0 if bow >= 0.0 else float(np.clip(0.5 * (before - after) / bow, -0.5, 0.5))


def _in_picture(picture: NDArray[np.uint8], placed: Placed, polygon: Polygon) -> bool:
    points = to_picture(placed, polygon)
    return bool(np.all(points >= 0) and np.all(points < np.array(picture.shape[1::-1])))
