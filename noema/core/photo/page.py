"""A sheet seen squarely in even light."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.light import LightField, fit_light
from noema.core.photo.parameters.light import LIGHT, LightParameters
from noema.core.photo.picture import Picture
from noema.core.photo.straighten import PX_PER_MM, polygon_pixels
from noema.core.sheet.layout import Layout, PatchKind, Polygon
from noema.core.statistics.medians import median_of

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, eq=False)
class Page:
    """A sheet seen squarely in even light."""

    bytes_rgb: NDArray[np.uint8]  # (h, w, 3) as the camera wrote it
    relative: NDArray[np.float32]  # (h, w, 3) the file's channels, linear, blank paper = 1
    light: LightField
    taken: NDArray[np.bool_]  # (h, w) where something is printed or to be painted

    def pixels(self, polygon: Polygon, inset_mm: float) -> NDArray[np.intp]:
        """Give rows and columns inside a polygon of the page."""
        height, width = self.relative.shape[:2]
        return polygon_pixels(polygon, inset_mm, (height, width))


def evened(
    straight: NDArray[np.uint8],
    picture: Picture,
    layout: Layout,
    parameters: LightParameters = LIGHT,
) -> Page:
    """Take the light off a straightened sheet."""
    linear = picture.linear(straight)
    height, width = straight.shape[:2]
    taken = _taken(layout, (height, width))
    points, colours = _paper_patches(linear, layout, parameters)
    more_points, more_colours = _paper_anywhere(linear, taken, colours, parameters)
    light = fit_light(
        np.concatenate([points, more_points]),
        np.concatenate([colours, more_colours]),
        (layout.width_mm, layout.height_mm),
    )
    relative = np.asarray(linear / light.over(width, height), dtype=np.float32)
    return Page(bytes_rgb=straight, relative=relative, light=light, taken=taken)


def in_squares(picture: NDArray[np.float32], side_px: int) -> tuple[Floats, Floats]:
    """Give the mean and the spread of whole squares of a picture (h, w, 3), (rows, columns, 3)."""
    rows, columns = (length // side_px for length in picture.shape[:2])
    cut = picture[: rows * side_px, : columns * side_px]
    mean, square = (
        cv2.resize(one, (columns, rows), interpolation=cv2.INTER_AREA).astype(float)
        for one in (cut, cut**2)
    )
    return mean, np.sqrt(np.maximum(square - mean**2, 0.0))


def _paper_patches(
    linear: NDArray[np.float32], layout: Layout, parameters: LightParameters
) -> tuple[Floats, Floats]:
    points, colours = [], []
    for patch in layout.reference:
        if patch.kind is PatchKind.PAPER:
            place = polygon_pixels(patch.polygon_mm, parameters.patch_inset_mm, linear.shape[:2])
            for part in _chunks(place, parameters):
                points.append((part.mean(axis=0)[::-1] + 0.5) / PX_PER_MM)
                colours.append(median_of(linear[part[:, 0], part[:, 1]]))
    return np.array(points).reshape(-1, 2), np.array(colours, dtype=float).reshape(-1, 3)


def _chunks(place: NDArray[np.intp], parameters: LightParameters) -> list[NDArray[np.intp]]:
    if len(place) < parameters.fewest_pixels:
        return []
    side = int(parameters.chunk_mm * PX_PER_MM)
    index = (place - place.min(axis=0)) // side
    key = index[:, 0] * 1000 + index[:, 1]
    return [
        part for n in np.unique(key) if len(part := place[key == n]) >= parameters.fewest_pixels
    ]


def _paper_anywhere(
    linear: NDArray[np.float32],
    taken: NDArray[np.bool_],
    paper: Floats,
    parameters: LightParameters,
) -> tuple[Floats, Floats]:
    """Find squares that look like the paper patches and stand clear of everything."""
    height, width = taken.shape
    side = round(parameters.window_mm * PX_PER_MM)
    size = (width // side, height // side)
    mean, spread = in_squares(linear, side)
    reach = 2 * round(parameters.away_mm * PX_PER_MM) + 1
    grown = cv2.dilate(taken.astype(np.uint8), np.ones((reach, reach), np.uint8))
    free = cv2.resize(
        grown[: size[1] * side, : size[0] * side].astype(np.float32),
        size,
        interpolation=cv2.INTER_AREA,
    )
    usual = np.log(np.maximum(median_of(paper), 1e-5)) if len(paper) else np.zeros(3)
    away = np.log(np.maximum(mean, 1e-5)) - usual
    light = away.mean(axis=2)
    tint = np.abs(away - light[..., None]).max(axis=2)
    fits = (np.abs(light) < parameters.paper_log) & (tint < parameters.paper_tint)
    rough = (spread / np.maximum(mean, 1e-5)).mean(axis=2)
    rows, columns = np.nonzero((free < 1e-6) & (rough < parameters.smooth) & fits)
    points = (np.stack([columns, rows], axis=1) + 0.5) * side / PX_PER_MM
    return np.asarray(points, dtype=np.float64), np.asarray(mean[rows, columns])


def _taken(layout: Layout, shape: tuple[int, int]) -> NDArray[np.bool_]:
    mask = np.zeros(shape, np.uint8)
    printed = [p.polygon_mm for p in layout.reference if p.kind is not PatchKind.PAPER]
    places = [
        *printed,
        *(cell.polygon_mm for cell in layout.cells),
        *(marker.corners_mm for marker in layout.markers),
        layout.qr_polygon_mm,
    ]
    for polygon in places:
        if len(polygon) >= 3:
            cv2.fillPoly(mask, [np.rint(np.array(polygon) * PX_PER_MM).astype(np.int32)], 1)
    return mask > 0
