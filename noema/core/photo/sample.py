"""One cell's paint, told apart from bare paper, pencil and ragged edges."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.photo.middle import middle, middles_by

Floats = NDArray[np.float64]

_BARE_NEAR = 0.06  # logarithm of luminance within which a pixel may be bare paper
_PAINT_APART = 0.15  # paint this much darker than paper can be told from missed paper
_BLOCKS = 4  # a cell's unevenness is judged over 4 x 4 parts
_BARE_TINT = 0.08  # how far a channel of bare paper may lie from its luminance
_CLIP = 2.5
_FEWEST_OF_A_PART = 12  # pixels

LUMINANCE = np.array([0.2126, 0.7152, 0.0722])
"""Share of each linear sRGB channel in luminance (IEC 61966-2-1)."""


@dataclass(frozen=True, kw_only=True, eq=False)
class PaintSample:
    """The paint of one cell."""

    rgb: Floats  # (3,) linear, relative to blank paper
    coverage: float  # painted share, 0..1
    bare: bool  # nothing distinguishes it from paper
    unevenness: float  # one sigma of the logarithm of luminance between parts of the cell
    doubt: float  # one sigma of the mean's logarithm, from texture alone


def sample_paint(pixels_rgb: Floats, place: NDArray[np.intp]) -> PaintSample:
    """Take the paint's colour from pixels (n, 3) relative to paper, at rows and columns (n, 2)."""
    luminance = pixels_rgb @ LUMINANCE
    log = np.log(np.maximum(luminance, 1e-3))
    like_paper = (np.abs(log) < _BARE_NEAR) & _nearly_neutral(pixels_rgb, luminance)
    rest = ~like_paper
    apart = rest.mean() > 0.04 and middle(log[rest]) < -_PAINT_APART
    bare = bool(like_paper.mean() > 0.85 and not (apart and rest.mean() > 0.15))
    kept = rest.copy() if apart and not bare else np.ones(len(log), dtype=bool)
    for _ in range(3):
        away = np.abs(log - middle(log[kept]))
        spread = max(1.4826 * float(middle(away[kept])), 0.01)
        kept &= away < _CLIP * spread
    parts = _part_medians(log, place, kept)
    unevenness = float(np.std(parts)) if len(parts) > 3 else 0.0
    return PaintSample(
        rgb=pixels_rgb[kept].mean(axis=0),
        coverage=float(rest.mean()) if apart else (0.0 if bare else 1.0),
        bare=bare,
        unevenness=unevenness,
        doubt=unevenness / np.sqrt(max(len(parts), 1)),
    )


def _nearly_neutral(pixels_rgb: Floats, luminance: Floats) -> NDArray[np.bool_]:
    allowed = _BARE_TINT * luminance
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
    return middles_by(log[kept], index[kept], _FEWEST_OF_A_PART)
