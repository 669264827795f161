"""From marks to millimetres: the page found, checked and seen squarely."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.bend import Bend
from noema.core.photo.marks import FoundMarks
from noema.core.photo.parameters.identify import IDENTIFY, IdentifyParameters
from noema.core.sheet.layout import Marker, Polygon

Floats = NDArray[np.float64]

PX_PER_MM = 4.0  # of the straightened sheet: a cell of 18 mm still has 5,000 pixels
_GRID_MM = 6.0  # over which geometry is worked out once


@dataclass(frozen=True, kw_only=True, eq=False)
class Placed:
    """How the page lies in the picture."""

    mm_to_px: Floats  # (3, 3) homography
    px_per_mm: float  # of the photograph, in the middle of the page
    corners_mm: Floats  # (n, 2) where the marks' corners stand on paper
    corners_px: Floats  # (n, 2) where they were seen
    bend: Bend | None = None  # how the paper or the lens departs from a plane


def place_page(
    found: FoundMarks, markers: Sequence[Marker], parameters: IdentifyParameters = IDENTIFY
) -> Placed | None:
    """Fit the page to the marks that were found; None if they don't make a sound page."""
    known: Mapping[int, Polygon] = {m.id: m.corners_mm for m in markers}
    kept = [n for n, mark in enumerate(found.ids) if mark in known]
    if len({found.ids[n] for n in kept}) < parameters.fewest_if_sound:
        return None
    page = np.array([known[found.ids[n]] for n in kept]).reshape(-1, 2)
    picture = found.corners_px[kept].reshape(-1, 2)
    return _placed(
        page,
        picture,
        parameters.loose_mm if len(kept) >= parameters.fewest_marks else parameters.sound_mm,
        parameters,
    )


def place_corners(corners_mm: Floats, corners_px: Floats) -> Placed:
    """Fit the page to four corners (4, 2) that a person vouches for."""
    fit = cv2.getPerspectiveTransform(corners_mm.astype(np.float32), corners_px.astype(np.float32))
    return Placed(
        mm_to_px=np.asarray(fit, dtype=np.float64),
        px_per_mm=_scale(corners_mm, corners_px),
        corners_mm=corners_mm,
        corners_px=corners_px,
    )


def _placed(
    page: Floats, picture: Floats, most_mm: float, parameters: IdentifyParameters
) -> Placed | None:
    scale = _scale(page, picture)
    solved, _ = cv2.findHomography(page, picture, cv2.RANSAC, parameters.flat_mm * scale)
    if solved is None:
        return None
    fit = np.asarray(solved, dtype=np.float64)
    if _misfit_mm(fit, page, picture) > most_mm:
        return None
    return Placed(mm_to_px=fit, px_per_mm=scale, corners_mm=page, corners_px=picture)


def _scale(page: Floats, picture: Floats) -> float:
    spread_px = np.linalg.norm(picture - picture.mean(axis=0), axis=1).mean()
    return float(spread_px / np.linalg.norm(page - page.mean(axis=0), axis=1).mean())


def _misfit_mm(fit: Floats, page: Floats, picture: Floats) -> float:
    back = cv2.perspectiveTransform(picture.reshape(-1, 1, 2), np.linalg.inv(fit)).reshape(-1, 2)
    return float(np.sqrt(np.median(np.sum((back - page) ** 2, axis=1))))


def to_picture(placed: Placed, polygon: Polygon) -> Floats:
    """Give where a polygon of the page lies in the photograph, shape (n, 2), in pixels."""
    return _points_to_picture(placed, np.array(polygon, dtype=float).reshape(-1, 2))


def to_page(placed: Placed, points_px: Floats) -> Floats:
    """Give where points (n, 2) of the photograph lie on the page as if it were flat, in mm."""
    return np.asarray(
        cv2.perspectiveTransform(
            np.asarray(points_px, dtype=float).reshape(-1, 1, 2), np.linalg.inv(placed.mm_to_px)
        ).reshape(-1, 2)
    )


def straighten(
    picture: NDArray[np.uint8],
    placed: Placed,
    size_mm: tuple[float, float],
    corner_mm: tuple[float, float] = (0.0, 0.0),
    px_per_mm: float = PX_PER_MM,
) -> NDArray[np.uint8]:
    """Show a rectangle of the page squarely, at a given resolution."""
    size_px = (round(size_mm[0] * px_per_mm), round(size_mm[1] * px_per_mm))
    if placed.bend is None:
        to_mm = np.array(
            [
                [1.0 / px_per_mm, 0.0, corner_mm[0] + 0.5 / px_per_mm],
                [0.0, 1.0 / px_per_mm, corner_mm[1] + 0.5 / px_per_mm],
                [0.0, 0.0, 1.0],
            ]
        )
        # Marks are measured at pixel centres, as the warp counts, so no half pixel is owed there.
        flat = cv2.warpPerspective(
            picture,
            placed.mm_to_px @ to_mm,
            size_px,
            flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
            borderMode=cv2.BORDER_REPLICATE,
        )
        return np.asarray(flat, dtype=np.uint8)
    where = _where(placed, size_px, corner_mm, px_per_mm)
    flat = cv2.remap(
        picture,
        where[..., 0],
        where[..., 1],
        cv2.INTER_LINEAR,
        borderMode=cv2.BORDER_REPLICATE,
    )
    return np.asarray(flat, dtype=np.uint8)


def _where(
    placed: Placed, size_px: tuple[int, int], corner_mm: tuple[float, float], px_per_mm: float
) -> NDArray[np.float32]:
    """Give the photograph's pixel that each pixel of the straightened sheet shows, (h, w, 2)."""
    step = max(2, round(_GRID_MM * px_per_mm))
    columns, rows = (side // step + 2 for side in size_px)
    x, y = np.meshgrid(np.arange(columns) * float(step), np.arange(rows) * float(step))
    points = (np.stack([x, y], axis=-1).reshape(-1, 2) + 0.5) / px_per_mm + np.array(corner_mm)
    coarse = _points_to_picture(placed, points).reshape(rows, columns, 2).astype(np.float32)
    # Coarse point n stands at pixel n * step; this maps pixels back to coarse points exactly.
    shrink = np.array([[1.0 / step, 0.0, 0.0], [0.0, 1.0 / step, 0.0]])
    fine = cv2.warpAffine(
        coarse,
        shrink,
        size_px,
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_REPLICATE,
    )
    return np.asarray(fine, dtype=np.float32)


def _points_to_picture(placed: Placed, points_mm: Floats) -> Floats:
    moved = points_mm if placed.bend is None else points_mm + placed.bend.at(points_mm)
    seen = cv2.perspectiveTransform(moved.reshape(-1, 1, 2), placed.mm_to_px)
    return np.asarray(seen, dtype=np.float64).reshape(-1, 2)


def polygon_pixels(
    polygon: Polygon, inset_mm: float, size_px: tuple[int, int], px_per_mm: float = PX_PER_MM
) -> NDArray[np.intp]:
    """Give rows and columns (n, 2) of a straightened picture inside a polygon, shrunk by an inset.

    The picture is `size_px` high and wide; pixels beyond it are left out.
    """
    points = np.array(polygon) * px_per_mm - 0.5
    low = np.floor(points.min(axis=0)).astype(int)
    width, height = np.ceil(points.max(axis=0)).astype(int) - low + 1
    mask = np.zeros((height, width), dtype=np.uint8)
    cv2.fillPoly(mask, [np.rint(points - low).astype(np.int32)], 1)
    reach = round(inset_mm * px_per_mm)
    if reach:
        kernel = np.ones((2 * reach + 1, 2 * reach + 1), np.uint8)
        mask = np.asarray(
            cv2.erode(mask, kernel, borderType=cv2.BORDER_CONSTANT, borderValue=0), dtype=np.uint8
        )
    rows_columns = np.argwhere(mask > 0) + low[::-1]
    inside = np.all((rows_columns >= 0) & (rows_columns < np.array(size_px)), axis=1)
    return np.asarray(rows_columns[inside], dtype=np.intp)
