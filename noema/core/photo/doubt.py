"""How far a cell's colour may be wrong, from everything that made it."""

from dataclasses import dataclass

import numpy as np

from noema.core.colour.difference import lightness_weight
from noema.core.colour.value import lightness_to_value
from noema.core.photo.sample import PaintSample
from noema.core.photo.tone import Tone
from noema.core.sheet.layout import Triple

_CAMERA_LOG = 0.012  # one sigma of the logarithm of luminance the camera itself adds to a cell
_COLOUR_SIGMA = 1.0  # of a* and b*: a neutral strip says little about the camera's colours
_TONE_BETWEEN_CELLS = 0.3  # share of the tone curve's doubt that a difference of cells keeps


@dataclass(frozen=True, kw_only=True)
class Doubt:
    """One sigma of a cell's colour."""

    sigma: float  # CIEDE2000
    sigma_value: float  # value steps, absolute
    sigma_step: float  # value steps, against other cells of the sheet


def cell_doubt(
    sample: PaintSample,
    tone: Tone,
    light_scatter: float,
    lightness: float,
    paper: tuple[Triple, float],
) -> Doubt:
    """Add up light, tone, texture, camera and paper as independent errors of log luminance."""
    luminance = float(np.mean(sample.rgb))
    curve = float(tone.sigma_log(np.array(luminance)))
    own = float(np.sqrt(light_scatter**2 + sample.doubt**2 + _CAMERA_LOG**2))
    paper_log = paper[1] / _lightness_slope(paper[0][0])
    slope = _lightness_slope(lightness)
    sigma_l = slope * float(np.sqrt(own**2 + curve**2 + paper_log**2))
    step_l = slope * float(np.sqrt(own**2 + (_TONE_BETWEEN_CELLS * curve) ** 2))
    per_l = float(lightness_to_value(lightness + 0.5) - lightness_to_value(lightness - 0.5))
    seen = sigma_l / float(lightness_weight(lightness))
    return Doubt(
        sigma=float(np.hypot(seen, _COLOUR_SIGMA)),
        sigma_value=sigma_l * per_l,
        sigma_step=step_l * per_l,
    )


def _lightness_slope(lightness: float) -> float:
    """Give how L* changes with the logarithm of luminance: a third of L* + 16."""
    return (lightness + 16.0) / 3.0
