"""From marks to millimetres: the page found, checked and seen squarely."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.marks import FoundMarks
from noema.core.sheet.layout import Marker, Polygon

PX_PER_MM = 4.0  # of the straightened sheet: a cell of 18 mm still has 5,000 pixels
FEWEST_MARKS = 4
FEWEST_MARKS_IF_SOUND = 3
_SOUND_MM = 0.35  # corner misfit allowed where only three marks are seen
_LOOSE_MM = 1.2  # more than this and the marks don't lie on one flat page


@dataclass(frozen=True, kw_only=True, eq=False)
class Placed:
    """How the page lies in the picture."""

    mm_to_px: NDArray[np.float64]  # (3, 3) homography
    px_per_mm: float  # of the photograph, in the middle of the page


def place_page(found: FoundMarks, markers: Sequence[Marker]) -> Placed | None:
    """Fit the page to the marks that were found; None if they don't make a sound page."""
    known: Mapping[int, Polygon] = {m.id: m.corners_mm for m in markers}
    kept = [n for n, mark in enumerate(found.ids) if mark in known]
    if len({found.ids[n] for n in kept}) < FEWEST_MARKS_IF_SOUND:
        return None
    page = np.array([known[found.ids[n]] for n in kept]).reshape(-1, 2)
    picture = found.corners_px[kept].reshape(-1, 2)
    loose_px = _LOOSE_MM * _scale(page, picture)
    solved, _ = cv2.findHomography(page, picture, cv2.RANSAC, loose_px)
    if solved is None:
        return None
    fit = np.asarray(solved, dtype=np.float64)
    misfit = _misfit_mm(fit, page, picture)
    if misfit > (_LOOSE_MM if len(kept) >= FEWEST_MARKS else _SOUND_MM):
        return None
    return Placed(
        mm_to_px=fit,
        px_per_mm=_scale(page, picture),
    )


def _scale(page: NDArray[np.float64], picture: NDArray[np.float64]) -> float:
    spread_px = np.linalg.norm(picture - picture.mean(axis=0), axis=1).mean()
    return float(spread_px / np.linalg.norm(page - page.mean(axis=0), axis=1).mean())


def _misfit_mm(
    fit: NDArray[np.float64], page: NDArray[np.float64], picture: NDArray[np.float64]
) -> float:
    back = cv2.perspectiveTransform(picture.reshape(-1, 1, 2), np.linalg.inv(fit)).reshape(-1, 2)
    return float(np.sqrt(np.median(np.sum((back - page) ** 2, axis=1))))


def to_picture(placed: Placed, polygon: Polygon) -> NDArray[np.float64]:
    """Give where a polygon of the page lies in the photograph, shape (n, 2), in pixels."""
    points = np.array(polygon, dtype=float).reshape(-1, 1, 2)
    seen = cv2.perspectiveTransform(points, placed.mm_to_px)
    return np.asarray(seen, dtype=np.float64).reshape(-1, 2)


def straighten(
    picture: NDArray[np.uint8],
    placed: Placed,
    size_mm: tuple[float, float],
    corner_mm: tuple[float, float] = (0.0, 0.0),
    px_per_mm: float = PX_PER_MM,
) -> NDArray[np.uint8]:
    """Show a rectangle of the page squarely, at a given resolution."""
    to_mm = np.array(
        [
            [1.0 / px_per_mm, 0.0, corner_mm[0] + 0.5 / px_per_mm],
            [0.0, 1.0 / px_per_mm, corner_mm[1] + 0.5 / px_per_mm],
            [0.0, 0.0, 1.0],
        ]
    )
    # Marks are measured at pixel centres, as the warp counts, so no half pixel is owed there.
    size_px = (round(size_mm[0] * px_per_mm), round(size_mm[1] * px_per_mm))
    flat = cv2.warpPerspective(
        picture,
        placed.mm_to_px @ to_mm,
        size_px,
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
        borderMode=cv2.BORDER_REPLICATE,
    )
    return np.asarray(flat, dtype=np.uint8)


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
