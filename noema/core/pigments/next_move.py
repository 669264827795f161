"""The single addition that brings a pile nearest to its target, and when to cut the pile first."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from noema.core.colour.difference import ciede2000
from noema.core.errors import BadPaint
from noema.core.language import gettext
from noema.core.pigments.film import DRY_ACRYLIC, Surface
from noema.core.pigments.mix import Part, mix_labs
from noema.core.pigments.qualities import strengths
from noema.core.pigments.recipe import Recipe, nearest_parts, recipe, refined
from noema.core.pigments.tube import Role, Tube

Floats = NDArray[np.float64]

THERE = 1.5
"""CIEDE2000 at which a pile is left alone: side by side, few would see it."""

_SHARES = np.geomspace(1 / 80, 1.5, 48)  # volumes added to a pile of 1
_SIZE_COSTS = 0.35  # CIEDE2000 for each doubling beyond a touch: piles shouldn't grow
_TOUCH = 1 / 40
_MUST_GAIN = 0.25  # share of the way one addition must go to be worth advising
_FAR = 8.0  # CIEDE2000 left over at which a fresh pile may be the better way
_CUT_HALF, _CUT_QUARTER = 0.35, 1.0  # additions beyond which the pile is cut first
_BEGIN_AGAIN = 25.0  # CIEDE2000 from which a pile is another colour: mending it wastes paint
_ODD = 6.0  # CIEDE2000 off what it was mixed from: something else got in
_FADES = 1.0  # chroma of Lab, times five, that white may cost an intense target


@dataclass(frozen=True, kw_only=True)
class NextMove:
    """What to do with a pile."""

    add: Tube | None  # None: leave it, or start again
    share: float  # volumes to add to one volume of the pile that is kept
    keep: float  # 1, a half or a quarter of the pile
    before: float  # CIEDE2000 to the target now
    after: float  # and afterwards
    predicted_lab: tuple[float, float, float]
    start_again: Recipe | None  # when no single addition helps
    contents: tuple[Part, ...] = ()  # what the pile holds, with an addition; volumes that sum to 1

    @property
    def is_there(self) -> bool:
        """Whether the pile already is what was wanted."""
        return self.add is None and self.start_again is None


def next_move(
    pile_lab: ArrayLike,
    mixed_from: tuple[Part, ...],
    target_lab: ArrayLike,
    tubes: tuple[Tube, ...],
    surface: Surface = DRY_ACRYLIC,
) -> NextMove:
    """Find what to add to a pile of measured colour, mixed from known tubes, for a target.

    The amounts of `mixed_from` are taken as a first guess and fitted to the measured colour; if
    it is empty, the pile is taken for the nearest mix of the set.
    """
    if not tubes:
        raise BadPaint(gettext("A next move needs at least one tube: choose a paint set first."))
    pile, target = np.asarray(pile_lab, dtype=float), np.asarray(target_lab, dtype=float)
    before = float(ciede2000(pile, target))
    if before <= THERE:
        return _nothing(pile, before, None)
    if before > _BEGIN_AGAIN:
        return _nothing(pile, before, recipe(target, tubes, surface))
    move = _best_addition(pile, _contents(pile, mixed_from, tubes, surface), target, tubes, surface)
    if move.after > min((1.0 - _MUST_GAIN) * before, _FAR):
        fresh = recipe(target, tubes, surface)
        if move.after > (1.0 - _MUST_GAIN) * before or fresh.away < move.after / 2.0:
            return _nothing(pile, before, fresh)
    return move


def next_touch(
    pile_lab: ArrayLike,
    contents: tuple[Part, ...],
    target_lab: ArrayLike,
    tubes: tuple[Tube, ...],
    surface: Surface = DRY_ACRYLIC,
) -> NextMove:
    """Find what to add to a pile whose contents are known, however far it is from its target.

    To begin again is said only where no addition goes a good part of the way.
    """
    pile, target = np.asarray(pile_lab, dtype=float), np.asarray(target_lab, dtype=float)
    before = float(ciede2000(pile, target))
    if before <= THERE:
        return _nothing(pile, before, None)
    whole = sum(part.amount for part in contents)
    shares = tuple(Part(tube=part.tube, amount=part.amount / whole) for part in contents)
    move = _best_addition(pile, shares, target, tubes, surface)
    if move.after > (1.0 - _MUST_GAIN) * before:
        return _nothing(pile, before, recipe(target, tubes, surface))
    return move


def _best_addition(
    pile: Floats,
    contents: tuple[Part, ...],
    target: Floats,
    tubes: tuple[Tube, ...],
    surface: Surface,
) -> NextMove:
    labs = _after_adding(pile, contents, tubes, surface)
    away = ciede2000(labs, target) + _SIZE_COSTS * np.log2(np.maximum(_SHARES / _TOUCH, 1.0))
    away = np.where(_fades(labs, target, tubes), np.inf, away)
    one, much = np.unravel_index(int(np.argmin(away)), away.shape)
    share = float(_SHARES[much])
    lightness, a, b = labs[one, much].tolist()
    return NextMove(
        add=tubes[one],
        share=share,
        keep=keep_of(share),
        before=float(ciede2000(pile, target)),
        after=float(ciede2000(labs[one, much], target)),
        predicted_lab=(lightness, a, b),
        start_again=None,
        contents=contents,
    )


def keep_of(share: float) -> float:
    """Say how much of a pile to keep before so large a share of it is added: all, 1/2 or 1/4."""
    return 0.25 if share > _CUT_QUARTER else 0.5 if share > _CUT_HALF else 1.0


def _nothing(pile: Floats, before: float, start_again: Recipe | None) -> NextMove:
    lightness, a, b = pile.tolist()
    return NextMove(
        add=None,
        share=0.0,
        keep=1.0,
        before=before,
        after=before if start_again is None else start_again.away,
        predicted_lab=(lightness, a, b),
        start_again=start_again,
    )


def _contents(
    pile: Floats, mixed_from: tuple[Part, ...], tubes: tuple[Tube, ...], surface: Surface
) -> tuple[Part, ...]:
    """Give the parts (summing to 1) that the model needs for the pile's measured colour."""
    parts = mixed_from or nearest_parts(pile, tubes, surface)[0]
    used = tuple(part.tube for part in parts)
    amounts = np.array([[part.amount for part in parts], 1.0 / strengths(used)])
    fitted = refined(used, amounts / amounts.max(axis=1, keepdims=True), pile, surface)
    away = ciede2000(mix_labs(used, fitted, surface), pile)
    if away.min() > _ODD and mixed_from:
        return _contents(pile, (), tubes, surface)
    best = fitted[int(np.argmin(away))]
    return tuple(
        Part(tube=tube, amount=amount)
        for tube, amount in zip(used, (best / best.sum()).tolist(), strict=True)
    )


def _after_adding(
    pile: Floats, contents: tuple[Part, ...], tubes: tuple[Tube, ...], surface: Surface
) -> Floats:
    """Give the pile's Lab (n, shares, 3) after adding each share of each tube.

    What the model misses of the pile as measured is carried along, thinned with the pile.
    """
    used = tuple(part.tube for part in contents)
    base = np.array([part.amount for part in contents])
    missed = pile - mix_labs(used, base, surface)
    amounts = np.zeros((len(tubes), len(_SHARES), len(used) + len(tubes)))
    amounts[:, :, : len(used)] = base
    places = np.arange(len(tubes))
    amounts[places, :, len(used) + places] = _SHARES
    kept = 1.0 / (1.0 + _SHARES)
    return np.asarray(mix_labs((*used, *tubes), amounts, surface) + missed * kept[:, None])


def _fades(labs: Floats, target: Floats, tubes: tuple[Tube, ...]) -> NDArray[np.bool_]:
    """Say where white would leave the mix paler than the target should be intense."""
    chroma = np.hypot(labs[..., 1], labs[..., 2])
    wanted = float(np.hypot(target[1], target[2]))
    white = np.array([tube.role is Role.WHITE for tube in tubes])
    return np.asarray(white[:, None] & (wanted > 20.0) & (chroma < wanted - 5.0 * _FADES))
