"""Every cell's colour, how far it may be wrong, and what it suffers from: last stage."""

import numpy as np
from numpy.typing import NDArray

from noema.core.photo.doubt import CellLight, Colours, colours_of
from noema.core.photo.flags import Suspicions, cell_flags, clipped_channel, with_glare_all_over
from noema.core.photo.parameters.doubt import DOUBT, DoubtParameters
from noema.core.photo.reading import CellFlag, CellReading
from noema.core.photo.stages.sample import SampledSheet
from noema.core.photo.straighten import to_picture

Floats = NDArray[np.float64]


def doubt(given: SampledSheet, parameters: DoubtParameters = DOUBT) -> tuple[CellReading, ...]:
    """Give every cell's colour, its sigmas and its flags."""
    cells, light = given.cells, given.coloured.lit.page.light
    centres = np.array([np.mean(one.cell.polygon_mm, axis=0) for one in cells])
    colours = colours_of(
        [one.paint for one in cells],
        [clipped_channel(one.raw, parameters) for one in cells],
        given.coloured.seeing,
        CellLight(rgb=light.at(centres), sigma_log=light.sigma_at(centres)),
        parameters,
    )
    flags = _flags(given, centres, colours, parameters)
    return tuple(
        CellReading(
            id=one.cell.id,
            lab=colours.labs[n],
            hvc=colours.hvcs[n],
            sigma=colours.doubts[n].sigma,
            sigma_value=colours.doubts[n].sigma_value,
            sigma_step=colours.doubts[n].sigma_step,
            sigma_hue=colours.doubts[n].sigma_hue,
            sigma_chroma=colours.doubts[n].sigma_chroma,
            coverage=one.paint.coverage,
            unevenness=one.paint.unevenness,
            spill=one.spill,
            flags=flags[n],
        )
        for n, one in enumerate(cells)
    )


def _flags(
    given: SampledSheet, centres_mm: Floats, colours: Colours, parameters: DoubtParameters
) -> list[tuple[CellFlag, ...]]:
    lit = given.coloured.lit
    painted = [one.paint.unevenness for one in given.cells if not one.paint.bare]
    usual = float(np.quantile(painted or [0.0], parameters.usual_quantile))
    found = []
    for n, one in enumerate(given.cells):
        about = Suspicions(
            shine=one.shine,
            light_step=lit.page.light.step_beside(centres_mm[n]),
            inside=_inside(lit.sheet.size_px, to_picture(lit.sheet.placed, one.cell.polygon_mm)),
            usual_unevenness=usual,
        )
        sigma = colours.doubts[n].sigma
        found.append(cell_flags(one.paint, one.raw, one.pixels, about, sigma, parameters))
    return with_glare_all_over(found, parameters)


def _inside(size_px: tuple[int, int], points_px: Floats) -> bool:
    return bool(np.all((points_px >= 0) & (points_px <= np.array(size_px) - 1)))
