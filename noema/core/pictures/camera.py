"""What a camera did to a painted picture: undone as far as one pair of tubes explains it.

Exposure, a lamp's cast and a phone's curve shift all colours of a photograph together, and the
mixes of two tubes and white lie on a surface. Where a shift of the usual size lays nearly all of a
picture onto the surface of one pair, the picture was painted with that pair and photographed.
Tubes that lie close together can't be told apart so: a strip or a card would have to lie beside it.
"""

from dataclasses import dataclass

import numpy as np
from scipy.optimize import least_squares
from scipy.spatial import cKDTree

from noema.core.colour.difference import ciede2000
from noema.core.colour.srgb import lab_to_linear, linear_to_lab
from noema.core.photo.sample import LUMINANCE
from noema.core.pictures.colours import Floats

_MEAN = np.array([0.22, 0.0, 0.0, 0.0, 0.0])
_SIGMA = np.array([0.15, 0.05, 0.05, 0.1, 0.1])
"""Logarithms of: exposure (phones leave room above white), the casts of red and blue beside green,
a curve's exponent, how much too intense colours are. Choices, near what phones do."""

_STARTS = np.array([[0.0, 0.0, 0.0, 0.0, 0.0], [-1.5, 0.0, 0.0, 0.0, 0.0]])  # in sigmas
_MISS, _WORTH = 8.0, 30.0  # of Lab, that is one sigma; colours a picture counts for
_MOST_MISSED = 30.0  # of Lab, beyond which a colour says no more
_STEP, _MOST_TRIES = 0.02, 12
_SHIFT_COSTS = 0.05  # CIEDE2000 for each squared sigma of a shift
_CAPPED = 10.0


@dataclass(frozen=True, kw_only=True, eq=False)
class CameraShift:
    """How much a camera shifted colours, in sigmas of what cameras do."""

    sigmas: Floats  # (5,)

    def undone(self, lab: Floats) -> Floats:
        """Give the colours of paint (n, 3) that were photographed as these."""
        exposure, red, blue, curve, intense = _MEAN + _SIGMA * self.sigmas
        light = np.maximum(lab_to_linear(lab), 1e-5) * np.exp(exposure + np.array([red, 0.0, blue]))
        light = light ** np.exp(curve)
        grey = (light @ LUMINANCE)[:, None]
        return linear_to_lab(np.clip(grey + np.exp(-intense) * (light - grey), 0.0, 1.0))


USUAL_SHIFT = CameraShift(sigmas=np.zeros(len(_SIGMA)))
"""What cameras usually do."""


@dataclass(frozen=True, kw_only=True, eq=False)
class FittedShift:
    """A shift, and how well it explains a picture by some mixes."""

    shift: CameraShift
    cost: float  # mean CIEDE2000 left, and what the shift costs


def fit_shift(mixes: Floats, lab: Floats, weight: Floats) -> FittedShift:
    """Find the likeliest shift that lays colours (n, 3) onto some mixes (m, 3).

    `weight` (n,) is each colour's share of the area.
    """
    tree = cKDTree(mixes)
    say = np.sqrt(_WORTH * weight / weight.sum())

    def misses(sigmas: Floats) -> Floats:
        away, _ = tree.query(CameraShift(sigmas=sigmas).undone(lab))
        return np.concatenate([say * np.minimum(away, _MOST_MISSED) / _MISS, sigmas])

    steps = np.full(len(_SIGMA), _STEP)
    tried = [
        least_squares(misses, start, diff_step=steps, max_nfev=_MOST_TRIES) for start in _STARTS
    ]
    best = min(tried, key=lambda one: float(one.cost))
    shift = CameraShift(sigmas=np.asarray(best.x))
    _, near = tree.query(shift.undone(lab))
    left = np.minimum(ciede2000(mixes[near], shift.undone(lab)), _CAPPED)
    mean = float(left @ weight / weight.sum())
    return FittedShift(shift=shift, cost=mean + _SHIFT_COSTS * float(best.x @ best.x))
