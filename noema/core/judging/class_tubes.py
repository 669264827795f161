"""What a class's sheets tell of its tubes.

Each cell straight from a tube, and each mix and tint of it, strays as its tubes do (to first
order, `core/exercises/tube_shifts`), as the reader errs and as a hand does. All sheets of a class
share the tubes; the prior is how makers differ. The rest is a linear Gaussian model, weighed so
that cells which stray by themselves pull little.
"""

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.exercises.asked import Asked
from noema.core.judging.evidence import drifts_of_cells, is_trusted
from noema.core.judging.shared_drift import FAR, TURNS, Drifts
from noema.core.photo.reading import CellFlag, CellReading
from noema.core.pigments.bending import BENDS, independently
from noema.core.pigments.film import Surface
from noema.core.pigments.known_tubes import KnownTubes
from noema.core.statistics.gaussian import leave_out_blocks, with_blocks

Floats = NDArray[np.float64]

FEWEST_SHEETS = 4
"""Sheets on which a tube must have been used before anything is said to be learned of it."""

_ALIKE = 0.1
"""Share of a reader's errors that photographs of one class have in common: a phone, a lamp."""


@dataclass(frozen=True, kw_only=True)
class SheetOfClass:
    """One sheet of a class: as these paints give it, and as it was read."""

    asked: Asked
    cells: tuple[CellReading, ...]


def tubes_of_class(sheets: Sequence[SheetOfClass], surface: Surface) -> KnownTubes | None:
    """Learn a class's tubes; None where too few sheets show any."""
    told = [one for sheet in sheets if (one := _told(sheet, surface)) is not None]
    used = Counter(name for one in told for name in one.tubes)
    names = tuple(sorted(name for name, count in used.items() if count >= FEWEST_SHEETS))
    if not names:
        return None
    every = tuple(sorted(used))
    prior = _inverted(independently(len(every)))
    mean = np.zeros(len(every) * BENDS)
    # Photographs that err alike are worth fewer than they are.
    worth = 1.0 / (1.0 + (len(told) - 1) * _ALIKE)
    precision = prior
    for _ in range(TURNS):
        precision, pull = prior.copy(), np.zeros(len(mean))
        for one in told:
            places = _places(one.tubes, every)
            information, weighed = _weighed(one, mean[places])
            precision[np.ix_(places, places)] += worth * information
            pull[places] += worth * weighed
        mean = np.asarray(np.linalg.solve(precision, pull), dtype=np.float64)
    kept = _places(names, every)
    whole = _inverted(precision)
    return KnownTubes(
        names=names,
        bends=mean[kept].reshape(len(names), BENDS),
        covariances=np.stack([whole[np.ix_(one, one)] for one in kept.reshape(-1, BENDS)]),
        sheets=tuple(used[name] for name in names),
    )


def _told(sheet: SheetOfClass, surface: Surface) -> Drifts | None:
    """Give what one sheet's covered, painted cells stray."""
    pairs = [
        (cell, seen)
        for cell, seen in zip(sheet.asked.on_paper, sheet.cells, strict=True)
        if is_trusted(seen) and CellFlag.UNPAINTED not in seen.flags and not cell.limit
    ]
    if not pairs:
        return None
    cells = [cell for cell, _ in pairs]
    return drifts_of_cells(cells, cells, [seen for _, seen in pairs], surface)


def _weighed(told: Drifts, bends: Floats) -> tuple[Floats, Floats]:
    """Give what a sheet says of its tubes' bends: its information, and that times the drifts."""
    rest = told.drifts - (told.moves @ bends).reshape(-1, 3)
    alone = told.own + told.hand
    miss, _ = leave_out_blocks(told.by_reader, alone, rest)
    noise = alone + (miss / FAR)[:, :, None] ** 2 * np.eye(3)
    weighed = told.moves.T @ np.linalg.inv(with_blocks(told.by_reader, noise))
    return weighed @ told.moves, weighed @ told.drifts.reshape(-1)


def _inverted(matrix: Floats) -> Floats:
    return np.asarray(np.linalg.inv(matrix), dtype=np.float64)


def _places(names: Iterable[str], every: tuple[str, ...]) -> NDArray[np.int64]:
    starts = np.array([every.index(name) * BENDS for name in names])
    return np.asarray((starts[:, None] + np.arange(BENDS)).reshape(-1))
