"""Every cell's paint, told apart from paper, gaps and shine: fifth stage."""

from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.page import Page
from noema.core.photo.parameters.sample import SAMPLE, SampleParameters
from noema.core.photo.sample import LUMINANCE, PaintSample, sample_paint
from noema.core.photo.shine import Shine, shine_on_cells
from noema.core.photo.stages.colour import ColouredSheet
from noema.core.photo.straighten import PX_PER_MM
from noema.core.sheet.layout import Cell

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, eq=False)
class SampledCell:
    """One cell's pixels, and what they show."""

    cell: Cell
    raw: NDArray[np.uint8]  # (n, 3) as the camera wrote them
    pixels: Floats  # (n, 3) linear, relative to paper
    paint: PaintSample
    shine: Shine
    spill: float  # share of the paper just outside the line that has paint on it


@dataclass(frozen=True, kw_only=True, eq=False)
class SampledSheet:
    """A sheet whose cells were looked at."""

    coloured: ColouredSheet
    cells: tuple[SampledCell, ...]


def sample(given: ColouredSheet, parameters: SampleParameters = SAMPLE) -> SampledSheet:
    """Take every cell's paint."""
    page, cells = given.lit.page, given.lit.sheet.sought.layout.cells
    places, seen = pixels_of_cells(given, parameters)
    paints = [sample_paint(rgb, at, parameters) for rgb, at in zip(seen, places, strict=True)]
    # Specks of paper in thin paint look like broken shine: they are told apart before.
    solid = [not paint.bare and not paint.gaps for paint in paints]
    shine = shine_on_cells(seen, [place / PX_PER_MM for place in places], solid, parameters)
    return SampledSheet(
        coloured=given,
        cells=tuple(
            SampledCell(
                cell=cell,
                raw=page.bytes_rgb[places[n][:, 0], places[n][:, 1]],
                pixels=seen[n],
                paint=paints[n],
                shine=shine[n],
                spill=_spill(page, cell, parameters),
            )
            for n, cell in enumerate(cells)
        ),
    )


def pixels_of_cells(
    given: ColouredSheet, parameters: SampleParameters = SAMPLE
) -> tuple[list[NDArray[np.intp]], list[Floats]]:
    """Give rows and columns (n, 2) inside each cell, and its colours (n, 3) relative to paper."""
    page = given.lit.page
    places = [
        _thinned(page.pixels(cell.polygon_mm, parameters.inset_mm), parameters)
        for cell in given.lit.sheet.sought.layout.cells
    ]
    return places, [page.relative[at[:, 0], at[:, 1]].astype(float) for at in places]


def _thinned(place: NDArray[np.intp], parameters: SampleParameters) -> NDArray[np.intp]:
    return place[:: 1 + len(place) // parameters.most_pixels]


def _spill(page: Page, cell: Cell, parameters: SampleParameters) -> float:
    """Give the share of the paper just outside a cell's line that has paint on it."""
    points = np.array(cell.polygon_mm) * PX_PER_MM
    reach = round(parameters.beyond_mm * PX_PER_MM)
    limit = np.array(page.taken.shape[::-1])
    low = np.clip(np.floor(points.min(axis=0)).astype(int) - reach, 0, limit)
    high = np.clip(np.ceil(points.max(axis=0)).astype(int) + reach, 0, limit)
    own = np.ones((high[1] - low[1], high[0] - low[0]), np.uint8)
    if min(own.shape) < 1:
        return 0.0
    cv2.fillPoly(own, [np.rint(points - low).astype(np.int32)], 0)
    away = cv2.distanceTransform(own, cv2.DIST_L2, 3) / PX_PER_MM
    window = (slice(low[1], high[1]), slice(low[0], high[0]))
    ring = (away > parameters.line_mm) & (away < parameters.beyond_mm) & ~page.taken[window]
    luminance = page.relative[window][ring] @ LUMINANCE.astype(np.float32)
    return (
        float((np.log(np.maximum(luminance, 1e-3)) < parameters.spilt_log).mean())
        if ring.any()
        else 0.0
    )
