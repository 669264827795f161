"""The camera's tone curve and veil, undone from the grey patches.

The camera's own curve departs smoothly from sRGB and the printed greys depart from what was
sent, so the two are weighed against each other: a Gaussian prior on the curve, a Gaussian error on
each grey (where the print is unknown, dot gain shifts them all together). The blank paper
fixes the top of the curve.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

PAPER_LIGHTNESS, PAPER_SIGMA = 94.5, 1.0
"""L* of ordinary uncoated printing paper, and its spread between makes."""

PAPER_TINT = (0.2, -1.0)
"""Its a* and b*: whiteners make most papers a little bluish."""

UNKNOWN_PRINT_SIGMA = 1.5
"""One sigma of a single grey of an unknown printer, CIEDE2000, beside what all greys share."""

_PRINT_GAIN_SPREAD = 0.10
"""One sigma of an unknown printer's dot gain, as an exponent of reflectance less one: it looks
just like a camera's curve, so an unknown print can never tell the two quite apart."""

UNKNOWN_PRINT_BLACK = 0.012
"""Reflectance, relative to paper, of the darkest a school printer lays: L* 10 to 15."""

_CURVE_SPREAD = np.array([0.08, 0.03])  # one sigma of slope - 1 and of bend, in log-log
_CAMERA_NOISE = 0.006  # one sigma of a patch's measured logarithm of luminance


@dataclass(frozen=True, kw_only=True, eq=False)
class Tone:
    """log(true) = slope * log(seen) + bend * log(seen)^2, both relative to blank paper."""

    slope_less_one: float
    bend: float
    covariance: Floats  # (2, 2)

    def true(self, seen: Floats) -> Floats:
        """Give luminance relative to paper from what the linearised picture shows."""
        log = np.log(np.clip(seen, 1e-4, None))
        return np.asarray(np.exp(log * (1.0 + self.slope_less_one) + self.bend * log**2))

    def sigma_log(self, seen: Floats) -> Floats:
        """Give one sigma of the logarithm of that luminance."""
        log = np.log(np.clip(seen, 1e-4, None))
        basis = np.stack([log, log**2], axis=-1)
        variance = np.einsum("...i,ij,...j->...", basis, self.covariance, basis)
        return np.asarray(np.sqrt(variance))


def fit_tone(seen: Floats, true: Floats, sigma_log: Floats, guessed: NDArray[np.bool_]) -> Tone:
    """Fit the curve to greys seen (n,) and known (n,), luminance relative to paper.

    `guessed` tells the greys of an unknown print, which are wrong together.
    """
    if not len(seen):
        return Tone(slope_less_one=0.0, bend=0.0, covariance=np.diag(_CURVE_SPREAD**2))
    log = np.log(np.clip(seen, 1e-4, None))
    basis = np.stack([log, log**2], axis=1)
    miss = np.log(true) - log
    error = np.diag(sigma_log**2)
    gained = log * guessed
    error += _PRINT_GAIN_SPREAD**2 * np.outer(gained, gained)
    precision = np.linalg.inv(error + np.eye(len(log)) * _CAMERA_NOISE**2)
    covariance = np.linalg.inv(basis.T @ precision @ basis + np.diag(1.0 / _CURVE_SPREAD**2))
    slope, bend = covariance @ basis.T @ precision @ miss
    return Tone(slope_less_one=float(slope), bend=float(bend), covariance=covariance)
