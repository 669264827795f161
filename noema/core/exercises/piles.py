"""What goes into a cell as a painter mixes it: from its row's two piles, or from the cell before.

A row's steps are mixed from the piles of its two ends, a ring's from the pure hue of its wedge, and
white: nobody measures four tubes for each step anew.
"""

from collections.abc import Sequence

import numpy as np
from scipy.optimize import nnls

from noema.core.exercises.asked import Asked, AskedCell, Band, Even
from noema.core.language import gettext
from noema.core.pigments.mix import Part
from noema.core.pigments.says import say_parts, say_volumes
from noema.core.pigments.tube import Role, Tube

_NEARLY = 0.04  # share of a mix that may be missed by its piles
_LEAST = 0.002  # of the largest volume, under which a pile isn't needed

Pile = tuple[str, tuple[Part, ...]]  # what people call it, and what is in it


def say_mixes(asked: Asked) -> dict[str, str]:
    """Say what goes into each cell, by id; cells of no tubes are left out."""
    cells = {cell.id: cell for cell in asked.cells}
    return {
        cell.id: _said(cell, band, cells)
        for band in asked.bands
        for cell in band.cells
        if cell.parts
    }


def _said(cell: AskedCell, band: Band, cells: dict[str, AskedCell]) -> str:
    piles = _piles(cell, band, cells)
    volumes = _volumes(cell.parts, piles) if len(piles) > 1 else None
    if volumes is None:
        return say_parts(cell.parts)
    least = _LEAST * max(volumes)
    named = [
        (name, volume) for (name, _), volume in zip(piles, volumes, strict=True) if volume > least
    ]
    return say_volumes(sorted(named, key=lambda one: -one[1]))


def _piles(cell: AskedCell, band: Band, cells: dict[str, AskedCell]) -> list[Pile]:
    """Give the piles a cell may be mixed from: its row's ends or the cell before, and white."""
    found: list[Pile] = []
    if cell.of in cells and cells[cell.of].parts and not cell.role.cancels:
        found = [_pile(cells[cell.of], gettext("its mix"))]
    elif band.even in (Even.DISTANCE, Even.VALUE) and not cell.is_end:
        ends = (
            (band.cells[0], gettext("the first pile")),
            (band.cells[-1], gettext("the last pile")),
        )
        found = [_pile(end, name) for end, name in ends if end.is_end and end.parts]
    whites = [part.tube for part in cell.parts if part.tube.role is Role.WHITE]
    alone = {parts[0].tube for _, parts in found if len(parts) == 1}
    return found + [(w.label, (Part(tube=w, amount=1.0),)) for w in whites if w not in alone]


def _pile(cell: AskedCell, otherwise: str) -> Pile:
    if len(cell.parts) == 1:
        return cell.parts[0].tube.label, cell.parts
    named = cell.label and not cell.label.isdigit()
    return gettext("“%(cell)s”", cell=cell.label) if named else otherwise, cell.parts


def _volumes(parts: Sequence[Part], piles: Sequence[Pile]) -> list[float] | None:
    """Give the volumes of piles that make a mix; None where they don't."""
    tubes = list(dict.fromkeys(p.tube for mix in (parts, *(one for _, one in piles)) for p in mix))
    made = np.stack([_shares(one, tubes) for _, one in piles], axis=-1)
    wanted = _shares(parts, tubes)
    volumes, missed = nnls(made, wanted)
    if missed > _NEARLY * min(float(np.max(wanted)), 1.0):
        return None
    found: list[float] = volumes.tolist()
    return found


def _shares(parts: Sequence[Part], tubes: Sequence[Tube]) -> np.ndarray:
    amounts = {part.tube: part.amount for part in parts}
    return np.array([amounts.get(tube, 0.0) for tube in tubes]) / sum(amounts.values())
