"""Some cells of an exercise, for a sheet on which only these are painted again."""

from collections.abc import Collection, Iterator
from dataclasses import replace

from noema.core.errors import BadExercise
from noema.core.exercises.asked import Arrangement, Asked, AskedCell, Band, Even
from noema.core.exercises.naming import cell_names
from noema.core.language import gettext

MOST_ACROSS = 7
"""Cells in a row of such a sheet."""


def part_of(asked: Asked, cells: Collection[str]) -> Asked:
    """Keep the cells named, row after row, each by the name it has where its row isn't in sight.

    Refuses cells that aren't of the exercise, and none at all.
    """
    known = {cell.id for cell in asked.cells}
    if not cells or set(cells) - known:
        raise BadExercise(gettext("Choose cells of this exercise to be painted again."))
    names = cell_names(asked)
    kept = [
        tuple(replace(cell, label=names[cell.id]) for cell in band.cells if cell.id in cells)
        for band in asked.bands
    ]
    return replace(
        asked,
        title=f"{asked.title}, again",
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


def _rows(bands: Iterator[tuple[AskedCell, ...]]) -> Iterator[Band]:
    for band in bands:
        for start in range(0, len(band), MOST_ACROSS):
            yield Band(label="", cells=band[start : start + MOST_ACROSS])
