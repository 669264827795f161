"""Fits how the reader weighs what it sees of shine (`noema/core/photo/data/shine.csv`).

Run: .venv/bin/python -m tools.fit_shine
Stand-in photographs of sheets whose paint is mixed through more or less well, with shine and
without, of the usual kinds only; cells with a little shine, which may be called either way, are
left out. A ridge-penalised logistic model (Hastie, Tibshirani and Friedman 2009, section 4.4),
whose threshold lets through FALSELY of the cells of sheets without shine that it wasn't fitted to.
Seeds are its own.
"""

from dataclasses import dataclass

import numpy as np
from scipy.optimize import minimize

from noema.core.colour.lab import lab_to_xyz
from noema.core.photo.sample import sample_paint
from noema.core.photo.shine import DATA, looked_at
from noema.core.photo.shine_evidence import NAMES, shine_evidence
from noema.core.photo.stages.colour import ColouredSheet, tone_and_colour
from noema.core.photo.stages.identify import identify
from noema.core.photo.stages.light import light
from noema.core.photo.stages.place import SheetToPlace, Sought, place
from noema.core.photo.stages.sample import pixels_of_cells
from noema.core.photo.straighten import PX_PER_MM
from noema.core.sheet.layout import Layout
from noema.formats.photo_file import open_photo
from noema.stand_ins.mishap import Mishap
from noema.stand_ins.processes import own_processes
from noema.stand_ins.studio import take_picture
from tools.photographs import any_sheet_of, hand_of

SIZE_PX = (2000, 1500)
PHOTOGRAPHS = (("class", 150, False), ("hard", 150, False), ("class", 30, True))
"""Preset, how many, and whether the paint is wet."""

FIRST_SEED = 400_000
MUCH, PAPER_Y = 0.05, 0.86  # of a cell's own light; luminance of paper
FALSELY, FOLDS, RIDGE = 0.015, 5, 1.0


@dataclass(frozen=True)
class Shone:
    """One sheet's cells: what was seen, and the light really added, as a share of their own."""

    numbers: np.ndarray  # (n, len(NAMES))
    added: np.ndarray  # (n,)


def one_sheet(taken: tuple[int, str, bool]) -> Shone | None:
    """Look at one photograph as the reader does; None where no sheet is found."""
    seed, preset, wet = taken
    layout, pdf = any_sheet_of(seed)
    mishap = Mishap(wet=True) if wet else None
    picture = take_picture(
        layout, pdf, seed=seed, preset=preset, hand=hand_of(seed), mishap=mishap, size_px=SIZE_PX
    )
    coloured = _coloured(picture.jpeg, layout)
    if coloured is None:
        return None
    places, seen = pixels_of_cells(coloured)
    paints = [sample_paint(rgb, at) for rgb, at in zip(seen, places, strict=True)]
    solid = [not paint.bare and not paint.gaps for paint in paints]
    looked = looked_at(seen, [at / PX_PER_MM for at in places], solid)
    truths = {cell.id: cell.lab for cell in picture.truth}
    names = [layout.cells[n].id for n in looked]
    kept = [n for n, name in enumerate(names) if truths[name] is not None]
    if not kept:
        return None
    numbers, _ = shine_evidence(list(looked.values()))
    own = [lab_to_xyz(truths[names[n]])[1] / 100.0 / PAPER_Y for n in kept]
    added = np.array([picture.shine[names[n]] for n in kept]) / own
    return Shone(numbers=numbers[kept], added=added)


def _coloured(jpeg: bytes, layout: Layout) -> ColouredSheet | None:
    picture = open_photo(jpeg)
    own = identify(picture).with_code(layout.qr_text)
    if own is None:
        return None
    sought = Sought(picture=picture, layout=layout, card=None)
    placed = place(SheetToPlace(sought=sought, found=own))
    return tone_and_colour(light(placed)) if placed.sound else None


def fitted(numbers: np.ndarray, shines: np.ndarray) -> np.ndarray:
    """Fit weights (1 + features) of numbers (n, features) to which shine (n,)."""
    middle, spread = numbers.mean(axis=0), numbers.std(axis=0) + 1e-9
    terms = np.column_stack([np.ones(len(numbers)), (numbers - middle) / spread])

    def unlikely(weights: np.ndarray) -> tuple[float, np.ndarray]:
        odds = terms @ weights
        wrong = 1.0 / (1.0 + np.exp(-odds)) - shines
        size = np.logaddexp(0.0, np.where(shines, -odds, odds)).sum()
        penalty = RIDGE * np.concatenate([[0.0], weights[1:]])
        return size + penalty @ weights, terms.T @ wrong + 2.0 * penalty

    found = minimize(unlikely, np.zeros(terms.shape[1]), jac=True).x
    slopes = found[1:] / spread
    return np.concatenate([[found[0] - slopes @ middle], slopes])


def main() -> None:
    """Take photographs, fit, and say how it does on sheets it wasn't fitted to."""
    seeds = iter(range(FIRST_SEED, FIRST_SEED + 10_000))
    taken = [(next(seeds), preset, wet) for preset, count, wet in PHOTOGRAPHS for _ in range(count)]
    with own_processes() as pool:
        sheets = [one for one in pool.map(one_sheet, taken, chunksize=4) if one]
    numbers, added = (np.concatenate([getattr(s, n) for s in sheets]) for n in ("numbers", "added"))
    owner = np.repeat(np.arange(len(sheets)), [len(sheet.added) for sheet in sheets])
    fold = owner % FOLDS
    dry = np.array([sheet.added.max() == 0.0 for sheet in sheets])[owner]
    shines = added > MUCH
    told = dry | shines
    odds = np.empty(len(added))
    for n in range(FOLDS):
        weights = fitted(numbers[told & (fold != n)], shines[told & (fold != n)])
        odds[fold == n] = weights[0] + numbers[fold == n] @ weights[1:]
    threshold = float(np.quantile(odds[dry], 1.0 - FALSELY))
    weights = fitted(numbers[told], shines[told])
    weights[0] -= threshold
    rows = zip(("usual", *NAMES), weights, strict=True)
    lines = [f"{name},{weight:.6g}" for name, weight in rows]
    head = "# Weights of what is seen of shine.\n# Made by tools/fit_shine.py.\n"
    DATA.write_text(head + "\n".join(lines) + "\n", encoding="utf-8")
    wet = [np.mean(odds[owner == n] > threshold) > 0.5 for n in set(owner[dry])]
    print(
        f"{len(sheets)} sheets, {len(added)} cells: of those not fitted to, {shines.sum()} with "
        f"much shine, {np.mean(odds[shines] > threshold):.1%} found; of {dry.sum()} without, "
        f"{np.mean(odds[dry] > threshold):.1%} called shiny; {sum(wet)} of {len(wet)} sheets wet"
    )


if __name__ == "__main__":
    main()
