"""What an exercise asks of a hand: how far off sheets of known care lie, skill by skill.

Colours differ in what they forgive: a touch too much of a strong tube moves a light tint far and a
dark mix hardly. So the exercise is painted some times in thought by a careful, a middling and a
clumsy hand, read without doubt and judged; the mean square drift by skill and cell is what it
asks.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.random import Generator

from noema.core.colour.hvc import hvcs_of
from noema.core.colour.names import HueTable
from noema.core.exercises.asked import Asked, AskedCell, Lab
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.skills import Skill
from noema.core.judging.closeness import CARES, Pair, skill_drifts, square_of
from noema.core.judging.judge import judge
from noema.core.photo.reading import CellReading, Reading
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.shelf import PaintSet

_SHEETS = 12  # painted in thought by each hand
_DRAWN = 3.0  # sheets' worth of the mean of all cells
_BY_HAND = (8.9, 2.7, 2.7)  # Lab by care, where nothing is mixed by parts: pencil, bare greys
_STEADY = (0.9, 0.5, 0.5)  # of a cell painted as it comes


@dataclass(frozen=True, kw_only=True)
class Held:
    """An exercise and what it is held against."""

    expected: Asked
    key: Key
    paints: PaintSet | None
    table: HueTable


def difficulty_of(held: Held, rng: Generator) -> dict[Skill, dict[str, list[float]]]:
    """Give the mean square drifts of each of `CARES`, by skill and cell, in squared tolerances."""
    held = replace(held, expected=replace(held.expected, tubes=()))  # these ask nothing of a hand
    found: dict[Skill, dict[str, list[float]]] = {}
    for care in CARES:
        for skill, by_cell in _misses(held, care, rng).items():
            for cell, square in by_cell.items():
                found.setdefault(skill, {}).setdefault(cell, []).append(square)
    return {
        skill: {cell: asks for cell, asks in by_cell.items() if len(asks) == len(CARES)}
        for skill, by_cell in found.items()
    }


def _misses(held: Held, care: float, rng: Generator) -> dict[Skill, dict[str, float]]:
    """Give the mean square drift of hands of one care by skill and cell."""
    found: dict[Skill, dict[str, list[float]]] = {}
    for _ in range(_SHEETS):
        reading = _read(
            held.expected, [_lab(held, cell, care, rng) for cell in held.expected.cells]
        )
        judged = judge(
            reading,
            held.expected,
            held.key,
            Level.INTERMEDIATE,
            table=held.table,
            paints=held.paints,
        )
        for skill, by_cell in skill_drifts(judged).items():
            if skill is not Skill.CRAFT:
                _collect(found.setdefault(skill, {}), by_cell)
    return {skill: _drawn_together(by_cell) for skill, by_cell in found.items()}


def _collect(squares: dict[str, list[float]], by_cell: Mapping[str, Pair]) -> None:
    for cell, pair in by_cell.items():
        squares.setdefault(cell, []).append(square_of(pair))


def _drawn_together(squares: Mapping[str, Sequence[float]]) -> dict[str, float]:
    """Give each cell's mean, drawn to that of all: few sheets tell little of one cell."""
    of_all = float(np.mean([square for cell in squares.values() for square in cell]))
    return {
        name: (sum(own) + _DRAWN * of_all) / (len(own) + _DRAWN) for name, own in squares.items()
    }


def _lab(held: Held, cell: AskedCell, care: float, rng: Generator) -> Lab:
    if held.paints is None or (len(cell.parts) < 2 and not cell.is_end):
        lab = np.array(cell.lab) + care * rng.normal(0.0, _BY_HAND)
    elif len(cell.parts) < 2:
        lab = np.array(cell.lab) + rng.normal(0.0, _STEADY)
    else:
        factors = np.exp(rng.normal(0.0, care, len(cell.parts)))
        amounts = [part.amount * one for part, one in zip(cell.parts, factors, strict=True)]
        right = [part.amount for part in cell.parts]
        tubes = [part.tube for part in cell.parts]
        # Only the shift is taken: a key may be another than what the mix gives.
        mixed = mix_labs(tubes, np.array([amounts, right]), held.paints.binder.dry)
        lab = np.array(cell.lab) + mixed[0] - mixed[1]
    return (float(np.clip(lab[0], 1.0, 99.0)), float(lab[1]), float(lab[2]))


def _read(asked: Asked, labs: list[Lab]) -> Reading:
    cells = tuple(
        CellReading(
            id=cell.id,
            lab=lab,
            hvc=hvc,
            sigma=0.1,
            sigma_value=0.01,
            sigma_step=0.01,
            sigma_hue=0.1,
            sigma_chroma=0.05,
            coverage=1.0,
            unevenness=0.0,
            spill=0.0,
            flags=(),
        )
        for cell, lab, hvc in zip(asked.cells, labs, hvcs_of(np.array(labs)), strict=True)
    )
    return Reading(sheet=None, found=True, flags=(), cells=cells)
