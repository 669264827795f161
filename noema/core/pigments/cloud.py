"""All the mixes of a set that matter, in one fixed cloud, thinned to the most intense of each kind.

Amounts are laid out by tinting strength, so that the middle of a pair is where both pull alike.
Every pair at many ratios, every triple at a few, each let down with white step by step.
"""

from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.hvc import lab_to_hvc
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.qualities import strengths
from noema.core.pigments.tube import Role, Tube

Floats = NDArray[np.float64]
Whole = NDArray[np.int64]

PAIR_RATIOS = 2.0 ** np.linspace(-6.0, 6.0, 17)  # in units of equal pull
WHITE_VOLUMES = np.array([0.0, 0.001, 0.003, 0.0075, 0.02, 0.05, 0.125, 0.3, 0.75])
"""White to a pull of 1: a volume of 1 would leave a plain tint."""

_TRIPLE_WHITES = WHITE_VOLUMES[[0, 3, 5, 7]]
_MIXES_OF_THREE = 2400  # in all, white aside: few tubes are looked at more closely
_FINEST_NET, _COARSEST_NET = 40, 5
_LIGHTNESS_BIN, _ANGLE_BINS = 4.0, 90


@dataclass(frozen=True, kw_only=True, eq=False)
class Cloud:
    """Mixes of a set; row i of each array is one mix."""

    tubes: tuple[Tube, ...]
    amounts: Floats  # (m, n) volumes as squeezed
    kind: Whole  # (m,) one number for each single tube and each pair, -1 for three tubes
    hvc: Floats  # (m, 3)


@lru_cache(maxsize=64)
def cloud_of(tubes: tuple[Tube, ...]) -> Cloud:
    """Lay out and thin the cloud of a set; the answer is remembered."""
    coloured = [place for place, tube in enumerate(tubes) if tube.role is not Role.WHITE]
    white = next((n for n, tube in enumerate(tubes) if tube.role is Role.WHITE), None)
    pairs = tuple(combinations(coloured, 2))
    pulls = [*_singles(len(tubes), coloured), *_pair_pulls(len(tubes), pairs)]
    kinds = [np.full(len(rows), number) for number, rows in enumerate(pulls)]
    triples = _triple_pulls(len(tubes), coloured)
    pull = np.concatenate([*pulls, triples])
    kind = np.concatenate([*kinds, np.full(len(triples), -1)])
    pull, kind = _let_down(pull, kind, white, len(triples))
    amounts = pull / strengths(tubes)
    labs = mix_labs(tubes, amounts)
    kept = _most_intense(labs, kind)
    return Cloud(
        tubes=tubes,
        amounts=amounts[kept],
        kind=kind[kept],
        hvc=lab_to_hvc(labs[kept]),
    )


def _singles(count: int, coloured: list[int]) -> list[Floats]:
    return [np.eye(count)[[place]] for place in coloured]


def _pair_pulls(count: int, pairs: tuple[tuple[int, int], ...]) -> list[Floats]:
    rows = []
    for a, b in pairs:
        pull = np.zeros((len(PAIR_RATIOS), count))
        pull[:, a], pull[:, b] = PAIR_RATIOS / (1 + PAIR_RATIOS), 1 / (1 + PAIR_RATIOS)
        rows.append(pull)
    return rows


def _triple_pulls(count: int, coloured: list[int]) -> Floats:
    triples = list(combinations(coloured, 3))
    if not triples:
        return np.empty((0, count))
    net = _net(int(np.sqrt(2.0 * _MIXES_OF_THREE / len(triples))))
    pull = np.zeros((len(triples), len(net), count))
    for n, triple in enumerate(triples):
        pull[n][:, list(triple)] = net
    return pull.reshape(-1, count)


def _net(fineness: int) -> Floats:
    """Give shares (m, 3) of three tubes, all above 0, on a triangular net."""
    size = min(max(fineness, _COARSEST_NET), _FINEST_NET)
    rows = [(i, j, size - i - j) for i in range(1, size - 1) for j in range(1, size - i)]
    return np.array(rows, dtype=float) / size


def _let_down(pull: Floats, kind: Whole, white: int | None, triples: int) -> tuple[Floats, Whole]:
    """Repeat every mix with each amount of white; the last `triples` rows with fewer."""
    if white is None:
        return pull, kind
    cut = len(pull) - triples
    groups = [(pull[:cut], kind[:cut], WHITE_VOLUMES), (pull[cut:], kind[cut:], _TRIPLE_WHITES)]
    pulls, kinds = [], []
    for rows, sorts, whites in groups:
        for amount in whites:
            more = rows.copy()
            more[:, white] = amount
            pulls.append(more)
            kinds.append(sorts)
    return np.concatenate(pulls), np.concatenate(kinds)


def _most_intense(labs: Floats, kind: Whole) -> Whole:
    """Keep, in each small range of lightness and hue and in each pair's hue, the most intense."""
    chroma = np.hypot(labs[:, 1], labs[:, 2])
    angle = np.degrees(np.arctan2(labs[:, 2], labs[:, 1])) % 360.0
    angle_bin = (angle / (360.0 / _ANGLE_BINS)).astype(int) % _ANGLE_BINS
    by_place = (labs[:, 0] / _LIGHTNESS_BIN).astype(int) * _ANGLE_BINS + angle_bin
    by_kind = np.where(kind >= 0, kind * _ANGLE_BINS + angle_bin, -1)
    return np.union1d(_best(by_place, chroma), _best(by_kind, chroma))


def _best(group: Whole, score: Floats) -> Whole:
    order = np.lexsort((score, group))
    last = np.r_[group[order][1:] != group[order][:-1], True]
    kept = order[last]
    return np.asarray(kept[group[kept] >= 0])
