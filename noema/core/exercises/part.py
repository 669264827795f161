"""Some cells of an exercise, for a sheet that has only these."""

from collections.abc import Collection, Iterator, Sequence
from dataclasses import replace
from itertools import pairwise
from math import ceil

from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, AskedCell, Band, Even
from noema.core.exercises.naming import cell_names
from noema.core.language import gettext

MOST_ACROSS = 7
"""Cells in a row of such a sheet."""

_FEWEST_HUES = 6  # of a ring: its primaries and secondaries


def part_of(asked: Asked, cells: Collection[str]) -> Asked:
    """Keep the cells named, row after row, each by the name it has where its row isn't in sight.

    An exercise of fewer steps keeps its rows and their names. Refuses cells that aren't of the
    exercise, and none at all.
    """
    known = {cell.id for cell in asked.cells}
    if not cells or set(cells) - known:
        raise BadExercise(gettext("Choose some cells of this exercise."))
    if set(cells) == fewer_steps(asked):
        return replace(asked, bands=tuple(_thinned(asked.bands, cells)), concerns=())
    names = cell_names(asked)
    kept = [
        tuple(replace(cell, label=names[cell.id]) for cell in band.cells if cell.id in cells)
        for band in asked.bands
    ]
    return replace(
        asked,
        arrangement=Arrangement.ROWS,
        bands=tuple(_rows(row for row in kept if row)),
        concerns=(),
        tubes=(),
    )


def with_ends(asked: Asked, cells: Collection[str]) -> frozenset[str]:
    """Add the ends of every row of steps that is touched: its steps are mixed from them."""
    ends = {
        cell.id
        for band in asked.bands
        if band.even in (Even.VALUE, Even.DISTANCE) and any(cell.id in cells for cell in band.cells)
        for cell in band.cells
        if cell.is_end
    }
    return frozenset(cells) | ends


def fewer_steps(asked: Asked) -> frozenset[str]:
    """Name the cells of an exercise made shorter: every second or third step of each way.

    Ends and what a row is about stay. Where no way can be thinned to equal steps, it is the first
    half of its rows, with the cells that these are mixed from.
    """
    shortened = _every_second_hue if asked.arrangement is Arrangement.WHEEL else _fewer_on_way
    steps = {cell.id for band in asked.bands for cell in shortened(band)}
    kept = {cell.id for cell in asked.cells if cell.id in steps and cell.of in {"", *steps}}
    if len(kept) == len(asked.cells) and asked.arrangement is not Arrangement.WHEEL:
        half = [cell for band in asked.bands[: ceil(len(asked.bands) / 2)] for cell in band.cells]
        kept = {cell.id for cell in half} | {cell.of for cell in half if cell.of}
    return frozenset(kept)


def _every_second_hue(ring: Band) -> Sequence[AskedCell]:
    halves = len(ring.cells) % 2 == 0 and len(ring.cells) // 2 >= _FEWEST_HUES
    return ring.cells[::2] if halves else ring.cells


def _fewer_on_way(band: Band) -> Sequence[AskedCell]:
    if band.even not in (Even.VALUE, Even.DISTANCE):
        return band.cells
    last = len(band.cells) - 1
    fixed = [
        n
        for n, cell in enumerate(band.cells)
        if n in (0, last) or cell.is_end or cell.role.stands_apart
    ]
    kept = {last}
    for begin, end in pairwise(fixed):
        stride = next((s for s in (2, 3) if (end - begin) % s == 0 and end - begin > s), 1)
        kept |= set(range(begin, end, stride))
    return [cell for n, cell in enumerate(band.cells) if n in kept]


def _thinned(bands: Sequence[Band], cells: Collection[str]) -> Iterator[Band]:
    for band in bands:
        kept = tuple(cell for cell in band.cells if cell.id in cells)
        if kept:
            yield replace(band, cells=kept)


def _rows(bands: Iterator[tuple[AskedCell, ...]]) -> Iterator[Band]:
    for band in bands:
        for start in range(0, len(band), MOST_ACROSS):
            yield Band(label="", cells=band[start : start + MOST_ACROSS])
