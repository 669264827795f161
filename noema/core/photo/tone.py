"""The camera's tone curve, undone from the grey patches.

A camera bends what it stores by how bright it is, so that a paint is bent otherwise where the
light is weaker: the curve is a smooth one of the file's own values, and the paper beside each
colour is bent by it as well. It departs smoothly from sRGB and the printed greys depart from what
was sent, so the two are weighed against each other: a Gaussian prior on the curve, a Gaussian error
on each grey (where the print is unknown, dot gain shifts them all together).
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.srgb import linear_to_srgb

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

_GAMMA_SPREAD, _CONTRAST_SPREAD, _ANY_BEND = 0.05, 0.12, 0.15
"""One sigma of a camera's exponent less one, of a curve that darkens darks and lightens lights, and
of any other slow bend."""

_CONTRAST = np.array([0.0, 13.7, -9.1])
"""How such a curve, 4 v (v - 1/2) (1 - v) added to a value v, looks in terms of `_terms`: times
the logarithm's slope under sRGB's power, 2.4 / v, a little less where its toe is."""

_CURVE = (
    np.diag([_GAMMA_SPREAD, _ANY_BEND, _ANY_BEND]) ** 2
    + np.outer(_CONTRAST, _CONTRAST) * _CONTRAST_SPREAD**2
)
_CAMERA_NOISE = 0.006  # one sigma of a patch's measured logarithm of luminance
_DARKEST, _BRIGHTEST = 1e-4, 1.2  # of what a file can hold, linear


@dataclass(frozen=True, kw_only=True, eq=False)
class Tone:
    """The logarithm of light departs from what the file says by weighted terms of its value."""

    weights: Floats  # (3,)
    covariance: Floats  # (3, 3)

    def true(self, seen: Floats, light: Floats) -> Floats:
        """Give light relative to paper, from the file's over the paper's, and that of the paper."""
        return np.asarray(seen * np.exp(bends(seen, light) @ self.weights))

    def sigma_log(self, seen: Floats, light: Floats) -> Floats:
        """Give one sigma of its logarithm."""
        basis = bends(seen, light)
        variance = np.einsum("...i,ij,...j->...", basis, self.covariance, basis)
        return np.asarray(np.sqrt(variance))


def bends(seen: Floats, light: Floats) -> Floats:
    """Give how the terms of a curve move a colour against the paper beside it, (..., 3)."""
    return np.asarray(_terms(seen * light) - _terms(np.asarray(light)))


def _terms(linear: Floats) -> Floats:
    value = np.clip(linear, _DARKEST, _BRIGHTEST)
    stored = linear_to_srgb(value)
    return np.stack([np.log(value), stored, stored**2], axis=-1)


@dataclass(frozen=True, kw_only=True, eq=False)
class Greys:
    """Greys in a photograph: luminance relative to paper, as seen and as known, (n,) each."""

    seen: Floats
    light: Floats  # luminance of the paper beside each
    true: Floats
    sigma_log: Floats
    guessed: NDArray[np.bool_]  # of an unknown print: wrong together


def fit_tone(greys: Greys | None = None) -> Tone:
    """Fit the curve to greys; without any, give the usual one."""
    if greys is None:
        return Tone(weights=np.zeros(len(_CURVE)), covariance=_CURVE)
    log = np.log(np.clip(greys.seen, _DARKEST, None))
    basis = bends(greys.seen, greys.light)
    miss = np.log(greys.true) - log
    error = np.diag(greys.sigma_log**2)
    gained = log * greys.guessed
    error += _PRINT_GAIN_SPREAD**2 * np.outer(gained, gained)
    precision = np.linalg.inv(error + np.eye(len(log)) * _CAMERA_NOISE**2)
    covariance = np.linalg.inv(basis.T @ precision @ basis + np.linalg.inv(_CURVE))
    return Tone(weights=covariance @ basis.T @ precision @ miss, covariance=covariance)
