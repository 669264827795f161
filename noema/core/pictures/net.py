"""Mixes of one, two or three tubes with white, laid out close enough to look things up among."""

from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

import numpy as np
from scipy.spatial import cKDTree

from noema.core.colour.difference import ciede2000
from noema.core.colour.srgb import lab_to_linear, linear_to_lab
from noema.core.pictures.colours import Floats
from noema.core.pigments.film import Surface
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.qualities import strengths
from noema.core.pigments.tube import Tube

_RATIOS = 57  # of a pair's pulls, from 1 : 128 to 128 : 1
_PARTS = 8  # a triple's pulls are divided into
_WHITES = 17  # amounts of white to a pull of 1
_TOLD_APART = 1.0  # of Lab
_CANDIDATES = 4  # mixes nearest by Lab that CIEDE2000 is worked out for


@dataclass(frozen=True, kw_only=True, eq=False)
class Nearest:
    """The nearest mix of each of some colours."""

    lab: Floats  # (n, 3)
    away: Floats  # (n,) CIEDE2000


def nearest_mixes(mixes: Floats, lab: Floats, slack: float = 0.0) -> Nearest:
    """Find for each colour (n, 3) the nearest of some mixes (m, 3).

    With some slack candidates may lie by that share farther off, which is found much sooner where
    colours lie far outside the mixes.
    """
    count = min(_CANDIDATES, len(mixes))
    _, near = cKDTree(mixes).query(lab, k=count, eps=slack)
    near = np.asarray(near).reshape(len(lab), count)
    away = np.asarray(ciede2000(mixes[near], lab[:, None, :]))
    best = np.argmin(away, axis=1)
    rows = np.arange(len(lab))
    return Nearest(lab=mixes[near[rows, best]], away=away[rows, best])


@lru_cache(maxsize=4096)
def net_of(tubes: tuple[Tube, ...], white: Tube, surface: Surface) -> Floats:
    """Give the Lab (m, 3) of one, two or three tubes' mixes, and white's; remembered."""
    if len(tubes) == 3:
        return _mixed(tubes, _triple_pulls(_PARTS), white, _whites(_WHITES)[::3], surface)
    pulls = np.ones((1, 1)) if len(tubes) == 1 else _pair_pulls(_RATIOS)
    return _mixed(tubes, pulls, white, _whites(_WHITES), surface)


@lru_cache(maxsize=32)
def whole_net(tubes: tuple[Tube, ...], white: Tube, surface: Surface) -> Floats:
    """Give a closer net (m, 3) of everything some tubes and white mix to, by threes at most.

    Of mixes that nobody can tell apart one is kept.
    """
    if len(tubes) == 1:
        return _thinned(_mixed(tubes, np.ones((1, 1)), white, _whites(8 * _WHITES), surface))
    pairs = [
        _mixed(pair, _pair_pulls(2 * _RATIOS), white, _whites(3 * _WHITES), surface)
        for pair in combinations(tubes, 2)
    ]
    triples = [
        _mixed(triple, _triple_pulls(2 * _PARTS), white, _whites(_WHITES), surface)
        for triple in combinations(tubes, 3)
    ]
    return _thinned(np.concatenate([*pairs, *triples]))


def _thinned(mixes: Floats) -> Floats:
    bins = np.floor(mixes / _TOLD_APART).astype(int)
    _, first = np.unique(bins, axis=0, return_index=True)
    return np.asarray(mixes[first])


def _pair_pulls(count: int) -> Floats:
    ratios = 2.0 ** np.linspace(-7.0, 7.0, count)
    inner = np.stack([ratios, np.ones_like(ratios)], axis=-1)
    return np.concatenate([np.eye(2), inner / inner.sum(axis=1, keepdims=True)])


def _triple_pulls(parts: int) -> Floats:
    rows = [(i, j, parts - i - j) for i in range(1, parts - 1) for j in range(1, parts - i)]
    return np.array(rows, dtype=float) / parts


def _whites(count: int) -> Floats:
    return np.concatenate([[0.0], np.geomspace(0.005, 5.0, count - 1)])


def _mixed(
    tubes: tuple[Tube, ...], pulls: Floats, white: Tube, whites: Floats, surface: Surface
) -> Floats:
    amounts = pulls / strengths(tubes)
    rows = [np.column_stack([amounts, np.full(len(amounts), w)]) for w in whites]
    only_white = np.array([[0.0] * len(tubes) + [1.0]])
    labs = mix_labs([*tubes, white], np.concatenate([*rows, only_white]), surface)
    # As a picture shows them: what paint has beyond sRGB, no file of that kind holds.
    return linear_to_lab(np.clip(lab_to_linear(labs), 0.0, 1.0))
