"""What a sheet's cells share: a lamp's cast, a print's or a tube's, which is nobody's mistake.

A photograph's colours err together, and the more so the more alike they are: under one lamp all
greens lean one way. Tubes of another maker take every mix of theirs along. So before a cell is said
to stray, what the others lead one to expect of it is taken off. The reader's errors are a Gaussian
process over colour, in each of L*, a* and b*, whose sizes and reach were fitted to what it read of
stand-in sheets (tools/fit_shared_drift.py); what tubes do is linear in how they differ
(`core/exercises/tube_shifts`). Each cell is predicted from all others but itself, and cells far
from what is predicted pull less (the weights of a Cauchy likelihood), for their painter may have
erred there.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from noema.core.colour.chroma_weighted import chroma_weight, chroma_weighted
from noema.core.exercises.tube_shifts import TubeShifts
from noema.core.statistics.gaussian import leave_out_blocks, squared_exponential, with_blocks

Floats = NDArray[np.float64]

FAR = 1.2  # of the reader's sigmas: how far off a cell may be and still pull nearly in full
TURNS = 4  # in which weights and what they lead to settle
ROUGH = 0.3  # Lab units: one sigma of what the reader errs in each cell whatever its doubt
_LEAST = 0.05  # Lab units: no cell is surer


@dataclass(frozen=True, kw_only=True)
class ErrorSizes:
    """How a reader errs in one coordinate: variances in squares of its own sigma.

    Shapes are as tools/fit_shared_drift.py found them on usual kinds; their sum was widened towards
    the whole sigma, for kinds never met.
    """

    everywhere: float
    gain: float  # at a distance of `span` from the middle
    near: float  # shared by colours within reach
    reach: tuple[float, float, float]  # L*, a*, b*, the latter shrunk
    own: float  # of each cell alone
    middle: float
    span: float = 25.0


IN_LIGHTNESS = ErrorSizes(
    everywhere=0.29,
    gain=0.11,
    near=0.45,
    reach=(26.0, 8.7, 8.7),
    own=0.06,
    middle=55.0,
)
IN_COLOUR = ErrorSizes(
    everywhere=0.10,
    gain=0.05,
    near=0.55,
    reach=(15.0, 5.0, 5.0),
    own=0.04,
    middle=0.0,
)


@dataclass(frozen=True, kw_only=True, eq=False)
class SharedDrift:
    """What the other cells lead one to expect of each."""

    lab: Floats  # (n, 3) drifts of L*, a*, b*
    left: Floats  # (n, 3, 3) covariance of what the reader and the tubes leave in doubt, a* and b*
    #               drawn together as `chroma_weighted` has them
    hand: Floats  # (n, 3, 3) that of a careful hand, likewise


@dataclass(frozen=True, kw_only=True, eq=False)
class Drifts:
    """How the cells of a sheet drift, a* and b* drawn together, and what may move them."""

    drifts: Floats  # (n, 3) painted less expected
    scale: Floats  # (n, 3) by which L*, a* and b* were divided
    by_reader: Floats  # (3 n, 3 n) covariance of what it errs in alike
    own: Floats  # (n, 3, 3) that of what it errs in each cell alone
    hand: Floats  # (n, 3, 3) that of what a careful hand misses
    tubes: tuple[str, ...]  # names
    moves: Floats  # (3 n, tubes BENDS) what the tubes' bends do


def drifts_of(
    expected_lab: ArrayLike,
    painted_lab: ArrayLike,
    sigma_lightness: ArrayLike,
    sigma_colour: ArrayLike,
    shifts: TubeShifts,
) -> Drifts:
    """Give the drifts from expected to painted Lab, both (n, 3), and what may move them.

    One sigma of each painted cell is (n,): of its L*, and of its a* and b* drawn together.
    """
    expected, painted = np.asarray(expected_lab, float), np.asarray(painted_lab, float)
    count = len(expected)
    scale = np.ones_like(expected)
    scale[:, 1:] = chroma_weight(expected)[:, None]
    by_reader, own = np.zeros((3 * count, 3 * count)), np.zeros((count, 3, 3))
    for axis, (errors, sigma) in enumerate(coordinates(sigma_lightness, sigma_colour)):
        process = shared_covariance(expected, axis, errors) * np.outer(sigma, sigma)
        by_reader[axis::3, axis::3] += process
        own[:, axis, axis] = errors.own * sigma**2 + ROUGH**2
    return Drifts(
        drifts=(painted - expected) / scale,
        scale=scale,
        by_reader=by_reader,
        own=own,
        hand=shifts.by_hand / (scale[:, :, None] * scale[:, None, :]),
        tubes=shifts.tubes,
        moves=(shifts.by_bends / scale[:, :, None, None]).reshape(3 * count, -1),
    )


def covariance_of(drifts: Drifts, spread: Floats) -> Floats:
    """Give the covariance (3 n, 3 n) of all that may move a sheet's cells, mistakes aside."""
    together = np.asarray(drifts.by_reader + drifts.moves @ spread @ drifts.moves.T)
    return with_blocks(together, drifts.own + drifts.hand)


def shared_drift(drifts: Drifts, spread: Floats) -> SharedDrift:
    """Give what is shared of a sheet's drifts; `spread` is the covariance of its tubes' bends."""
    together = drifts.by_reader + drifts.moves @ spread @ drifts.moves.T
    alone = drifts.own + drifts.hand
    noise = alone
    for _ in range(TURNS):
        miss, variance = leave_out_blocks(together, noise, drifts.drifts)
        left = variance - noise + drifts.own
        noise = alone + (miss / FAR)[:, :, None] ** 2 * np.eye(3)
    return SharedDrift(lab=(drifts.drifts - miss) * drifts.scale, left=left, hand=drifts.hand)


def along_a_row(expected_lab: ArrayLike, drifts: Drifts, spread: Floats) -> Floats:
    """Give the covariance (n, n) of how far along its way each cell of a row seems to lie.

    In squares of CIEDE2000, nearly: what the reader errs, and what tubes and a careful hand do.
    """
    expected = np.asarray(expected_lab, float)
    way = np.gradient(chroma_weighted(expected), axis=0)
    way = way / np.maximum(np.linalg.norm(way, axis=1, keepdims=True), 1e-9)
    count = len(expected)
    blocks = covariance_of(drifts, spread).reshape(count, 3, count, 3)
    return np.asarray(np.einsum("ni,nimj,mj->nm", way, blocks, way))


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
