"""Read one photograph against one layout: the whole road from pixels to cell colours."""

from collections.abc import Iterator
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.colour.hvc import hvcs_of
from noema.core.colour.srgb import srgb_to_linear
from noema.core.photo.colour_fit import ColourFit
from noema.core.photo.doubt import colours_of
from noema.core.photo.flags import cell_flags, edge_blur_mm, sheet_flags, why_no_sheet
from noema.core.photo.identify import read_code
from noema.core.photo.light import LightField, fit_light
from noema.core.photo.marks import FoundMarks, find_marks
from noema.core.photo.patches import colour_fit_of, tone_of
from noema.core.photo.reading import CellReading, Reading, SheetFlag, StraightSheet
from noema.core.photo.sample import LUMINANCE, sample_paint
from noema.core.photo.straighten import (
    FEWEST_MARKS,
    PX_PER_MM,
    Placed,
    place_page,
    polygon_pixels,
    straighten,
    to_picture,
)
from noema.core.photo.tone import PAPER_LIGHTNESS, PAPER_SIGMA, PAPER_TINT, Tone
from noema.core.sheet.layout import Cell, Layout, Patch, PatchKind, Polygon, Triple

Floats = NDArray[np.float64]

CELL_INSET_MM = 1.6
PATCH_INSET_MM = 0.4
_PAPER_CHUNK_MM = 14.0  # long blank strips count as several points of light
_FEWEST_PIXELS = 40  # of a patch
_MOST_PIXELS = 3000  # of a cell: more add time, not knowledge
_LINEAR = srgb_to_linear(np.arange(256) / 255.0).astype(np.float32)


@dataclass(frozen=True, kw_only=True, eq=False)
class ReadSheet:
    """A reading and the picture it was taken from."""

    reading: Reading
    straight: StraightSheet | None  # None where no sheet was found


@dataclass(frozen=True, kw_only=True, eq=False)
class Page:
    """A sheet seen squarely in even light."""

    bytes_rgb: NDArray[np.uint8]  # (h, w, 3) as the camera wrote it
    relative: NDArray[np.float32]  # (h, w, 3) linear, blank paper = 1
    light: LightField
    paper_points_mm: Floats  # (n, 2)
    paper_miss: Floats  # (n,) logarithm of paper's light less the field's

    def pixels(self, polygon: Polygon, inset_mm: float) -> NDArray[np.intp]:
        """Give rows and columns inside a polygon of the page."""
        height, width = self.relative.shape[:2]
        return polygon_pixels(polygon, inset_mm, (height, width))


@dataclass(frozen=True, kw_only=True, eq=False)
class Seeing:
    """What this camera made of colours, and the paper they are relative to."""

    tone: Tone
    fit: ColourFit
    paper: tuple[Triple, float]  # Lab, and one sigma of its lightness


def read_photo(picture: NDArray[np.uint8], layout: Layout) -> ReadSheet:
    """Read a photograph, upright or not, as RGB bytes of shape (h, w, 3)."""
    return read_found(picture, find_marks(picture), layout)


def read_found(
    picture: NDArray[np.uint8], found: FoundMarks, layout: Layout, *, check_code: bool = True
) -> ReadSheet:
    """Read a photograph whose marks are known; a person may vouch for the sheet instead."""
    placed = place_page(found, layout.markers)
    if placed is None:
        ours = {marker.id for marker in layout.markers} & set(found.ids)
        if not ours and len(found.ids) >= FEWEST_MARKS:
            return _refused(SheetFlag.NO_SHEET, SheetFlag.WRONG_SHEET)
        return _refused(*why_no_sheet(picture, bool(ours)))
    code = read_code(picture, placed, layout.qr_polygon_mm) if check_code else None
    straight = straighten(picture, placed, (layout.width_mm, layout.height_mm))
    seen = StraightSheet(rgb=straight, px_per_mm=PX_PER_MM)
    if code is not None and code != layout.qr_text:
        return ReadSheet(
            reading=Reading(sheet=code, found=False, flags=(SheetFlag.WRONG_SHEET,), cells=()),
            straight=seen,
        )
    page = _evened(straight, layout)
    reading = _read_page(picture, placed, page, layout)
    return ReadSheet(reading=reading, straight=seen)


def _refused(*flags: SheetFlag) -> ReadSheet:
    return ReadSheet(reading=Reading(sheet=None, found=False, flags=flags, cells=()), straight=None)


def _evened(straight: NDArray[np.uint8], layout: Layout) -> Page:
    linear = np.asarray(cv2.LUT(straight, _LINEAR), dtype=np.float32)
    height, width = straight.shape[:2]
    size_mm = (layout.width_mm, layout.height_mm)
    points, colours = [], []
    for patch in layout.reference:
        if patch.kind is PatchKind.PAPER:
            place = polygon_pixels(patch.polygon_mm, PATCH_INSET_MM, (height, width))
            for part in _chunks(place):
                points.append((part.mean(axis=0)[::-1] + 0.5) / PX_PER_MM)
                colours.append(np.median(linear[part[:, 0], part[:, 1]], axis=0))
    at, seen = np.array(points).reshape(-1, 2), np.array(colours, dtype=float).reshape(-1, 3)
    light = fit_light(at, seen, size_mm)
    miss = np.log(np.maximum(seen @ LUMINANCE, 1e-5)) - np.log(light.at(at) @ LUMINANCE)
    return Page(
        bytes_rgb=straight,
        relative=np.asarray(linear / light.over(width, height), dtype=np.float32),
        light=light,
        paper_points_mm=at,
        paper_miss=miss,
    )


def _chunks(place: NDArray[np.intp]) -> list[NDArray[np.intp]]:
    if len(place) < 12:
        return []
    side = int(_PAPER_CHUNK_MM * PX_PER_MM)
    index = (place - place.min(axis=0)) // side
    key = index[:, 0] * 1000 + index[:, 1]
    return [part for n in np.unique(key) if len(part := place[key == n]) >= 12]


def _read_page(picture: NDArray[np.uint8], placed: Placed, page: Page, layout: Layout) -> Reading:
    paper = _paper_lab(layout)
    patches = _seen_patches(page, layout)
    tone, greys_seen = tone_of(patches, paper[0])
    fit = colour_fit_of(patches, tone, paper[0])
    seeing = Seeing(tone=tone, fit=fit, paper=paper)
    return Reading(
        sheet=layout.sheet,
        found=True,
        flags=sheet_flags(
            page.light,
            page.bytes_rgb,
            edge_blur_mm(page.bytes_rgb, layout.markers),
            placed.px_per_mm,
            cropped=not _all_inside(picture, placed, layout),
            reference_seen=greys_seen,
            grey_only=layout.grey_only,
        ),
        cells=tuple(_read_cells(picture, placed, page, layout, seeing)),
    )


def _seen_patches(page: Page, layout: Layout) -> list[tuple[Patch, Floats]]:
    """Give every printed patch that can be seen, with its linear RGB relative to paper."""
    found = []
    for patch in layout.reference:
        place = page.pixels(patch.polygon_mm, PATCH_INSET_MM + 0.4)
        if patch.kind is not PatchKind.PAPER and len(place) >= _FEWEST_PIXELS:
            rgb = np.median(page.relative[place[:, 0], place[:, 1]], axis=0)
            found.append((patch, rgb.astype(float)))
    return found


def _paper_lab(layout: Layout) -> tuple[Triple, float]:
    for patch in layout.reference:
        if patch.kind is PatchKind.PAPER and patch.lab is not None:
            return patch.lab, patch.lab_sigma or 0.5
    return (PAPER_LIGHTNESS, *PAPER_TINT), PAPER_SIGMA


def _read_cells(
    picture: NDArray[np.uint8], placed: Placed, page: Page, layout: Layout, seeing: Seeing
) -> Iterator[CellReading]:
    places = [_thinned(page.pixels(cell.polygon_mm, CELL_INSET_MM)) for cell in layout.cells]
    seen = [page.relative[place[:, 0], place[:, 1]].astype(float) for place in places]
    samples = [sample_paint(rgb, at) for rgb, at in zip(seen, places, strict=True)]
    colours = colours_of(samples, seeing.tone, seeing.fit, page.light.scatter, seeing.paper)
    hvcs = hvcs_of(colours.labs)
    for n, cell in enumerate(layout.cells):
        doubt = colours.doubts[n]
        yield CellReading(
            id=cell.id,
            lab=colours.labs[n],
            hvc=hvcs[n],
            sigma=doubt.sigma,
            sigma_value=doubt.sigma_value,
            sigma_step=doubt.sigma_step,
            sigma_hue=doubt.sigma_hue,
            sigma_chroma=doubt.sigma_chroma,
            coverage=samples[n].coverage,
            flags=cell_flags(
                samples[n],
                page.bytes_rgb[places[n][:, 0], places[n][:, 1]],
                seen[n] @ LUMINANCE,
                _shade_beside(page, cell),
                inside=_inside(picture, to_picture(placed, cell.polygon_mm)),
            ),
        )


def _thinned(place: NDArray[np.intp]) -> NDArray[np.intp]:
    return place[:: 1 + len(place) // _MOST_PIXELS]


def _shade_beside(page: Page, cell: Cell) -> float:
    """Give the darkest paper beside a cell against the light field, as a logarithm."""
    corners = np.array(cell.polygon_mm)
    low, high = corners.min(axis=0) - 9.0, corners.max(axis=0) + 9.0
    near = np.all((page.paper_points_mm > low) & (page.paper_points_mm < high), axis=1)
    if near.sum() < 3:
        return 0.0
    return float(np.percentile(page.paper_miss[near], 25))


def _inside(picture: NDArray[np.uint8], points_px: Floats) -> bool:
    limit = np.array([picture.shape[1] - 1, picture.shape[0] - 1])
    return bool(np.all((points_px >= 0) & (points_px <= limit)))


def _all_inside(picture: NDArray[np.uint8], placed: Placed, layout: Layout) -> bool:
    places = [m.corners_mm for m in layout.markers] + [c.polygon_mm for c in layout.cells]
    return all(_inside(picture, to_picture(placed, place)) for place in places)
