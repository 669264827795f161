"""Read one photograph against one layout: the whole road from pixels to cell colours."""

from collections.abc import Iterator
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.colour.hvc import hvcs_of
from noema.core.colour.lab import lab_to_xyz, xyz_to_lab
from noema.core.colour.srgb import LINEAR_TO_XYZ_D50, srgb_to_linear
from noema.core.photo.doubt import cell_doubt
from noema.core.photo.flags import cell_flags, edge_blur_mm, sheet_flags, why_no_sheet
from noema.core.photo.identify import read_code
from noema.core.photo.light import LightField, fit_light
from noema.core.photo.marks import FoundMarks, find_marks
from noema.core.photo.reading import CellReading, Reading, SheetFlag, StraightSheet
from noema.core.photo.sample import LUMINANCE, PaintSample, sample_paint
from noema.core.photo.straighten import (
    FEWEST_MARKS,
    PX_PER_MM,
    Placed,
    place_page,
    polygon_pixels,
    straighten,
    to_picture,
)
from noema.core.photo.tone import (
    PAPER_LIGHTNESS,
    PAPER_SIGMA,
    UNKNOWN_PRINT_BLACK,
    UNKNOWN_PRINT_SIGMA,
    Tone,
    fit_tone,
)
from noema.core.sheet.layout import Cell, Layout, Patch, PatchKind, Polygon, Triple

Floats = NDArray[np.float64]

CELL_INSET_MM = 1.6
PATCH_INSET_MM = 0.4
_PAPER_CHUNK_MM = 14.0  # long blank strips count as several points of light
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
    tone, greys_seen = _tone(page, layout)
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
        cells=tuple(_read_cells(picture, placed, page, tone, layout)),
    )


def _tone(page: Page, layout: Layout) -> tuple[Tone, bool]:
    """Fit the tone curve to the greys; also say whether there were enough of them."""
    paper_y = _luminance(PAPER_LIGHTNESS)
    seen, true, sigma, known = [], [], [], []
    for patch in layout.reference:
        if patch.kind is not PatchKind.GREY:
            continue
        place = page.pixels(patch.polygon_mm, PATCH_INSET_MM + 0.4)
        if len(place) < 40:
            continue
        colour = np.median(page.relative[place[:, 0], place[:, 1]], axis=0)
        seen.append(float(colour @ LUMINANCE))
        y, sigma_log = _known_grey(patch, paper_y)
        true.append(y)
        sigma.append(sigma_log)
        known.append(patch.lab is not None)
    tone = fit_tone(np.array(seen), np.array(true), np.array(sigma), all(known) and bool(known))
    return tone, len(seen) >= 3


def _known_grey(patch: Patch, paper_y: float) -> tuple[float, float]:
    """Give a grey's luminance relative to paper, and one sigma of its logarithm."""
    if patch.lab is not None:
        y = _luminance(patch.lab[0])
        lightness_sigma = patch.lab_sigma or 1.0
        relative = y / paper_y
    else:
        sent = float(srgb_to_linear(patch.nominal_srgb[1] / 255.0))
        relative = UNKNOWN_PRINT_BLACK + (1.0 - UNKNOWN_PRINT_BLACK) * sent
        y = relative * paper_y
        lightness_sigma = UNKNOWN_PRINT_SIGMA
    return relative, lightness_sigma / (116.0 / 3.0 * np.cbrt(y))


def _luminance(lightness: float) -> float:
    return float(lab_to_xyz([lightness, 0.0, 0.0])[1]) / 100.0


def _paper_lab(layout: Layout) -> tuple[Triple, float]:
    for patch in layout.reference:
        if patch.kind is PatchKind.PAPER and patch.lab is not None:
            return patch.lab, patch.lab_sigma or 0.5
    return (PAPER_LIGHTNESS, 0.0, 0.0), PAPER_SIGMA


def _read_cells(
    picture: NDArray[np.uint8], placed: Placed, page: Page, tone: Tone, layout: Layout
) -> Iterator[CellReading]:
    paper_lab, paper_sigma = _paper_lab(layout)
    places = [_thinned(page.pixels(cell.polygon_mm, CELL_INSET_MM)) for cell in layout.cells]
    seen = [page.relative[place[:, 0], place[:, 1]].astype(float) for place in places]
    samples = [sample_paint(rgb, at) for rgb, at in zip(seen, places, strict=True)]
    labs = [_cell_lab(sample, tone, paper_lab) for sample in samples]
    hvcs = hvcs_of(labs)
    for n, cell in enumerate(layout.cells):
        doubt = cell_doubt(
            samples[n], tone, page.light.scatter, labs[n][0], (paper_lab, paper_sigma)
        )
        yield CellReading(
            id=cell.id,
            lab=labs[n],
            hvc=hvcs[n],
            sigma=doubt.sigma,
            sigma_value=doubt.sigma_value,
            sigma_step=doubt.sigma_step,
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


def _cell_lab(sample: PaintSample, tone: Tone, paper_lab: Triple) -> Triple:
    rgb = tone.true(np.maximum(sample.rgb, 1e-4))
    xyz = (LINEAR_TO_XYZ_D50 @ rgb) * (lab_to_xyz(paper_lab) / lab_to_xyz([100.0, 0.0, 0.0]))
    lightness, a, b = (float(part) for part in xyz_to_lab(xyz))
    return (lightness, a, b)


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
