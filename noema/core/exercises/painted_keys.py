"""The keys that wait for paint: a student's own ends, a teacher's sheet, tubes as a class has them.

All take an exercise as these paints give it and move what is expected to where somebody's paint
really lies. What couldn't be read stays where it was.
"""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvc_of, hvcs_of
from noema.core.colour.value import lightness_to_value, value_to_lab
from noema.core.exercises.asked import Asked, AskedCell, Band, Even, Lab
from noema.core.exercises.cells import is_wash, with_note
from noema.core.language import gettext
from noema.core.pigments.film import Surface
from noema.core.pigments.known_tubes import KnownTubes
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.qualities import strengths
from noema.core.pigments.recipe import nearest_amounts

Floats = NDArray[np.float64]

_LEAST_VALUES = 1.0  # own ends nearer than this leave no room for a scale
_LEAST_SHARE = 0.25  # of the expected distance, for ends of colour
_FINE = 32  # pieces between neighbours when a way is cut anew


def between_own_ends(asked: Asked, painted: Mapping[str, Lab]) -> Asked:
    """Expect the same ways between the ends a student painted; by cell, Lab D50.

    An end that isn't among `painted` keeps its expected colour; ends too near to each other for
    steps between them are passed over.
    """
    ends = {cell.id: cell for cell in asked.cells if cell.is_end and cell.id in painted}
    moved: dict[str, Lab] = {}
    for band in asked.bands:
        if band.even is not Even.NOT:
            moved |= _along(band, painted, closed=band.even is Even.HUE)
        else:
            moved |= {cell.id: painted[cell.id] for cell in band.cells if cell.id in ends}
    shifts = _shifts_of_tubes([(cell, moved[i]) for i, cell in ends.items() if i in moved])
    for cell in asked.cells:
        if cell.id not in moved and cell.parts:
            moved[cell.id] = _shifted(cell, _shift_of_mix(cell, shifts))
    return _with_labs(asked, moved, gettext("Moved to lie between the ends as painted."))


def as_painted(asked: Asked, painted: Mapping[str, Lab]) -> Asked:
    """Expect what a teacher painted, cell by cell; the rest as these paints give it."""
    return _with_labs(asked, painted, gettext("As the teacher painted it."))


def as_tubes_are(asked: Asked, known: KnownTubes, surface: Surface) -> Asked:
    """Expect what the tubes somebody really has give, mixed as near to what was asked as they go.

    A wash stays as it was: of what the paper does to it nothing more is known.
    """
    return replace(
        asked,
        bands=tuple(
            replace(band, cells=tuple(_as_tubes_are(cell, known, surface) for cell in band.cells))
            for band in asked.bands
        ),
        tubes=tuple(_as_tubes_are(cell, known, surface) for cell in asked.tubes),
    )


def _as_tubes_are(cell: AskedCell, known: KnownTubes, surface: Surface) -> AskedCell:
    if not {part.tube.name for part in cell.parts} & set(known.names) or is_wash(cell, surface):
        return cell
    tubes = tuple(known.as_it_is(part.tube) for part in cell.parts)
    amounts = nearest_amounts(tubes, [part.amount for part in cell.parts], cell.lab, surface)
    parts = tuple(
        Part(tube=tube, amount=amount) for tube, amount in zip(tubes, amounts, strict=True)
    )
    lightness, a, b = lab_of_parts(parts, surface).tolist()
    return replace(cell, lab=(lightness, a, b), hvc=hvc_of((lightness, a, b)), parts=parts)


def _along(band: Band, painted: Mapping[str, Lab], *, closed: bool) -> dict[str, Lab]:
    """Move the cells of a row or ring with the ends that hold them."""
    held = [n for n, cell in enumerate(band.cells) if cell.is_end]
    if len(held) < 2:
        return {}
    count = len(band.cells)
    runs = [list(range(a, b + 1)) for a, b in pairwise(held)]
    if closed:
        runs.append([n % count for n in range(held[-1], held[0] + count + 1)])
    moved: dict[str, Lab] = {}
    for run in runs:
        cells = [band.cells[n] for n in run]
        ends = [_as_seen(cell, painted) for cell in (cells[0], cells[-1])]
        if _has_room(cells, ends, band.even):
            for cell, lab in zip(cells, _warped(cells, ends, band.even), strict=True):
                moved[cell.id] = lab
    return moved


def _has_room(cells: Sequence[AskedCell], ends: Sequence[Lab], even: Even) -> bool:
    asked = cells[0].lab, cells[-1].lab
    if even is Even.VALUE:
        low, high = (float(lightness_to_value(lab[0])) for lab in ends)
        climbs = 1.0 if asked[1][0] > asked[0][0] else -1.0
        return climbs * (high - low) >= _LEAST_VALUES
    least = _LEAST_SHARE * float(ciede2000(*asked))
    return float(ciede2000(*ends)) >= least


def _warped(cells: Sequence[AskedCell], ends: Sequence[Lab], even: Even) -> list[Lab]:
    """Bend a way so that it meets new ends, keeping how far along it each cell lies."""
    way = np.array([cell.lab for cell in cells])
    along = _fractions(way, even)
    first, last = np.array(ends[0]) - way[0], np.array(ends[1]) - way[-1]
    bent = way + (1.0 - along)[:, None] * first + along[:, None] * last
    for n, cell in enumerate(cells[1:-1], start=1):
        if cell.role.cancels:  # a neutral leans nowhere, wherever its ends lie
            bent[n, 1:] = way[n, 1:]
    if even is Even.VALUE:
        values = np.interp(along, (0.0, 1.0), lightness_to_value(bent[[0, -1], 0]))
        bent[:, 0] = value_to_lab(values)[..., 0]
    elif even is Even.DISTANCE and not any(cell.role.cancels for cell in cells):
        bent = _cut(bent, along)
    return [(lightness, a, b) for lightness, a, b in bent.tolist()]


def _fractions(way: Floats, even: Even) -> Floats:
    if even is not Even.DISTANCE:
        return np.linspace(0.0, 1.0, len(way))
    lengths = np.concatenate([[0.0], np.cumsum(ciede2000(way[1:], way[:-1]))])
    return np.asarray(lengths / lengths[-1])


def _cut(bent: Floats, along: Floats) -> Floats:
    """Step along a bent way so that its steps keep the proportions asked for."""
    places = np.arange(len(bent))
    fine = np.linspace(0.0, len(bent) - 1.0, (len(bent) - 1) * _FINE + 1)
    labs = np.stack([np.interp(fine, places, column) for column in bent.T], axis=-1)
    length = np.concatenate([[0.0], np.cumsum(ciede2000(labs[1:], labs[:-1]))])
    at = np.interp(along * length[-1], length, fine)
    return np.stack([np.interp(at, places, column) for column in bent.T], axis=-1)


def _shifts_of_tubes(ends: Sequence[tuple[AskedCell, Lab]]) -> dict[str, Floats]:
    """Say how far each tube's own cell lies from where it was expected."""
    return {
        cell.parts[0].tube.name: np.array(lab) - np.array(cell.lab)
        for cell, lab in ends
        if len(cell.parts) == 1
    }


def _shift_of_mix(cell: AskedCell, shifts: Mapping[str, Floats]) -> Floats:
    """Weigh the tubes' shifts by how strongly each pulls in the mix."""
    pull = strengths(tuple(part.tube for part in cell.parts))
    pull = pull * [part.amount for part in cell.parts]
    still = np.zeros(3)
    weighed = [
        share * shifts.get(part.tube.name, still)
        for share, part in zip(pull / pull.sum(), cell.parts, strict=True)
    ]
    return np.asarray(np.sum(weighed, axis=0))


def _as_seen(cell: AskedCell, painted: Mapping[str, Lab]) -> Lab:
    return painted.get(cell.id, cell.lab)


def _shifted(cell: AskedCell, shift: Floats) -> Lab:
    lightness, a, b = (np.array(cell.lab) + shift).tolist()
    return (lightness, a, b)


def _with_labs(asked: Asked, labs: Mapping[str, Lab], note: str) -> Asked:
    wanted = [labs.get(cell.id, cell.lab) for cell in asked.cells]
    hvcs = iter(hvcs_of(np.array(wanted)))

    def moved(cell: AskedCell) -> AskedCell:
        hvc, lab = next(hvcs), labs.get(cell.id)
        if lab is None or lab == cell.lab:
            return cell
        return replace(cell, lab=lab, hvc=hvc, note=with_note(cell, note))

    bands = tuple(
        replace(band, cells=tuple(moved(cell) for cell in band.cells)) for band in asked.bands
    )
    return replace(asked, bands=bands)
