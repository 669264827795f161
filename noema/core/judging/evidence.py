"""A sheet as findings look at it: how far each cell is off by itself, and how sure that is."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import HVC, hvcs_of
from noema.core.colour.names import HueTable, hue_step
from noema.core.exercises.asked import Asked, AskedCell, Band, Even
from noema.core.exercises.tolerance import Tolerance
from noema.core.judging.drift import HUE_SHOWS_FROM, cast_of
from noema.core.judging.shared_drift import shared_drift
from noema.core.photo.reading import CellFlag, CellReading
from noema.core.pigments.film import Surface
from noema.core.pigments.mix import Part
from noema.core.pigments.shelf import PaintSet
from noema.core.pigments.tube import Role
from noema.core.sheet.layout import Triple

Floats = NDArray[np.float64]

THIN_COVERAGE = 0.88
"""A cell with a smaller painted share than this counts as thinly painted."""

_HAND = 1.2  # CIEDE2000: how far even a steady hand misses what it meant
PER_VALUE = 10.0
"""About how much L* one step of value is."""

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
    left_of_value: float  # share of the reading's doubt that is this cell's own
    left_of_colour: float  # the same of hue and chroma
    cast: float  # chroma of the difference in hue and chroma: how far off on the plane of colour

    @property
    def own_sigma(self) -> float:
        """One sigma of what it strays by itself, CIEDE2000, a hand's unsteadiness with it."""
        left = np.hypot(self.left_of_value, self.left_of_colour) / np.sqrt(2.0)
        return float(np.hypot(left * self.seen.sigma, _HAND))

    @property
    def step_sigma(self) -> float:
        """One sigma of the value against other cells of the sheet."""
        return self.seen.sigma_step * _dimmed(self.seen)

    @property
    def value_sigma(self) -> float:
        """One sigma of the value that is this cell's own."""
        return max(self.left_of_value * self.seen.sigma_value, _LEAST_SIGMA)

    @property
    def hue_sigma(self) -> float:
        """One sigma of the hue that is this cell's own."""
        return max(self.left_of_colour * self.seen.sigma_hue, _LEAST_SIGMA)

    @property
    def chroma_sigma(self) -> float:
        """One sigma of the chroma that is this cell's own."""
        return max(self.left_of_colour * self.seen.sigma_chroma, _LEAST_SIGMA)

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


def strays_of(asked: Asked, printed: Asked, read: Sequence[CellReading]) -> dict[str, Stray]:
    """Take what is shared off the cells that can be trusted; by id, in the exercise's order."""
    trusted = [
        (cell, as_printed, seen)
        for cell, as_printed, seen in zip(asked.cells, printed.cells, read, strict=True)
        if is_trusted(seen)
    ]
    if not trusted:
        return {}
    dim = np.array([_dimmed(seen) for _, _, seen in trusted])
    expected = np.array([cell.lab for cell, _, _ in trusted])
    painted = np.array([seen.lab for _, _, seen in trusted])
    shared = shared_drift(expected, painted, *sigmas_of([seen for _, _, seen in trusted]))
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
            left=(
                float(dim[n] * shared.left_of_value[n]),
                float(dim[n] * shared.left_of_colour[n]),
            ),
        )
        for n, (cell, as_printed, seen) in enumerate(trusted)
    }


def is_trusted(seen: CellReading) -> bool:
    """Say whether a cell's colour says anything: in the picture, and covered with paint."""
    flags = set(seen.flags)
    covered = seen.coverage >= THIN_COVERAGE and CellFlag.PARTLY_PAINTED not in flags
    return CellFlag.OUTSIDE not in flags and (covered or CellFlag.UNPAINTED in flags)


def sigmas_of(read: Sequence[CellReading]) -> tuple[Floats, Floats]:
    """Give one sigma of each cell's L* and of its colour, CIEDE2000, what is shared included."""
    dim = np.array([_dimmed(seen) for seen in read])
    values = np.array([seen.sigma_value for seen in read])
    return PER_VALUE * dim * values, dim * np.array([seen.sigma for seen in read])


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
    left: tuple[float, float],
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
        left_of_value=left[0],
        left_of_colour=left[1],
        cast=cast_of(asked, hvc),
    )
