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
from noema.core.photo.parameters.colour import COLOUR, ColourParameters
from noema.core.statistics.gaussian import updated

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True, eq=False)
class Tone:
    """The logarithm of light departs from what the file says by weighted terms of its value."""

    weights: Floats  # (3,)
    covariance: Floats  # (3, 3)
    parameters: ColourParameters

    def true(self, seen: Floats, light: Floats) -> Floats:
        """Give light relative to paper, from the file's over the paper's, and that of the paper."""
        return np.asarray(seen * np.exp(bends(seen, light, self.parameters) @ self.weights))

    def sigma_log(self, seen: Floats, light: Floats) -> Floats:
        """Give one sigma of its logarithm."""
        basis = bends(seen, light, self.parameters)
        variance = np.einsum("...i,ij,...j->...", basis, self.covariance, basis)
        return np.asarray(np.sqrt(variance))


def bends(seen: Floats, light: Floats, parameters: ColourParameters = COLOUR) -> Floats:
    """Give how the terms of a curve move a colour against the paper beside it, (..., 3)."""
    return np.asarray(_terms(seen * light, parameters) - _terms(np.asarray(light), parameters))


def _terms(linear: Floats, parameters: ColourParameters) -> Floats:
    value = np.clip(linear, parameters.darkest, parameters.brightest)
    stored = linear_to_srgb(value)
    return np.stack([np.log(value), stored, stored**2], axis=-1)


@dataclass(frozen=True, kw_only=True, eq=False)
class Greys:
    """Greys in a photograph: luminance relative to paper, as seen and as known, (n,) each."""

    seen: Floats
    light: Floats  # luminance of the paper beside each
    true: Floats
    sigma_log: Floats
    gain: Floats  # one sigma of the dot gain by which they are wrong together, exponent less one


def fit_tone(greys: Greys | None = None, parameters: ColourParameters = COLOUR) -> Tone:
    """Fit the curve to greys; without any, give the usual one."""
    none = np.zeros(len(parameters.curve))
    if greys is None:
        return Tone(weights=none, covariance=parameters.curve, parameters=parameters)
    log = np.log(np.clip(greys.seen, parameters.darkest, None))
    basis = bends(greys.seen, greys.light, parameters)
    miss = np.log(greys.true) - log
    error = np.diag(greys.sigma_log**2)
    gained = log * greys.gain
    error += np.outer(gained, gained)
    error += np.eye(len(log)) * parameters.camera_noise**2
    weights, covariance = updated(none, parameters.curve, basis, miss, error)
    return Tone(weights=weights, covariance=covariance, parameters=parameters)
