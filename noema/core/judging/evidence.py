"""A sheet as findings look at it: how far each cell is off by itself, and how sure that is."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.chroma_weighted import chroma_weight
from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import HVC, hvcs_of
from noema.core.colour.names import HueTable, hue_step
from noema.core.exercises.asked import Asked, AskedCell, Band, Even
from noema.core.exercises.tolerance import Tolerance
from noema.core.exercises.tube_shifts import tube_shifts
from noema.core.judging.drift import HUE_SHOWS_FROM, cast_of
from noema.core.judging.shared_drift import Drifts, drifts_of, shared_drift
from noema.core.photo.reading import CellFlag, CellReading
from noema.core.pigments.film import Surface
from noema.core.pigments.known_tubes import KnownTubes
from noema.core.pigments.mix import Part
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Role
from noema.core.sheet.layout import Triple

Floats = NDArray[np.float64]

THIN_COVERAGE = 0.88
"""A cell with a smaller painted share than this counts as thinly painted."""

PER_VALUE = 10.0
"""About how much L* one step of value is."""

_LEAST_OF_COLOUR = 0.3  # of a cell's whole variance
_LEAST_SIGMA = 0.1  # of hue, value or chroma; no single cell is known better
_DIMMED = frozenset({CellFlag.GLARE, CellFlag.SHADOW, CellFlag.CLIPPED, CellFlag.UNEVEN})
_DIM = 2.2  # by which the doubt of a flagged cell is multiplied, instead of dropping the cell


@dataclass(frozen=True, kw_only=True)
class Stray:
    """How far one cell is from what is expected, without the error all cells of the sheet share."""

    cell: AskedCell  # as held against
    printed: AskedCell  # as these paints give it
    seen: CellReading
    lab: Triple  # as painted, less what is shared
    hvc: HVC
    away: float  # CIEDE2000 from its step
    value: float  # painted less expected
    chroma: float
    hue: float | None  # steps of the hundred-step circle; None where either is too grey
    left: Floats  # (3, 3) covariance of what is in doubt of it: L*, a*, b* drawn together
    hand: Floats  # (3, 3) that of what a careful hand misses of such a mix
    cast: float  # chroma of the difference in hue and chroma: how far off on the plane of colour

    @property
    def own_sigma(self) -> float:
        """One sigma of what it strays by itself, CIEDE2000, a hand's unsteadiness with it."""
        return float(np.sqrt(np.trace(self.left + self.hand)))

    @property
    def sigmas_away(self) -> float:
        """How many sigmas it strays by itself, a hand's unsteadiness with it; usually below two."""
        off = np.subtract(self.lab, self.cell.lab)
        off[1:] /= chroma_weight(np.array([self.cell.lab]))
        return float(np.sqrt(off @ np.linalg.solve(self.left + self.hand, off)))

    @property
    def doubt(self) -> Triple:
        """One sigma of its L*, a* and b*, these drawn together."""
        lightness, a, b = np.sqrt(np.diagonal(self.left)).tolist()
        return (lightness, a, b)

    @property
    def value_sigma(self) -> float:
        """One sigma of the value that is this cell's own."""
        return max(float(np.sqrt(self.left[0, 0])) / PER_VALUE, _LEAST_SIGMA)

    @property
    def hue_sigma(self) -> float:
        """One sigma of the hue that is this cell's own."""
        return max(self._share_left(across=True) * self.seen.sigma_hue, _LEAST_SIGMA)

    @property
    def chroma_sigma(self) -> float:
        """One sigma of the chroma that is this cell's own."""
        return max(self._share_left(across=False) * self.seen.sigma_chroma, _LEAST_SIGMA)

    def _share_left(self, *, across: bool) -> float:
        """Give what is left of the reading's doubt of its colour, along its hue or across it."""
        a, b = self.cell.lab[1:]
        along = np.array([a, b]) / max(float(np.hypot(a, b)), 1e-6)
        way = np.array([-along[1], along[0]]) if across else along
        return float(np.sqrt(way @ self.left[1:, 1:] @ way)) / max(_colour_sigma(self.seen), 1e-6)

    def beyond(self, tolerance: Tolerance) -> float:
        """Give the most by which a quantity lies beyond its tolerance, in sigmas of the reading."""
        over = [(abs(self.value) - tolerance.value) / self.value_sigma]
        if tolerance.hue is not None and self.hue is not None:
            over.append((abs(self.hue) - tolerance.hue) / self.hue_sigma)
        if tolerance.chroma is not None:
            # Where a colour is too grey for a hue, its lean counts as chroma.
            off = self.cast if self.hue is None else self.chroma
            over.append((abs(off) - tolerance.chroma) / self.chroma_sigma)
        return max(over)

    @property
    def as_mixed(self) -> Triple:
        """The colour as these paints would have to give it, whatever it was held against."""
        lightness, a, b = (
            asked + painted - expected
            for asked, painted, expected in zip(
                self.printed.lab, self.lab, self.cell.lab, strict=True
            )
        )
        return (lightness, a, b)

    @property
    def colours(self) -> tuple[Part, ...]:
        """The parts of its mix that have a hue."""
        return tuple(part for part in self.printed.parts if part.tube.role is Role.COLOUR)


@dataclass(frozen=True, kw_only=True, eq=False)
class Evidence:
    """One sheet, read cell by cell."""

    asked: Asked  # as held against
    printed: Asked  # as these paints give it
    read: tuple[CellReading, ...]
    names: dict[str, str]
    empty: frozenset[str]
    strays: dict[str, Stray]  # of the cells that can be trusted, by id
    tolerance: Tolerance
    table: HueTable
    paints: PaintSet | None
    known: KnownTubes  # of its tubes

    @property
    def surface(self) -> Surface:
        """How the paint dries."""
        return self.paints.binder.dry if self.paints else Surface()

    def in_band(self, band: Band) -> tuple[Stray, ...]:
        """Give a band's trusted cells, in its order."""
        return tuple(self.strays[cell.id] for cell in band.cells if cell.id in self.strays)

    @property
    def steps(self) -> frozenset[str]:
        """The cells that stand in rows of steps."""
        rows = [band for band in self.asked.bands if band.even in (Even.VALUE, Even.DISTANCE)]
        return frozenset(cell.id for band in rows for cell in band.cells)

    @property
    def ring(self) -> frozenset[str]:
        """The cells of a wheel's pure ring."""
        rings = [band for band in self.asked.bands if band.even is Even.HUE]
        return frozenset(cell.id for band in rings for cell in band.cells)

    def printed_value(self, cell_id: str) -> float:
        """Give the value these paints should give a cell."""
        return next(cell.hvc.value for cell in self.printed.cells if cell.id == cell_id)


def strays_of(
    asked: Asked,
    printed: Asked,
    read: Sequence[CellReading],
    surface: Surface,
    known: KnownTubes,
) -> dict[str, Stray]:
    """Take what is shared off the cells that can be trusted; by id, in the exercise's order.

    Tubes as they come tell of what is shared, and are left out of what is given.
    """
    trusted = [
        (cell, as_printed, seen)
        for cell, as_printed, seen in zip(asked.on_paper, printed.on_paper, read, strict=True)
        if is_trusted(seen) and not (cell in asked.tubes and CellFlag.UNPAINTED in seen.flags)
    ]
    if not trusted:
        return {}
    expected = np.array([cell.lab for cell, _, _ in trusted])
    painted = np.array([seen.lab for _, _, seen in trusted])
    drifts = drifts_of_cells(
        [cell for cell, _, _ in trusted],
        [cell for _, cell, _ in trusted],
        [seen for _, _, seen in trusted],
        surface,
    )
    shared = shared_drift(drifts, known.spread(drifts.tubes))
    own = painted - shared.lab
    hvcs, away = hvcs_of(own), ciede2000(own, expected)
    return {
        seen.id: _stray(
            cell,
            as_printed,
            seen,
            lab=tuple(own[n].tolist()),
            hvc=hvcs[n],
            away=float(away[n]),
            left=shared.left[n],
            hand=shared.hand[n],
        )
        for n, (cell, as_printed, seen) in enumerate(trusted)
        if cell not in asked.tubes
    }


def drifts_of_cells(
    held: Sequence[AskedCell],
    printed: Sequence[AskedCell],
    read: Sequence[CellReading],
    surface: Surface,
) -> Drifts:
    """Give how cells drift from what they are held against, and what may move them.

    `printed` are the same cells as their paints give them.
    """
    return drifts_of(
        [cell.lab for cell in held],
        [seen.lab for seen in read],
        *sigmas_of(read),
        tube_shifts(tuple(printed), surface),
    )


def is_trusted(seen: CellReading) -> bool:
    """Say whether a cell's colour says anything: in the picture, and covered with paint."""
    flags = set(seen.flags)
    covered = seen.coverage >= THIN_COVERAGE and CellFlag.PARTLY_PAINTED not in flags
    return CellFlag.OUTSIDE not in flags and (covered or CellFlag.UNPAINTED in flags)


def sigmas_of(read: Sequence[CellReading]) -> tuple[Floats, Floats]:
    """Give one sigma of each cell's L*, and of its a* and b* drawn together, shared errors too."""
    dim = np.array([_dimmed(seen) for seen in read])
    values = np.array([PER_VALUE * seen.sigma_value for seen in read])
    return dim * values, dim * np.array([_colour_sigma(seen) for seen in read])


def _colour_sigma(seen: CellReading) -> float:
    """Give what a cell's doubt leaves to each of a* and b*, once L* has its own."""
    rest = seen.sigma**2 - (PER_VALUE * seen.sigma_value) ** 2
    return float(np.sqrt(max(rest, _LEAST_OF_COLOUR * seen.sigma**2) / 2.0))


def _dimmed(seen: CellReading) -> float:
    """Give by how much more a cell is doubted where light or the file stand in its way."""
    return _DIM if _DIMMED & set(seen.flags) else 1.0


def _stray(
    cell: AskedCell,
    printed: AskedCell,
    seen: CellReading,
    *,
    lab: Triple,
    hvc: HVC,
    away: float,
    left: Floats,
    hand: Floats,
) -> Stray:
    asked = cell.hvc
    hue = None
    shows = min(hvc.chroma, asked.chroma) >= HUE_SHOWS_FROM
    if shows and hvc.hue100 is not None and asked.hue100 is not None:
        hue = hue_step(asked.hue100, hvc.hue100)
    return Stray(
        cell=cell,
        printed=printed,
        seen=seen,
        lab=lab,
        hvc=hvc,
        away=away,
        value=hvc.value - asked.value,
        chroma=hvc.chroma - asked.chroma,
        hue=hue,
        left=left,
        hand=hand,
        cast=cast_of(asked, hvc),
    )
