"""How a tube of another maker may differ from the one described: smooth bends of its curves.

K is multiplied by a factor that runs through six knots, S by a level and a tilt. How far makers
bend a tube is our own estimate: pigments sold under one name differ in edge and transparency so
that masstones lie a few CIEDE2000 apart, seldom more than eight.
"""

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.spectra import WAVELENGTHS_NM
from noema.core.pigments.shelf import TUBES, WHITE
from noema.core.pigments.tube import Tube
from noema.core.statistics.gaussian import squared_exponential

Floats = NDArray[np.float64]

KNOTS_NM = np.array([400.0, 460.0, 520.0, 580.0, 640.0, 700.0])
BENDS = len(KNOTS_NM) + 1
"""Numbers by which a maker's tube differs, its strength aside: K at the knots, then S's tilt."""

_BASIS = np.stack([np.interp(WAVELENGTHS_NM, KNOTS_NM, row) for row in np.eye(len(KNOTS_NM))])
_MIDDLE_NM = 560.0
_SPREAD, _TOGETHER, _REACH_NM = 0.4, 0.4, 60.0
"""One sigma of the logarithm of K against S at a knot, the share of its variance that all knots
have in common, and how far the rest reaches."""

_TILT = 0.25  # one sigma of the power of the wavelength by which S tilts


def bent(tube: Tube, bends: Floats, level: float = 0.0) -> tuple[Floats, Floats]:
    """Give K and S (..., 31) of a tube bent by (..., BENDS); S times e to the level.

    White stays the lightest paint at every wavelength, so that adding it never darkens.
    """
    knots, tilt = bends[..., :-1], bends[..., -1:]
    absorption = tube.absorption * np.exp(knots @ _BASIS)
    scattering = tube.scattering * np.exp(level) * (_MIDDLE_NM / WAVELENGTHS_NM) ** tilt
    if tube.name == WHITE:
        return absorption, scattering
    white = TUBES[WHITE]
    return np.maximum(absorption, scattering * white.absorption / white.scattering), scattering


def spread_of_makers() -> Floats:
    """Give the covariance (BENDS, BENDS) of the bends by which makers' tubes differ."""
    apart = (KNOTS_NM[:, None] - KNOTS_NM)[..., None]
    near = squared_exponential(apart, _REACH_NM)
    covariance = np.zeros((BENDS, BENDS))
    covariance[:-1, :-1] = _SPREAD**2 * (_TOGETHER + (1.0 - _TOGETHER) * near)
    covariance[-1, -1] = _TILT**2
    return covariance


def independently(count: int) -> Floats:
    """Give the covariance (count BENDS, count BENDS) of tubes that tell nothing of each other."""
    return np.asarray(np.kron(np.eye(count), spread_of_makers()), dtype=np.float64)
