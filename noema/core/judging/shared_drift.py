"""What a sheet's cells share: a lamp's cast or a print's, which is nobody's mistake.

A photograph's colours err together, and the more so the more alike they are: under one lamp all
greens lean one way. So before a cell is said to stray, what the others lead one to expect of it is
taken off. The reader's errors are a Gaussian process over colour, in each of L*, a* and b*, whose
sizes and reach were fitted to stand-in sheets painted right (tools/fit_shared_drift.py). Each cell
is predicted from all others but itself, and cells far from what is predicted pull less (the weights
of a Cauchy likelihood), for their painter may have erred there.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from noema.core.colour.chroma_weighted import chroma_weight, chroma_weighted
from noema.core.statistics.gaussian import leave_one_out, squared_exponential

Floats = NDArray[np.float64]

_FAR = 1.2  # of the reader's sigmas: how far off a cell may be and still pull nearly in full
_TURNS = 4
_LEAST = 0.05  # Lab units: no cell is surer


@dataclass(frozen=True, kw_only=True)
class ErrorSizes:
    """How a reader errs in one coordinate: variances in squares of its own sigma.

    Fitted by tools/fit_shared_drift.py.
    """

    everywhere: float
    gain: float  # at a distance of `span` from the middle
    near: float  # shared by colours within reach
    reach: tuple[float, float, float]  # L*, a*, b*, the latter shrunk
    own: float  # of each cell alone
    hand: float  # one sigma of the painter's, in the same units
    middle: float
    span: float = 25.0

    @property
    def all(self) -> float:
        """The whole variance, at the span."""
        return self.everywhere + self.gain + self.near + self.own


IN_LIGHTNESS = ErrorSizes(
    everywhere=0.028,
    gain=0.033,
    near=0.234,
    reach=(36.0, 12.0, 12.0),
    own=0.072,
    hand=0.72,
    middle=55.0,
)
IN_COLOUR = ErrorSizes(
    everywhere=0.008,
    gain=0.007,
    near=0.062,
    reach=(14.4, 4.8, 4.8),
    own=0.008,
    hand=0.53,
    middle=0.0,
)


@dataclass(frozen=True, kw_only=True, eq=False)
class SharedDrift:
    """What the other cells lead one to expect of each."""

    lab: Floats  # (n, 3) drifts of L*, a*, b*
    left_of_value: Floats  # (n,) share of the doubt of its value that is left to a cell alone
    left_of_colour: Floats  # (n,) the same of its hue and chroma


def shared_drift(
    expected_lab: ArrayLike,
    painted_lab: ArrayLike,
    sigma_lightness: ArrayLike,
    sigma_colour: ArrayLike,
) -> SharedDrift:
    """Give what is shared of the drifts from expected to painted Lab, both (n, 3).

    One sigma of each painted cell is (n,): of its L*, and of its colour in CIEDE2000.
    """
    expected, painted = np.asarray(expected_lab, float), np.asarray(painted_lab, float)
    scale = np.ones_like(expected)
    scale[:, 1:] = chroma_weight(expected)[:, None]
    drifts = (painted - expected) / scale
    found = []
    for axis, (errors, sigma) in enumerate(coordinates(sigma_lightness, sigma_colour)):
        alone = errors.own + (errors.hand / sigma) ** 2
        together = shared_covariance(expected, axis, errors)
        expects, left = _from_the_others(drifts[:, axis] / sigma, together, alone)
        found.append((expects * sigma, np.sqrt((left + errors.own) / errors.all)))
    shared, left = (np.stack(one, axis=1) for one in zip(*found, strict=True))
    return SharedDrift(
        lab=shared * scale,
        left_of_value=np.minimum(left[:, 0], 1.0),
        left_of_colour=np.minimum(np.hypot(left[:, 1], left[:, 2]) / np.sqrt(2.0), 1.0),
    )


def along_a_row(
    expected_lab: ArrayLike, sigma_lightness: ArrayLike, sigma_colour: ArrayLike
) -> Floats:
    """Give the covariance (n, n) of how far along its way each cell of a row seems to lie.

    In squares of CIEDE2000, nearly: what the reader errs and what the painter does.
    """
    expected = np.asarray(expected_lab, float)
    way = np.gradient(chroma_weighted(expected), axis=0)
    way = way / np.maximum(np.linalg.norm(way, axis=1, keepdims=True), 1e-9)
    covariance = np.zeros((len(expected), len(expected)))
    for axis, (errors, sigma) in enumerate(coordinates(sigma_lightness, sigma_colour)):
        moves = way[:, axis] * sigma
        covariance += np.outer(moves, moves) * shared_covariance(expected, axis, errors)
        covariance += np.diag((way[:, axis] * errors.hand) ** 2 + errors.own * moves**2)
    return covariance


def coordinates(lightness: ArrayLike, colour: ArrayLike) -> tuple[tuple[ErrorSizes, Floats], ...]:
    """Give how L*, a* and b* err, and one sigma (n,) of each, a* and b* drawn together."""
    light, tint = (np.maximum(np.asarray(one, float), _LEAST) for one in (lightness, colour))
    return (IN_LIGHTNESS, light), (IN_COLOUR, tint), (IN_COLOUR, tint)


def shared_covariance(expected: Floats, axis: int, errors: ErrorSizes) -> Floats:
    """Give the covariance (n, n) of errors that cells share, in squares of their own sigma."""
    away = (expected[:, axis] - errors.middle) / errors.span
    near = errors.near * _nearness(chroma_weighted(expected), errors)
    return np.asarray(errors.everywhere + errors.gain * np.outer(away, away) + near)


def _nearness(places: Floats, errors: ErrorSizes) -> Floats:
    return squared_exponential(places[:, None] - places[None], errors.reach)


def _from_the_others(drift: Floats, together: Floats, alone: Floats) -> tuple[Floats, Floats]:
    """Predict each drift from all others, (n,), and give the variance of what is shared, (n,)."""
    noise = alone
    for _ in range(_TURNS):
        found = leave_one_out(together, noise, drift)
        left = np.maximum(found.variance - noise, 0.0)
        noise = alone + (found.miss / _FAR) ** 2
    return drift - found.miss, left
