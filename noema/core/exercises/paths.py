"""Ways from one mix to another, in steps that are equal to the eye."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvc_of, hvcs_of
from noema.core.colour.value import lightness_to_value
from noema.core.exercises.asked import AskedCell, CellRole, Even
from noema.core.pigments.amounts import parts_of
from noema.core.pigments.film import Surface
from noema.core.pigments.mix import Part, film_labs, mix_labs
from noema.core.pigments.qualities import strengths
from noema.core.pigments.tube import Tube

Floats = NDArray[np.float64]

_BALANCES = np.linspace(-14.0, 14.0, 281)  # doublings of one end's pull over the other's
THICKEST, THINNEST = 1.0, 0.004  # coats of a wash


@dataclass(frozen=True, kw_only=True)
class Stop:
    """A mix on the way."""

    parts: tuple[Part, ...]
    lab: tuple[float, float, float]


@dataclass(frozen=True, kw_only=True, eq=False)
class Way:
    """A way between mixes, closely spaced."""

    tubes: tuple[Tube, ...]
    amounts: Floats  # (m, n), each row summing to 1
    labs: Floats  # (m, 3)


def way_between(
    start: Sequence[Part], end: Sequence[Part], surface: Surface, *, legs: Sequence[Part] = ()
) -> Way:
    """Lay out the way from one mix to another, by way of a third where one is given."""
    if legs:
        first, second = way_between(start, legs, surface), way_between(legs, end, surface)
        return _joined(first, second, surface)
    tubes = tuple(dict.fromkeys(part.tube for part in (*start, *end)))
    pull = strengths(tubes)
    from_one, from_other = (_unit_pull(parts, tubes, pull) for parts in (start, end))
    weights = 2.0 ** (_BALANCES / 2.0)
    middle = from_one / weights[:, None] + from_other * weights[:, None]
    amounts = np.concatenate([[from_one], middle, [from_other]])
    amounts /= amounts.sum(axis=1, keepdims=True)
    return Way(tubes=tubes, amounts=amounts, labs=mix_labs(tubes, amounts, surface))


def way_of_tubes(one: Tube, other: Tube, surface: Surface) -> Way:
    """Lay out the way from one tube to another."""
    return way_between((Part(tube=one, amount=1.0),), (Part(tube=other, amount=1.0),), surface)


def wash_way(parts: Sequence[Part], surface: Surface) -> tuple[Floats, Floats]:
    """Lay out a mix thinned with water: coats (m,) from thick to thin, and Lab (m, 3)."""
    coats = np.geomspace(THICKEST, THINNEST, len(_BALANCES))
    tubes = [part.tube for part in parts]
    amounts = np.repeat([[part.amount for part in parts]], len(coats), axis=0)
    return coats, film_labs(tubes, amounts, coats, surface)


def even_places(labs: Floats, steps: int, even: Even) -> Floats:
    """Find the fractional places along a way (m, 3) that cut it into equal steps."""
    if even is Even.VALUE:
        # A way that dips before it climbs is walked by what it has gained so far.
        values = lightness_to_value(labs[:, 0])
        climbs = values[-1] >= values[0]
        gained = np.maximum.accumulate(values) if climbs else np.minimum.accumulate(values)
        apart = np.abs(np.diff(gained))
    else:
        apart = ciede2000(labs[1:], labs[:-1])
    along = np.concatenate([[0.0], np.cumsum(apart)])
    return np.interp(np.linspace(0.0, along[-1], steps), along, np.arange(len(along)))


def stops_at(way: Way, places: Floats, surface: Surface) -> tuple[Stop, ...]:
    """Give the mixes at fractional places of a way."""
    whole = np.arange(len(way.labs))
    amounts = np.stack([np.interp(places, whole, column) for column in way.amounts.T], axis=-1)
    labs = mix_labs(way.tubes, amounts, surface).tolist()
    return tuple(
        Stop(parts=parts_of(way.tubes, row), lab=(lab[0], lab[1], lab[2]))
        for row, lab in zip(amounts, labs, strict=True)
    )


def end_or_step(n: int, count: int) -> CellRole:
    """Say what the nth cell of a row is, counted from 1: its first and last are its ends."""
    return CellRole.END if n in (1, count) else CellRole.STEP


def even_stops(way: Way, steps: int, even: Even, surface: Surface) -> tuple[Stop, ...]:
    """Cut a way into equal steps."""
    return stops_at(way, even_places(way.labs, steps, even), surface)


def greyest_place(way: Way) -> int:
    """Find where a way is nearest to neutral, its ends aside."""
    chroma = [hvc.chroma for hvc in hvcs_of(way.labs[1:-1])]
    return 1 + min(range(len(chroma)), key=chroma.__getitem__)


def stop_of(parts: Sequence[Part], surface: Surface) -> Stop:
    """Give one mix as a stop."""
    lab = mix_labs([p.tube for p in parts], [p.amount for p in parts], surface).tolist()
    return Stop(parts=tuple(parts), lab=(lab[0], lab[1], lab[2]))


def cell_of(
    stop: Stop,
    cell_id: str,
    label: str,
    note: str,
    *,
    limit: str = "",
    role: CellRole = CellRole.STEP,
    of: str = "",
) -> AskedCell:
    """Make a stop a place to paint."""
    return AskedCell(
        id=cell_id,
        label=label,
        lab=stop.lab,
        hvc=hvc_of(stop.lab),
        parts=stop.parts,
        note=note,
        limit=limit,
        role=role,
        of=of,
    )


def cells_of_row(stops: Sequence[Stop], row: int, notes: Sequence[str]) -> tuple[AskedCell, ...]:
    """Make the stops of a way a row to paint; a note each says why it is there."""
    return tuple(
        cell_of(stop, f"r{row}c{n}", str(n), note, role=end_or_step(n, len(stops)))
        for n, (stop, note) in enumerate(zip(stops, notes, strict=True), start=1)
    )


def _unit_pull(parts: Sequence[Part], tubes: tuple[Tube, ...], pull: Floats) -> Floats:
    amounts = np.zeros(len(tubes))
    for part in parts:
        amounts[tubes.index(part.tube)] += part.amount
    return np.asarray(amounts / (amounts @ pull))


def _joined(first: Way, second: Way, surface: Surface) -> Way:
    tubes = tuple(dict.fromkeys((*first.tubes, *second.tubes)))
    rows = [_widened(first, tubes), _widened(second, tubes)[1:]]
    amounts = np.concatenate(rows)
    return Way(tubes=tubes, amounts=amounts, labs=mix_labs(tubes, amounts, surface))


def _widened(way: Way, tubes: tuple[Tube, ...]) -> Floats:
    wide = np.zeros((len(way.amounts), len(tubes)))
    wide[:, [tubes.index(tube) for tube in way.tubes]] = way.amounts
    return wide
