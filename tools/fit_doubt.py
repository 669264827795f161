"""Fits by how much the sum of the reader's errors must be widened to be its doubt.

Run: .venv/bin/python -m tools.fit_doubt [photographs a kind [seeds from]]
Stand-in photographs as classes take them, with the printer known and unknown, are read; `wider` is
such that two sigma hold 95 of 100 cells, every kind of lamp counting the same. Copy it to
core/photo/parameters/doubt.py, then measure with tools/photographs.py, whose seeds are others.
Beside it stand what would do where a print tells nothing of the lamp, and what two sigma of a step
between neighbours hold: these aren't fitted.
"""

import sys
from collections import Counter
from dataclasses import dataclass, replace
from functools import partial
from itertools import product

import numpy as np

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvc_of
from noema.core.photo.read import READER, read_photo
from noema.formats.photo_file import open_photo
from noema.stand_ins.processes import own_processes
from noema.stand_ins.studio import take_picture
from tools.make_colour_prior import kind_of_lamp
from tools.photographs import any_sheet_of, hand_of, with_known_print

FIRST_SEED, PHOTOGRAPHS = 60_000, 60
SIZE_PX = (1600, 1200)
PRESETS, PRINTS = ("class", "hard"), (True, False)
HELD = 0.95  # of all cells within two sigma
PLAIN = replace(READER, doubt=replace(READER.doubt, wider=1.0, lamp_untold=1.0))


@dataclass(frozen=True, kw_only=True)
class Cell:
    """One painted cell without a flag, with its error."""

    lamp: int  # which kind; -1: daylight and what comes near it
    told: bool  # by coloured patches
    away: float  # CIEDE2000, over the sum of errors
    value: float  # steps off
    step: float  # one sigma of a step of value, beside other cells


def cells_of(seed: int, preset: str, known: bool) -> list[Cell]:
    """Give the cells of one photograph."""
    layout, pdf = any_sheet_of(seed)
    taken = take_picture(layout, pdf, seed=seed, preset=preset, hand=hand_of(seed), size_px=SIZE_PX)
    if known:
        layout = with_known_print(layout, dict(taken.patches), seed)
    read = read_photo(open_photo(taken.jpeg), layout, parameters=PLAIN).reading
    lamp = kind_of_lamp(taken.lamp)
    return [
        Cell(
            lamp=lamp,
            told=not layout.grey_only,
            away=float(ciede2000(cell.lab, truth.lab)) / cell.sigma,
            value=cell.hvc.value - hvc_of(truth.lab).value,
            step=cell.sigma_step,
        )
        for cell, truth in zip(read.cells, taken.truth, strict=False)
        if truth.lab is not None and not cell.flags
    ]


def widened(cells: list[Cell]) -> float:
    """Give the factor under which two sigma hold nearly all cells, lamps counting alike."""
    of_lamp = Counter(cell.lamp for cell in cells)
    away = np.array([cell.away for cell in cells])
    weight = np.array([1.0 / of_lamp[cell.lamp] for cell in cells])
    order = np.argsort(away)
    held = np.cumsum(weight[order]) / weight.sum()
    return float(away[order][np.searchsorted(held, HELD)]) / 2.0


def steps_held(rows: list[list[Cell]]) -> float:
    """Give the share of steps between neighbours that two sigma hold."""
    pairs = [pair for row in rows for pair in zip(row, row[1:], strict=False)]
    return float(
        np.mean([abs(b.value - a.value) < 2.0 * np.hypot(a.step, b.step) for a, b in pairs])
    )


def main() -> None:
    count, first = (*map(int, sys.argv[1:]), *(PHOTOGRAPHS, FIRST_SEED)[len(sys.argv) - 1 :])
    rows: list[list[Cell]] = []
    with own_processes() as pool:
        for preset, known in product(PRESETS, PRINTS):
            one = partial(cells_of, preset=preset, known=known)
            rows += pool.map(one, range(first, first + count), chunksize=4)
    cells = [cell for row in rows for cell in row]
    for name, told in (("wider", True), ("lamp_untold", False)):
        those = [cell for cell in cells if cell.told is told]
        used = getattr(READER.doubt, name)
        print(f"{name}: {widened(those):.2f} (in use {used:.2f}), {len(those)} cells")
    print(f"two sigma hold {steps_held(rows):.1%} of steps between neighbours")


if __name__ == "__main__":
    main()
