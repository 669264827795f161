"""Which tube truly greys which, and the darkest neutral a set can mix without black."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.hvc import HVC, hvc_of
from noema.core.colour.names import HueTable
from noema.core.pigments.amounts import can_be_measured, round_parts
from noema.core.pigments.mix import Part, lab_of_parts, mix_labs
from noema.core.pigments.qualities import qualities, strengths
from noema.core.pigments.shelf import TUBES, WHITE
from noema.core.pigments.tube import Role, Tube

Floats = NDArray[np.float64]
Scored = tuple[float, tuple[Tube, ...], Floats]  # lower is better; tubes and their amounts

NEUTRAL_ENOUGH = 0.9
"""Chroma, let down with white, under which nobody can say which way a grey leans."""

_LET_DOWN = 0.06  # white to a pull of 1: shows a dark mix's hue at a middle value
_RATIOS = 2.0 ** np.linspace(-5.0, 5.0, 61)
_PARTNER = 2.0 ** np.linspace(-2.0, 1.0, 8)  # the partner's pull beside the tube's
_HELPERS = np.array([0.12, 0.4, 1.0, 2.5, 8.0])  # one half of the partner to the other
_LIFTS_OVER_SINGLE = 0.8  # chroma by which two tubes must grey better than one
_GREYING = 4  # tubes that grey most on their own, one of which is in every pair tried
_STILL_NEUTRAL = 1.2  # chroma up to which a dark counts
_LAB_CHROMA = 5.0  # chroma of Lab to one of HVC, roughly
_THIRD_TUBE = 0.1  # values a third tube must gain
_CHROMA_WEIGHT = 0.4  # values a dark may be lighter for each step of chroma it loses


@dataclass(frozen=True, kw_only=True)
class Partner:
    """What greys a tube most within a set."""

    tube: Tube
    by: tuple[Tube, ...]  # one tube or two; empty when the set has no other colour
    parts: tuple[Part, ...]  # the greyest mix, without the white that shows it
    left: HVC  # what is left of it, let down with white
    named: str  # the wheel's own complement of the tube's hue; empty for a neutral
    named_tubes: tuple[Tube, ...]  # tubes of the set that a painter would call that

    @property
    def goes_neutral(self) -> bool:
        """Whether the pair meets in a neutral."""
        return bool(self.by) and self.left.chroma < NEUTRAL_ENOUGH


@dataclass(frozen=True, kw_only=True)
class Dark:
    """A mixed dark."""

    parts: tuple[Part, ...]
    hvc: HVC  # as mixed
    let_down: HVC  # with white, to see where it leans


@lru_cache(maxsize=64)
def partners(tubes: tuple[Tube, ...], table: HueTable) -> tuple[Partner, ...]:
    """Give every coloured tube's true complement within the set."""
    return tuple(partner(tube, tubes, table) for tube in tubes if tube.role is Role.COLOUR)


def partner(tube: Tube, tubes: tuple[Tube, ...], table: HueTable) -> Partner:
    """Find what greys a tube most: one tube, or two where one leaves a clear lean."""
    others = [other for other in tubes if other.role is Role.COLOUR and other != tube]
    lean = table.lean(qualities(tube).shown)
    named = "" if lean.hue is None else _opposite(tube, table)
    best = _best_single(tube, others)
    if best is not None and let_down(best).chroma >= NEUTRAL_ENOUGH and len(others) > 1:
        two = _best_double(tube, others)
        if let_down(two).chroma < let_down(best).chroma - _LIFTS_OVER_SINGLE:
            best = two
    return Partner(
        tube=tube,
        by=() if best is None else tuple(part.tube for part in best if part.tube != tube),
        parts=best or (),
        left=let_down(best or (Part(tube=tube, amount=1.0),)),
        named=named,
        named_tubes=tuple(other for other in others if named and _hue12(other, table) == named),
    )


@lru_cache(maxsize=64)
def darks(tubes: tuple[Tube, ...], count: int = 3) -> tuple[Dark, ...]:
    """Give the set's best neutral darks from two or three tubes, black aside; best first."""
    colours = [tube for tube in tubes if tube.role is Role.COLOUR]
    pairs = sorted((_darkest(pair) for pair in combinations(colours, 2)), key=_score)
    triples = [
        _darkest((*pair, third))
        for _, pair, _ in pairs[:3]
        for third in colours
        if third not in pair
    ]
    ranked = [_dark(one) for one in sorted((*pairs, *triples), key=_score)[: 2 * count]]
    neutral = [dark for dark in ranked if dark.hvc.chroma <= _STILL_NEUTRAL and len(dark.parts) > 1]
    distinct = {frozenset(part.tube.name for part in dark.parts): dark for dark in neutral}
    return tuple(distinct.values())[:count]


def let_down(parts: Sequence[Part]) -> HVC:
    """Give a dark mix's colour with enough white to see its hue."""
    tubes = [part.tube for part in parts]
    amounts = [part.amount for part in parts]
    return hvc_of(mix_labs([*tubes, TUBES[WHITE]], [*amounts, white_to_show(parts)]))


def white_to_show(parts: Sequence[Part]) -> float:
    """Give the volume of white that lets a mix down until its hue shows."""
    pull = strengths(tuple(part.tube for part in parts))
    return float(_LET_DOWN * sum(p.amount * s for p, s in zip(parts, pull, strict=True)))


def _opposite(tube: Tube, table: HueTable) -> str:
    hue100 = qualities(tube).shown.hue100
    assert hue100 is not None
    return table.opposite(table.nearest(hue100, 12).name).name


def _hue12(tube: Tube, table: HueTable) -> str:
    hue100 = qualities(tube).shown.hue100
    return "" if hue100 is None else table.nearest(hue100, 12).name


def _best_single(tube: Tube, others: list[Tube]) -> tuple[Part, ...] | None:
    if not others:
        return None
    pulls = np.stack([np.ones_like(_RATIOS), _RATIOS], axis=-1)
    return _rounded(min((_greyest((tube, other), pulls) for other in others), key=_score))


def _best_double(tube: Tube, others: list[Tube]) -> tuple[Part, ...]:
    pulls = np.array([(1.0, r / (1.0 + h), r * h / (1.0 + h)) for r in _PARTNER for h in _HELPERS])
    single = np.stack([np.ones_like(_PARTNER), _PARTNER], axis=-1)
    greying = sorted(others, key=lambda other: _greyest((tube, other), single)[0])[:_GREYING]
    pairs = {tuple(sorted((a, b), key=others.index)) for a in greying for b in others if a != b}
    mixes = (_greyest((tube, *pair), pulls) for pair in pairs)
    return _rounded(min(mixes, key=_score))


def _greyest(tubes: tuple[Tube, ...], pulls: Floats) -> Scored:
    """Find, among mixes of given pulls (m, n), the one with the least chroma once let down.

    At one middle value the chroma of Lab ranks mixes as HVC does, and is quicker.
    """
    amounts = pulls / strengths(tubes)
    whites = _LET_DOWN * pulls.sum(axis=1, keepdims=True)
    labs = mix_labs((*tubes, TUBES[WHITE]), np.hstack([amounts, whites]))
    chroma = np.hypot(labs[:, 1], labs[:, 2])
    best = int(np.argmin(chroma))
    return float(chroma[best]), tubes, amounts[best]


def _darkest(tubes: tuple[Tube, ...]) -> Scored:
    """Find the darkest neutral of two or three tubes."""
    steps = _RATIOS[::3] if len(tubes) == 2 else _RATIOS[::6]
    grids = np.meshgrid(*[steps] * (len(tubes) - 1), indexing="ij")
    pulls = np.column_stack([np.ones(grids[0].size), *(grid.ravel() for grid in grids)])
    amounts = pulls / strengths(tubes)
    amounts = amounts[can_be_measured(amounts)]
    if not len(amounts):
        return np.inf, tubes, np.ones(len(tubes))
    labs = mix_labs(tubes, amounts)
    # Lab's numbers, scaled to value and chroma: close enough to choose by.
    chroma = np.hypot(labs[:, 1], labs[:, 2]) / _LAB_CHROMA
    score = labs[:, 0] / 10.0 + _CHROMA_WEIGHT * chroma + _THIRD_TUBE * (len(tubes) - 2)
    best = int(np.argmin(score))
    return float(score[best]), tubes, amounts[best]


def _dark(scored: Scored) -> Dark:
    parts = _rounded(scored)
    return Dark(parts=parts, hvc=hvc_of(lab_of_parts(parts)), let_down=let_down(parts))


def _score(scored: Scored) -> float:
    return scored[0]


def _rounded(scored: Scored) -> tuple[Part, ...]:
    return round_parts(scored[1], scored[2])
