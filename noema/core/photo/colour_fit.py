"""The camera's colours, undone: a root-polynomial map weighed between cameras and patches.

Root-polynomial terms (Finlayson, Mackiewicz and Hurlbert 2015) don't change with exposure. What
cameras usually do to paint under the lamps of class rooms is known from many stand-in ones
(`data/colour_prior.csv`, made by tools/make_colour_prior.py); the patches on the sheet move that
as far as their own colours are known. Both errors come out as a covariance.
"""

from dataclasses import dataclass
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.wide import WIDE_LUMINANCE

Floats = NDArray[np.float64]

OUT, TERMS = 3, 6
_FLOOR = 0.02  # of luminance, under which errors no longer shrink with it
_DIM = 1e-5
_GREY_REST = 0.92  # of a middling colour's: measured, paint differs nearly alike at all saturations


@dataclass(frozen=True, kw_only=True, eq=False)
class ColourFit:
    """A map from a camera's colours to true ones, linear BT.2020 relative to blank paper."""

    mean: Floats  # (3, 6)
    covariance: Floats  # (18, 18)
    rest: Floats  # (3, 3) weighted covariance that no map takes away, at a middling saturation

    def true(self, seen: Floats) -> Floats:
        """Give true linear RGB (n, 3) of what was seen (n, 3)."""
        return np.asarray(root_terms(seen) @ self.mean.T)

    def covariance_of(self, seen: Floats) -> Floats:
        """Give the covariance (n, 3, 3) of those."""
        terms = root_terms(seen)
        blocks = self.covariance.reshape(OUT, TERMS, OUT, TERMS)
        shared = np.einsum("nt,itju,nu->nij", terms, blocks, terms)
        true = self.true(seen)
        own = (rest_at(true) / weight_of(true)) ** 2
        return np.asarray(shared + own[:, None, None] * self.rest)


def root_terms(seen: Floats) -> Floats:
    """Give the six terms (n, 6) of linear RGB (n, 3)."""
    red, green, blue = np.maximum(seen, _DIM).T
    return np.stack(
        [red, green, blue, np.sqrt(red * green), np.sqrt(green * blue), np.sqrt(red * blue)],
        axis=-1,
    )


def weight_of(true: Floats) -> Floats:
    """Give weights (n,) under which errors of linear RGB (n, 3) look alike to the eye."""
    luminance = np.maximum(true @ WIDE_LUMINANCE, 0.0)
    return np.asarray((luminance + _FLOOR) ** (-2.0 / 3.0))


def rest_at(true: Floats) -> Floats:
    """Give how much more or less than middling what no map takes away is, (n,)."""
    top = np.maximum(true.max(axis=1), _DIM)
    saturation = 1.0 - np.maximum(true.min(axis=1), 0.0) / top
    return np.asarray(_GREY_REST + (1.0 - _GREY_REST) * 2.0 * saturation)


def fit_colour(seen: Floats, true: Floats, sigma: Floats) -> ColourFit:
    """Weigh the usual camera against patches seen (n, 3), known (n, 3) with sigma (n, 3)."""
    if not len(seen):
        return _USUAL
    terms = root_terms(seen)
    usual = np.sqrt(np.diag(_USUAL.rest)) * (rest_at(true) / weight_of(true))[:, None]
    spread = np.hypot(sigma, usual)
    precision = np.linalg.inv(_USUAL.covariance)
    right = precision @ _USUAL.mean.ravel()
    for channel in range(OUT):
        scaled = terms / spread[:, channel : channel + 1]
        place = slice(channel * TERMS, (channel + 1) * TERMS)
        precision[place, place] += scaled.T @ scaled
        right[place] += scaled.T @ (true[:, channel] / spread[:, channel])
    covariance = np.linalg.inv(precision)
    mean = (covariance @ right).reshape(OUT, TERMS)
    # How badly patches fit says nothing of how badly paint does: measured, they don't go together.
    return ColourFit(mean=mean, covariance=covariance, rest=_USUAL.rest)


def _load() -> ColourFit:
    table = np.loadtxt(Path(__file__).parent / "data" / "colour_prior.csv", delimiter=",")
    size = OUT * TERMS
    covariance = table[1 : 1 + size] + 1e-9 * np.eye(size)
    return ColourFit(
        mean=table[0].reshape(OUT, TERMS), covariance=covariance, rest=table[1 + size :, :OUT]
    )


_USUAL = _load()
