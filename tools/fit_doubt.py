"""Fits by how much the reader's doubt must be widened, and what of it two cells share.

Run: .venv/bin/python -m tools.fit_doubt [photographs a kind [seeds from]]
Stand-in photographs of every kind of light, with the printer known and unknown, are read stage by
stage; only the last is done again with other parameters. `wider` and `lamp_untold` are such that
two sigma hold 95 of 100 cells; the shares between cells are those under which what a step from one
cell to the next is off is likeliest. Copy what is printed to core/photo/parameters/doubt.py, then
measure with tools/photographs.py, whose seeds are others.
"""

import sys
from dataclasses import dataclass, replace
from functools import partial
from itertools import product

import numpy as np
from scipy.optimize import minimize

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvc_of
from noema.core.photo.parameters.doubt import DOUBT, DoubtParameters
from noema.core.photo.read import READER
from noema.core.photo.stages.colour import tone_and_colour
from noema.core.photo.stages.doubt import doubt
from noema.core.photo.stages.identify import identify
from noema.core.photo.stages.light import light
from noema.core.photo.stages.place import SheetToPlace, Sought, place
from noema.core.photo.stages.sample import SampledSheet, sample
from noema.formats.photo_file import open_photo
from noema.stand_ins.processes import own_processes
from noema.stand_ins.studio import take_picture
from tools.make_colour_prior import kind_of_lamp
from tools.photographs import any_sheet_of, hand_of, with_known_print

FIRST_SEED, PHOTOGRAPHS = 60_000, 60
SIZE_PX = (1600, 1200)
PRESETS, PRINTS = ("easy", "class", "hard"), (True, False)
HELD = 0.95  # of all cells within two sigma
PLAIN = replace(DOUBT, wider=1.0, lamp_untold=1.0, tone_between_cells=0.0, paint_between_cells=0.0)


@dataclass(frozen=True, kw_only=True)
class Cell:
    """One painted cell without a flag, with its error and what its doubt is made of."""

    lamp: int  # which kind; -1: daylight and what comes near it
    told: bool  # whether coloured patches told something of the lamp
    away: float  # CIEDE2000, over the plain sigma
    value: float  # steps off
    own: float  # variances of a value step: of the cell alone, the tone curve's, the paint's
    curve: float
    paint: float


def sampled(
    seed: int, preset: str, known: bool
) -> tuple[SampledSheet, dict[str, np.ndarray]] | None:
    """Photograph a sheet and read it up to its samples; also give the true colours and the lamp."""
    layout, pdf = any_sheet_of(seed)
    taken = take_picture(layout, pdf, seed=seed, preset=preset, hand=hand_of(seed), size_px=SIZE_PX)
    if known:
        layout = with_known_print(layout, dict(taken.patches), seed)
    picture = open_photo(taken.jpeg)
    own = identify(picture, READER.identify).with_code(layout.qr_text)
    if own is None:
        return None
    placed = place(SheetToPlace(sought=Sought(picture=picture, layout=layout), found=own))
    lit = light(placed)
    if not placed.sound or lit.dark:
        return None
    truth = zip(layout.cells, taken.truth, strict=True)
    labs = {cell.id: np.array(true.lab) for cell, true in truth if true.lab is not None}
    return sample(tone_and_colour(lit)), labs, kind_of_lamp(taken.lamp)


def cells_of(seed: int, preset: str, known: bool) -> list[list[Cell]]:
    """Give the cells of one photograph as one row, or none."""
    read = sampled(seed, preset, known)
    if read is None:
        return []
    sheet, truth, lamp = read
    plain, curved, painted = (
        {cell.id: cell for cell in doubt(sheet, parameters)}
        for parameters in (
            PLAIN,
            replace(PLAIN, tone_between_cells=1.0),
            replace(PLAIN, paint_between_cells=1.0),
        )
    )
    told = sheet.coloured.seeing.fit.lamp_told
    row = []
    for name, lab in truth.items():
        if plain[name].flags:
            continue
        own = plain[name].sigma_step ** 2
        row.append(
            Cell(
                lamp=lamp,
                told=told,
                away=float(ciede2000(plain[name].lab, lab)) / plain[name].sigma,
                value=plain[name].hvc.value - hvc_of(lab).value,
                own=own,
                curve=curved[name].sigma_step ** 2 - own,
                paint=painted[name].sigma_step ** 2 - own,
            )
        )
    return [row]


def widened(cells: list[Cell]) -> float:
    """Give the factor under which two sigma hold nearly all cells."""
    return float(np.quantile([cell.away for cell in cells], HELD)) / 2.0


def shares(rows: list[list[Cell]]) -> tuple[float, float]:
    """Fit which share of the curve's and of paints' doubt is left between neighbouring cells."""
    pairs = [pair for row in rows for pair in zip(row, row[1:], strict=False)]
    off = np.array([two.value - one.value for one, two in pairs])
    own, curve, paint = (
        np.array([getattr(one, name) + getattr(two, name) for one, two in pairs])
        for name in ("own", "curve", "paint")
    )

    def unlikeliness(given: np.ndarray) -> float:
        variance = own + given[0] ** 2 * curve + given[1] ** 2 * paint
        # A Cauchy's tails: a few cells are wrong for reasons that have no sigma.
        return float(np.sum(np.log(variance) + 2.0 * np.log1p(off**2 / (2.0 * variance))))

    found = minimize(unlikeliness, np.array([0.3, 0.7]), bounds=[(0.0, 1.0)] * 2)
    return float(found.x[0]), float(found.x[1])


def main() -> None:
    count, first = (*map(int, sys.argv[1:]), *(PHOTOGRAPHS, FIRST_SEED)[len(sys.argv) - 1 :])
    rows: list[list[Cell]] = []
    with own_processes() as pool:
        for preset, known in product(PRESETS, PRINTS):
            one = partial(cells_of, preset=preset, known=known)
            rows += [row for rows in pool.map(one, range(first, first + count)) for row in rows]
    cells = [cell for row in rows for cell in row]
    told = widened([cell for cell in cells if cell.told])
    untold = widened([cell for cell in cells if not cell.told])
    tone, paint = shares(rows)
    found = DoubtParameters(
        wider=told, lamp_untold=untold, tone_between_cells=tone, paint_between_cells=paint
    )
    for name in ("wider", "lamp_untold", "tone_between_cells", "paint_between_cells"):
        print(f"{name}: {getattr(found, name):.2f} (in use {getattr(DOUBT, name):.2f})")
    print(f"{len(cells)} cells, of which {sum(c.told for c in cells)} where the lamp is told")


if __name__ == "__main__":
    main()
