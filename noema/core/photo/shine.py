"""Shine on paint: light thrown back that greys a colour without clipping.

What cells show of it (`shine_evidence`) is weighed by a logistic model (`data/shine.csv`, fitted to
stand-in photographs by tools/fit_shine.py): streaks and paint not mixed through must not be taken
for it, and a grey, which can't tell by itself, is judged by what the cells about it say.
"""

from dataclasses import dataclass
from functools import cache
from pathlib import Path

import numpy as np
from numpy.typing import NDArray

from noema.core.photo.parameters.sample import SAMPLE, SampleParameters
from noema.core.photo.shine_evidence import NAMES, CellShine, look_for_shine, shine_evidence

Floats = NDArray[np.float64]

DATA = Path(__file__).parent / "data" / "shine.csv"


@dataclass(frozen=True, kw_only=True)
class Shine:
    """The shine on one cell."""

    odds: float = -np.inf  # logarithm of the odds that it is worth speaking of
    amount: float = 0.0  # share of white paper's light

    @property
    def likely(self) -> bool:
        """Whether it rather shines than not."""
        return self.odds > 0.0


def shine_on_cells(
    pixels: list[Floats],
    places_mm: list[Floats],
    painted: list[bool],
    parameters: SampleParameters = SAMPLE,
) -> tuple[Shine, ...]:
    """Give the shine on each cell.

    `pixels` are each cell's colours (m, 3) relative to paper, `places_mm` (m, 2) where they are.
    """
    found = [Shine()] * len(pixels)
    looked = looked_at(pixels, places_mm, painted, parameters)
    if not looked:
        return tuple(found)
    numbers, field = shine_evidence(list(looked.values()), parameters)
    weights = _weights()
    odds = weights[0] + numbers @ weights[1:]
    for n, odd, amount in zip(looked, odds.tolist(), field.tolist(), strict=True):
        found[n] = Shine(odds=odd, amount=amount)
    return tuple(found)


def looked_at(
    pixels: list[Floats],
    places_mm: list[Floats],
    painted: list[bool],
    parameters: SampleParameters = SAMPLE,
) -> dict[int, CellShine]:
    """Look at the painted cells' small squares; those that are too small say nothing."""
    parts = parameters.parts if sum(painted) <= parameters.many_cells else parameters.fewer_parts
    looked = {}
    for n, (rgb, at, paint) in enumerate(zip(pixels, places_mm, painted, strict=True)):
        if paint and (cell := look_for_shine(*_blocks(rgb, at, parameters), parts, parameters)):
            looked[n] = cell
    return looked


@cache
def _weights() -> Floats:
    """Read the model's weights: the odds by themselves, then one for each number."""
    table = np.loadtxt(DATA, delimiter=",", usecols=1)
    assert len(table) == 1 + len(NAMES)
    return np.asarray(table, dtype=np.float64)


def _blocks(rgb: Floats, at_mm: Floats, parameters: SampleParameters) -> tuple[Floats, Floats]:
    """Give medians (n, 3) over small squares and where they lie (n, 2)."""
    if not len(rgb):
        return np.empty((0, 3)), np.empty((0, 2))
    room = float(np.prod(np.ptp(at_mm, axis=0)))
    side = max(parameters.block_mm, float(np.sqrt(parameters.usual_pixels * room / len(at_mm))))
    square = np.floor((at_mm - at_mm.min(axis=0)) / side).astype(int)
    key = square[:, 0] * 10_000 + square[:, 1]
    order = np.argsort(key, kind="stable")
    _, starts, counts = np.unique(key[order], return_index=True, return_counts=True)
    many = counts >= parameters.fewest_pixels
    share = np.arange(parameters.enough_pixels) / parameters.enough_pixels
    chosen = order[starts[many, None] + (counts[many, None] * share).astype(int)]
    return np.median(rgb[chosen], axis=1), at_mm[chosen].mean(axis=1)
