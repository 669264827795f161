"""One cell's paint, told apart from bare paper, pencil and ragged edges."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.statistics.medians import median_of, medians_by

Floats = NDArray[np.float64]

_BARE_NEAR = 0.06  # logarithm of luminance within which a pixel may be bare paper
_PAINT_APART = 0.15  # paint this much darker than paper can be told from missed paper
_BLOCKS = 4  # a cell's unevenness is judged over 4 x 4 parts
_BARE_TINT = 0.08  # how far a channel of bare paper may lie from its luminance
_CLIP = 2.5
_GAP_NEAR, _GAP_TINT = 0.12, 0.12  # the same for specks of paper, which blur mixes with paint
_GAP_SHARE = 0.02  # of a cell that must be such specks before paint counts as broken by them
_GAP_FROM, _PAINT_TO = 0.25, 0.2  # of the way from paint to paper: gap, and still paint
_HALF_WAY, _HALF_WAY_SHARE = (0.25, 0.7), 0.28  # from which it is no speck: shine is any amount
_BEYOND, _BEYOND_SHARE = 1.15, 0.01  # brighter than paper: shine, not paper
_FAR_ENOUGH = 0.35  # between paint and paper, linear: paler paint can't be told from its gaps
_FEWEST_OF_A_PART = 12  # pixels

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


def sample_paint(pixels_rgb: Floats, place: NDArray[np.intp]) -> PaintSample:
    """Take the paint's colour from pixels (n, 3) relative to paper, at rows and columns (n, 2)."""
    luminance = pixels_rgb @ LUMINANCE
    log = np.log(np.maximum(luminance, 1e-3))
    like_paper = (np.abs(log) < _BARE_NEAR) & _nearly_neutral(pixels_rgb, luminance)
    rest = ~like_paper
    apart = rest.mean() > 0.04 and median_of(log[rest]) < -_PAINT_APART
    bare = bool(like_paper.mean() > 0.85 and not (apart and rest.mean() > 0.15))
    gap = None if bare else _gap(pixels_rgb, log, luminance)
    kept = rest.copy() if apart and not bare else np.ones(len(log), dtype=bool)
    if gap is not None:
        kept &= gap < _PAINT_TO
    for _ in range(3):
        away = np.abs(log - median_of(log[kept]))
        spread = max(1.4826 * float(median_of(away[kept])), 0.01)
        kept &= away < _CLIP * spread
    parts = _part_medians(log, place, kept)
    unevenness = float(np.std(parts)) if len(parts) > 3 else 0.0
    covered = float(rest.mean()) if apart else (0.0 if bare else 1.0)
    if gap is not None:
        covered = 1.0 - float(np.where(gap > _GAP_FROM, np.minimum(gap, 1.0), 0.0).mean())
    return PaintSample(
        rgb=pixels_rgb[kept].mean(axis=0),
        coverage=covered,
        bare=bare,
        gaps=gap is not None,
        unevenness=unevenness,
        doubt=unevenness / np.sqrt(max(len(parts), 1)),
    )


def _gap(pixels_rgb: Floats, log: Floats, luminance: Floats) -> Floats | None:
    """Say how far each pixel lies on the way from paint to paper (n,); None where none shows.

    Specks of paper end at paper's own colour, whatever the paint's, and little lies half way; shine
    goes past it or stops anywhere.
    """
    specks = (np.abs(log) < _GAP_NEAR) & _nearly_neutral(pixels_rgb, luminance, _GAP_TINT)
    if specks.mean() < _GAP_SHARE:
        return None
    low, high = np.quantile(luminance, (0.1, 0.4))
    paint = median_of(pixels_rgb[(luminance >= low) & (luminance <= high)])
    way = 1.0 - paint
    if np.linalg.norm(way) < _FAR_ENOUGH:
        return None
    gap = (pixels_rgb - paint) @ way / (way @ way)
    past = (gap > _BEYOND).mean() > _BEYOND_SHARE
    between = (gap > _HALF_WAY[0]) & (gap < _HALF_WAY[1])
    return None if past or between.mean() > _HALF_WAY_SHARE else gap


def _nearly_neutral(
    pixels_rgb: Floats, luminance: Floats, tint: float = _BARE_TINT
) -> NDArray[np.bool_]:
    allowed = tint * luminance
    red, green, blue = pixels_rgb.T
    return np.asarray(
        (np.abs(red - luminance) < allowed)
        & (np.abs(green - luminance) < allowed)
        & (np.abs(blue - luminance) < allowed)
    )


def _part_medians(log: Floats, place: NDArray[np.intp], kept: NDArray[np.bool_]) -> Floats:
    low, high = place.min(axis=0), place.max(axis=0) + 1
    block = ((place - low) * _BLOCKS // (high - low)).astype(int)
    index = block[:, 0] * _BLOCKS + block[:, 1]
    return medians_by(log[kept], index[kept], _FEWEST_OF_A_PART)
