"""One cell's paint, told apart from bare paper, pencil and ragged edges."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.photo.parameters.sample import SAMPLE, SampleParameters
from noema.core.statistics.medians import median_of, medians_by
from noema.core.statistics.robust import quick_sigma

Floats = NDArray[np.float64]


LUMINANCE = np.array([0.2126, 0.7152, 0.0722])
"""Share of each linear sRGB channel in luminance (IEC 61966-2-1)."""


@dataclass(frozen=True, kw_only=True, eq=False)
class PaintSample:
    """The paint of one cell."""

    rgb: Floats  # (3,) linear, relative to blank paper
    coverage: float  # painted share, 0..1
    bare: bool  # nothing distinguishes it from paper
    gaps: bool  # paper shows through in specks
    unevenness: float  # one sigma of the logarithm of luminance between parts of the cell
    doubt: float  # one sigma of the mean's logarithm, from texture alone


def sample_paint(
    pixels_rgb: Floats, place: NDArray[np.intp], parameters: SampleParameters = SAMPLE
) -> PaintSample:
    """Take the paint's colour from pixels (n, 3) relative to paper, at rows and columns (n, 2)."""
    luminance = pixels_rgb @ LUMINANCE
    log = np.log(np.maximum(luminance, 1e-3))
    like_paper = (np.abs(log) < parameters.bare_near) & _nearly_neutral(
        pixels_rgb, luminance, parameters.bare_tint
    )
    rest = ~like_paper
    some = rest.mean() > parameters.paint_share
    apart = some and median_of(log[rest]) < -parameters.paint_apart
    much = apart and rest.mean() > parameters.bare_rest
    bare = bool(like_paper.mean() > parameters.bare_share and not much)
    gap = None if bare else _gap(pixels_rgb, log, luminance, parameters)
    kept = rest.copy() if apart and not bare else np.ones(len(log), dtype=bool)
    if gap is not None:
        kept &= gap < parameters.paint_to
    for _ in range(3):
        away = np.abs(log - median_of(log[kept]))
        spread = max(float(quick_sigma(away[kept])), parameters.least_spread)
        kept &= away < parameters.clip * spread
    parts = _part_medians(log, place, kept, parameters)
    unevenness = float(np.std(parts)) if len(parts) > 3 else 0.0
    covered = float(rest.mean()) if apart else (0.0 if bare else 1.0)
    if gap is not None:
        covered = 1.0 - float(np.where(gap > parameters.gap_from, np.minimum(gap, 1.0), 0.0).mean())
    return PaintSample(
        rgb=pixels_rgb[kept].mean(axis=0),
        coverage=covered,
        bare=bare,
        gaps=gap is not None,
        unevenness=unevenness,
        doubt=unevenness / np.sqrt(max(len(parts), 1)),
    )


def _gap(
    pixels_rgb: Floats, log: Floats, luminance: Floats, parameters: SampleParameters
) -> Floats | None:
    """Say how far each pixel lies on the way from paint to paper (n,); None where none shows.

    Specks of paper end at paper's own colour, whatever the paint's, and little lies half way; shine
    goes past it or stops anywhere.
    """
    specks = (np.abs(log) < parameters.gap_near) & _nearly_neutral(
        pixels_rgb, luminance, parameters.gap_tint
    )
    if specks.mean() < parameters.gap_share:
        return None
    low, high = np.quantile(luminance, (0.1, 0.4))
    paint = median_of(pixels_rgb[(luminance >= low) & (luminance <= high)])
    way = 1.0 - paint
    if np.linalg.norm(way) < parameters.far_enough:
        return None
    gap = (pixels_rgb - paint) @ way / (way @ way)
    past = (gap > parameters.beyond).mean() > parameters.beyond_share
    between = (gap > parameters.half_way[0]) & (gap < parameters.half_way[1])
    return None if past or between.mean() > parameters.half_way_share else gap


def _nearly_neutral(
    pixels_rgb: Floats,
    luminance: Floats,
    tint: float,
) -> NDArray[np.bool_]:
    allowed = tint * luminance
    red, green, blue = pixels_rgb.T
    return np.asarray(
        (np.abs(red - luminance) < allowed)
        & (np.abs(green - luminance) < allowed)
        & (np.abs(blue - luminance) < allowed)
    )


def _part_medians(
    log: Floats, place: NDArray[np.intp], kept: NDArray[np.bool_], parameters: SampleParameters
) -> Floats:
    low, high = place.min(axis=0), place.max(axis=0) + 1
    block = ((place - low) * parameters.blocks // (high - low)).astype(int)
    index = block[:, 0] * parameters.blocks + block[:, 1]
    return medians_by(log[kept], index[kept], parameters.fewest_of_a_part)
