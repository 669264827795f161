"""Every cell of a page: its paint, its colour, its doubt, its flags."""

from collections.abc import Iterator

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.doubt import CellLight, Seeing, colours_of
from noema.core.photo.flags import Suspicions, cell_flags, clipped_channel, with_glare_all_over
from noema.core.photo.page import Page
from noema.core.photo.reading import CellReading
from noema.core.photo.sample import LUMINANCE, sample_paint
from noema.core.photo.shine import shine_on_cells
from noema.core.photo.straighten import PX_PER_MM, Placed, to_picture
from noema.core.sheet.layout import Cell, Layout

Floats = NDArray[np.float64]

CELL_INSET_MM = 1.6
_MOST_PIXELS = 1600  # of a cell: more add time, not knowledge
_LINE_MM, _BEYOND_MM = 0.9, 2.6  # paint over the line is looked for between these
_SPILT_LOG = -0.15
_MORE_EVEN = 0.25  # of the painted cells


def read_cells(
    page: Page, placed: Placed, size_px: tuple[int, int], layout: Layout, seeing: Seeing
) -> Iterator[CellReading]:
    """Read every cell of a page seen in a photograph of a size (width, height)."""
    places = [_thinned(page.pixels(cell.polygon_mm, CELL_INSET_MM)) for cell in layout.cells]
    seen = [page.relative[place[:, 0], place[:, 1]].astype(float) for place in places]
    samples = [sample_paint(rgb, at) for rgb, at in zip(seen, places, strict=True)]
    centres = np.array([np.mean(cell.polygon_mm, axis=0) for cell in layout.cells])
    # Specks of paper in thin paint look like broken shine: they are told apart before.
    solid = [not sample.bare and not sample.gaps for sample in samples]
    shine = shine_on_cells(seen, [place / PX_PER_MM for place in places], solid)
    raws = [page.bytes_rgb[place[:, 0], place[:, 1]] for place in places]
    colours = colours_of(
        samples,
        [clipped_channel(raw) for raw in raws],
        seeing,
        CellLight(rgb=page.light.at(centres), sigma_log=page.light.sigma_at(centres)),
    )
    evenly = np.quantile([one.unevenness for one in samples if not one.bare] or [0.0], _MORE_EVEN)
    suspicions = [
        Suspicions(
            shine=shine[n],
            light_step=page.light.step_beside(centres[n]),
            inside=_inside(size_px, to_picture(placed, cell.polygon_mm)),
            usual_unevenness=float(evenly),
        )
        for n, cell in enumerate(layout.cells)
    ]
    flags = with_glare_all_over(
        [
            cell_flags(samples[n], raws[n], seen[n], suspicions[n], colours.doubts[n].sigma)
            for n in range(len(layout.cells))
        ]
    )
    for n, cell in enumerate(layout.cells):
        doubt = colours.doubts[n]
        yield CellReading(
            id=cell.id,
            lab=colours.labs[n],
            hvc=colours.hvcs[n],
            sigma=doubt.sigma,
            sigma_value=doubt.sigma_value,
            sigma_step=doubt.sigma_step,
            sigma_hue=doubt.sigma_hue,
            sigma_chroma=doubt.sigma_chroma,
            coverage=samples[n].coverage,
            unevenness=samples[n].unevenness,
            spill=_spill(page, cell),
            flags=flags[n],
        )


def _thinned(place: NDArray[np.intp]) -> NDArray[np.intp]:
    return place[:: 1 + len(place) // _MOST_PIXELS]


def _spill(page: Page, cell: Cell) -> float:
    """Give the share of the paper just outside a cell's line that has paint on it."""
    points = np.array(cell.polygon_mm) * PX_PER_MM
    reach = round(_BEYOND_MM * PX_PER_MM)
    limit = np.array(page.taken.shape[::-1])
    low = np.clip(np.floor(points.min(axis=0)).astype(int) - reach, 0, limit)
    high = np.clip(np.ceil(points.max(axis=0)).astype(int) + reach, 0, limit)
    own = np.ones((high[1] - low[1], high[0] - low[0]), np.uint8)
    if min(own.shape) < 1:
        return 0.0
    cv2.fillPoly(own, [np.rint(points - low).astype(np.int32)], 0)
    away = cv2.distanceTransform(own, cv2.DIST_L2, 3) / PX_PER_MM
    window = (slice(low[1], high[1]), slice(low[0], high[0]))
    ring = (away > _LINE_MM) & (away < _BEYOND_MM) & ~page.taken[window]
    luminance = page.relative[window][ring] @ LUMINANCE.astype(np.float32)
    return float((np.log(np.maximum(luminance, 1e-3)) < _SPILT_LOG).mean()) if ring.any() else 0.0


def _inside(size_px: tuple[int, int], points_px: Floats) -> bool:
    return bool(np.all((points_px >= 0) & (points_px <= np.array(size_px) - 1)))
