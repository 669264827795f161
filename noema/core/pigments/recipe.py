"""The simplest mix for a colour: at most four tubes, in parts a person can measure."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations, product

import numpy as np
from numpy.typing import ArrayLike, NDArray
from scipy.optimize import least_squares

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import HVC, hvcs_of
from noema.core.errors import BadPaint
from noema.core.language import gettext
from noema.core.pigments.amounts import FINEST, can_be_measured, parts_of, whole_parts
from noema.core.pigments.film import DRY_ACRYLIC, Surface
from noema.core.pigments.mix import Part, mix_labs
from noema.core.pigments.qualities import strengths
from noema.core.pigments.tube import Tube

Floats = NDArray[np.float64]

MOST_TUBES = 4
TUBE_COSTS = 0.8
"""CIEDE2000 by which one more tube must come nearer to be worth it: about what the eye sees."""

_PART_COSTS = 0.12  # CIEDE2000 for each doubling of the parts to count out
_LATTICE = 2.0 ** np.array([-5.0, -2.5, 0.0, 2.5, 5.0])  # pulls tried beside the first tube's
_PROMISING, _FOURTHS, _ROUNDED = 18, 2, 6  # mixes refined; given a fourth tube; rounded
_TURNS = 5
_FINEST_LOG = np.log(FINEST)
_STAYS = 0.05  # CIEDE2000 that an amount changed by a factor of e costs
_DAMPING = 0.05  # keeps a step small where the slopes say little


@dataclass(frozen=True, kw_only=True)
class Recipe:
    """How to come as near as these tubes allow."""

    parts: tuple[Part, ...]  # largest first
    lab: tuple[float, float, float]
    hvc: HVC
    target: HVC
    away: float  # CIEDE2000 still to go


def recipe(
    target_lab: ArrayLike, tubes: tuple[Tube, ...], surface: Surface = DRY_ACRYLIC
) -> Recipe:
    """Find the simplest mix of the tubes that comes nearest a Lab colour."""
    parts, lab, away = nearest_parts(target_lab, tubes, surface)
    got, wanted = hvcs_of(np.stack([lab, np.asarray(target_lab, dtype=float)]))
    lightness, a, b = lab.tolist()
    return Recipe(parts=parts, lab=(lightness, a, b), hvc=got, target=wanted, away=away)


def nearest_parts(
    target_lab: ArrayLike, tubes: tuple[Tube, ...], surface: Surface = DRY_ACRYLIC
) -> tuple[tuple[Part, ...], Floats, float]:
    """Give a recipe's parts, their Lab (3,) and the CIEDE2000 still to go, and nothing more."""
    if not tubes:
        raise BadPaint(gettext("A recipe needs at least one tube: choose a paint set first."))
    target = np.asarray(target_lab, dtype=float)
    mixes = refined(tubes, _starts(tubes, target, surface), target, surface)
    mixes = np.concatenate([mixes, _with_fourth(tubes, mixes, target, surface)])
    away = ciede2000(mix_labs(tubes, mixes, surface), target)
    worth = away + TUBE_COSTS * (mixes > 0).sum(axis=1)
    ways = np.concatenate([whole_parts(mix) for mix in mixes[np.argsort(worth)[:_ROUNDED]]])
    ways = np.unique(ways[can_be_measured(ways)], axis=0)
    labs = mix_labs(tubes, ways, surface)
    away = ciede2000(labs, target)
    cost = away + TUBE_COSTS * (ways > 0).sum(axis=1) + _PART_COSTS * np.log2(ways.sum(axis=1))
    best = int(np.argmin(cost))
    return parts_of(tubes, ways[best]), labs[best], float(away[best])


@lru_cache(maxsize=32)
def _lattice(tubes: tuple[Tube, ...]) -> Floats:
    """Give a coarse net of all mixes of up to three tubes, (m, n); remembered."""
    count = len(tubes)
    rows = [np.eye(count)]
    for size in (2, 3):
        pulls = np.array([(1.0, *rest) for rest in product(_LATTICE, repeat=size - 1)])
        for places in combinations(range(count), size):
            row = np.zeros((len(pulls), count))
            row[:, places] = pulls
            rows.append(row)
    amounts = np.concatenate(rows) / _pulling(tubes)
    return np.asarray(amounts / amounts.max(axis=1, keepdims=True))


@lru_cache(maxsize=32)
def _lattice_labs(tubes: tuple[Tube, ...], surface: Surface) -> Floats:
    return mix_labs(tubes, _lattice(tubes), surface)


def forget() -> None:
    """Forget the nets of all sets, as a new process would begin."""
    _lattice.cache_clear()
    _lattice_labs.cache_clear()


def _pulling(tubes: tuple[Tube, ...]) -> Floats:
    """Give strengths, white's raised so that the net covers pale tints as well as deep ones."""
    return np.maximum(strengths(tubes), 4.0)


def _starts(tubes: tuple[Tube, ...], target: Floats, surface: Surface) -> Floats:
    """Give the most promising mixes of the net, one for each choice of tubes."""
    net = _lattice(tubes)
    off = _misses(_lattice_labs(tubes, surface), target)
    score = np.hypot(np.hypot(off[:, 0], off[:, 1]), off[:, 2])
    ranked = np.argsort(score)[: _PROMISING * 12]
    used = (net[ranked] > 0) @ (1 << np.arange(len(tubes)))
    _, first = np.unique(used, return_index=True)
    return np.asarray(net[ranked[np.sort(first)[:_PROMISING]]])


def _with_fourth(
    tubes: tuple[Tube, ...], mixes: Floats, target: Floats, surface: Surface
) -> Floats:
    """Try a little of one more tube in the best mixes, and refine."""
    away = ciede2000(mix_labs(tubes, mixes, surface), target)
    best = mixes[np.argsort(away)[:_FOURTHS]]
    best = best[(best > 0).sum(axis=1) < MOST_TUBES]
    if not len(best):
        return np.empty((0, len(tubes)))
    little = 0.1 / _pulling(tubes)
    more = best[:, None, :] + np.eye(len(tubes)) * little * (best[:, None, :] == 0)
    more = more.reshape(-1, len(tubes))
    return refined(tubes, np.unique(more, axis=0), target, surface)


def refined(tubes: tuple[Tube, ...], starts: Floats, target: Floats, surface: Surface) -> Floats:
    """Move the amounts of every mix (m, n) towards the target by damped Gauss-Newton steps.

    Tubes with amount 0 stay out; the largest amount of each mix comes back as 1.
    """
    used = starts > 0.0
    logs = np.log(np.where(used, starts, 1.0))
    nudge = 0.02
    for _ in range(_TURNS):
        now = np.where(used, np.exp(logs), 0.0)
        # Every tube nudged in turn, all mixes at once: (mix, tube, 3) slopes.
        nudged = now[:, None, :] * (1.0 + nudge * np.eye(len(tubes)))
        here = _misses(mix_labs(tubes, now, surface), target)
        slope = (_misses(mix_labs(tubes, nudged, surface), target) - here[:, None, :]) / nudge
        square = slope @ slope.swapaxes(1, 2) + _DAMPING * np.eye(len(tubes))
        step = np.linalg.solve(square, -(slope @ here[:, :, None]))[:, :, 0]
        logs = np.where(used, logs + np.clip(step, -1.2, 1.2), logs)
        top = np.where(used, logs, -np.inf).max(axis=1, keepdims=True)
        logs = np.where(used, np.maximum(logs - top, -_FINEST_LOG), logs)
    return np.where(used, np.exp(logs), 0.0)


def nearest_amounts(
    tubes: tuple[Tube, ...], start: Sequence[float], target_lab: ArrayLike, surface: Surface
) -> list[float]:
    """Move amounts until their mix comes as near a Lab colour as it goes.

    From amounts near it, as a painter does who begins with a recipe; those that make no difference
    stay.
    """
    if len(tubes) < 2:
        return list(start)
    target, before = np.asarray(target_lab, dtype=float), np.log(start)

    def off(logs: Floats) -> Floats:
        miss = _misses(mix_labs(tubes, np.exp(logs), surface), target)
        return np.concatenate([miss, _STAYS * (logs - before)])

    found: list[float] = np.exp(least_squares(off, before, method="lm").x).tolist()
    return found


def _misses(labs: Floats, target: Floats) -> Floats:
    """Give lightness, chroma and hue misses weighed as CIE94 does: quick, and near CIEDE2000."""
    chroma = np.hypot(target[1], target[2])
    along = target[1:] / chroma if chroma > 1e-6 else np.array([1.0, 0.0])
    across = np.array([-along[1], along[0]])
    off = labs - target
    weights = np.array([1.0, 1.0 + 0.045 * chroma, 1.0 + 0.015 * chroma])
    return np.asarray(
        np.stack([off[..., 0], off[..., 1:] @ along, off[..., 1:] @ across], axis=-1) / weights
    )
