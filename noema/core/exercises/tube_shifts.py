"""How far a maker's tubes, and a hand that measures roughly, take each cell off its step.

A painter who mixes by eye makes up for much of what is odd about a tube: the amounts are moved
until the mix comes nearest the colour that was asked for. What no amounts can make up for is what
the tubes do to a mix. All of it is told to first order, from the mix that was asked for.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.chroma_weighted import chroma_weight
from noema.core.colour.difference import ciede2000
from noema.core.colour.spectra import reflectance_to_lab
from noema.core.exercises.asked import AskedCell, Lab
from noema.core.pigments.bending import BENDS, bent
from noema.core.pigments.film import Surface, opaque_reflectance
from noema.core.pigments.mix import Part, mix_labs
from noema.core.pigments.shelf import BLACK, TUBES, WHITE

Floats = NDArray[np.float64]

_CARE = 0.15  # one sigma of the logarithm of each amount of a careful hand
_EYE = (0.9, 0.7, 0.7)  # one sigma of what it misses besides: L*, a* and b* drawn together
_LET_BE = 1.0  # amounts a by-eye painter moves by a factor e count as much as this, CIEDE2000
_NUDGE = 0.02
_WASH = 1.0  # CIEDE2000 off the opaque mix, from which paper has a part in a cell
_GREYS = np.stack([np.ones(121), np.geomspace(1e-4, 1e2, 121)], axis=1)  # black in white


@dataclass(frozen=True, kw_only=True, eq=False)
class TubeShifts:
    """What tubes and hands do to cells, to first order, in Lab."""

    tubes: tuple[str, ...]  # names
    by_bends: Floats  # (n, 3, tubes, BENDS) Lab for each bend of a tube, made up for by eye
    by_hand: Floats  # (n, 3, 3) covariance of what a careful hand misses


def tube_shifts(cells: tuple[AskedCell, ...], surface: Surface) -> TubeShifts:
    """Say what tubes and hands do to cells; remembered, since a class paints the same cells.

    A cell that names no tubes is taken for a grey of black and white.
    """
    return _shifts(tuple((cell.parts, cell.lab) for cell in cells), surface)


def with_tubes(cells: tuple[AskedCell, ...], surface: Surface) -> tuple[tuple[Part, ...], ...]:
    """Give each cell's mix; of one that names no tubes, a grey of black and white."""
    return tuple(cell.parts or _grey(cell.lab[0], surface) for cell in cells)


@lru_cache(maxsize=512)
def _shifts(mixes: tuple[tuple[tuple[Part, ...], Lab], ...], surface: Surface) -> TubeShifts:
    expected = np.array([lab for _, lab in mixes])
    filled = [parts or _grey(lab[0], surface) for parts, lab in mixes]
    washed = _are_washes(filled, expected, surface)
    tubes = tuple(dict.fromkeys(part.tube for parts in filled for part in parts))
    weight = np.column_stack([np.ones(len(mixes)), *[1.0 / chroma_weight(expected)] * 2])
    by_bends = np.zeros((len(mixes), 3, len(tubes), BENDS))
    by_hand = np.zeros((len(mixes), 3, 3))
    slopes = _slopes(filled, surface)
    for n, (parts, (by_amount, by_bend)) in enumerate(zip(filled, slopes, strict=True)):
        even = by_amount * weight[n][:, None]
        if len(parts) > 1 and not washed[n]:
            # Least squares with a little reluctance: how the amounts follow what a tube does.
            follow = np.linalg.solve(even.T @ even + _LET_BE**2 * np.eye(len(parts)), even.T)
            left = np.eye(3) - even @ follow
            by_bend = np.einsum("ij,jtb->itb", left / weight[n][:, None] * weight[n][None], by_bend)
        for m, part in enumerate(parts):
            by_bends[n, :, tubes.index(part.tube)] = by_bend[:, m]
        by_hand[n] = np.diag((np.array(_EYE) / weight[n]) ** 2)
        if len(parts) > 1:
            by_hand[n] += _CARE**2 * by_amount @ by_amount.T
    return TubeShifts(tubes=tuple(tube.name for tube in tubes), by_bends=by_bends, by_hand=by_hand)


@lru_cache(maxsize=256)
def _grey(lightness: float, surface: Surface) -> tuple[Part, ...]:
    """Give black in white as light as asked for."""
    tubes = (TUBES[WHITE], TUBES[BLACK])
    away = np.abs(mix_labs(tubes, _GREYS, surface)[:, 0] - lightness)
    amounts = _GREYS[int(np.argmin(away))].tolist()
    return tuple(Part(tube=t, amount=a) for t, a in zip(tubes, amounts, strict=True))


def _curves(parts: tuple[Part, ...]) -> tuple[Floats, Floats]:
    """Give K and S (1 + tubes * (1 + BENDS), 31) of a mix, and with each amount and bend nudged."""
    amounts = np.array([part.amount for part in parts]) / sum(part.amount for part in parts)
    rows = []
    for amount, part in zip(amounts, parts, strict=True):
        tube = part.tube
        bends = np.vstack([np.zeros((1, BENDS)), _NUDGE * np.eye(BENDS)])
        curves = np.stack(np.broadcast_arrays(*bent(tube, bends)))  # (2, 1 + BENDS, 31)
        more = (1.0 + _NUDGE) * curves[:, :1]
        rows.append(amount * np.concatenate([curves[:, :1], more, curves[:, 1:]], axis=1))
    whole = sum(row[:, :1] for row in rows)
    nudged = [whole - row[:, :1] + row[:, 1:] for row in rows]
    absorption, scattering = np.concatenate([whole, *nudged], axis=1)
    return absorption, scattering


def _slopes(filled: list[tuple[Part, ...]], surface: Surface) -> list[tuple[Floats, Floats]]:
    """Give each mix's slopes by the logarithm of amounts (3, tubes) and by bends (3, tubes, b)."""
    curves = [_curves(parts) for parts in filled]
    absorption, scattering = (np.concatenate(part) for part in zip(*curves, strict=True))
    labs = reflectance_to_lab(opaque_reflectance(absorption, scattering, surface))
    found, at = [], 0
    for parts in filled:
        count = 1 + len(parts) * (1 + BENDS)
        base, nudged = labs[at], labs[at + 1 : at + count]
        slope = ((nudged - base) / _NUDGE).reshape(len(parts), 1 + BENDS, 3)
        found.append((slope[:, 0].T, slope[:, 1:].transpose(2, 0, 1)))
        at += count
    return found


def _are_washes(
    filled: list[tuple[Part, ...]], expected: Floats, surface: Surface
) -> NDArray[np.bool_]:
    labs = np.array(
        [mix_labs([p.tube for p in parts], [p.amount for p in parts], surface) for parts in filled]
    )
    return np.asarray(ciede2000(labs, expected) > _WASH)
