"""Reads stand-in photographs of every kind of sheet and says how far the reader is from the truth.

Run: .venv/bin/python -m tools.photographs [preset [how many [width in pixels [seeds from]]]]
A preset ending in +known is read with the printer's patches known, as after a calibration; one
ending in +unseen is of lamps, sensors, paper, printers, pigments and streaks that nothing was
fitted to or tried on (`noema/stand_ins/kinds.py`); of one ending in +three, three photographs of
each sheet, by one phone, are read together. With +elsewhere the printer is said to be a calibrated
one, and the sheet was printed on another.
"""

import sys
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cache, partial

import numpy as np

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvc_of
from noema.core.colour.lab import lab_to_xyz
from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.asked import Asked, Ground
from noema.core.exercises.catalogue import FIRST_KIND, KINDS, kind_of
from noema.core.exercises.media import Medium
from noema.core.photo.knowledge import Knowledge
from noema.core.photo.read import read_photo
from noema.core.photo.reading import CellFlag, Reading, SheetFlag
from noema.core.photo.together import read_together
from noema.core.pigments.shelf import builtin_set
from noema.core.sheet.drawn_worksheet import Printed, draw_worksheet
from noema.core.sheet.layout import Layout, Triple
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import worksheet_layout
from noema.formats.photo_file import open_photo
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.kinds import Kinds
from noema.stand_ins.painter import Hand, lively
from noema.stand_ins.printer import load_paper, patch_labs
from noema.stand_ins.processes import own_processes
from noema.stand_ins.sitting import recipe_of
from noema.stand_ins.studio import TakenPicture, take_picture

FIRST_SEED = 50_000  # kept apart from the seeds used while building
KNOWN, UNSEEN, THREE, ELSEWHERE = "+known", "+unseen", "+three", "+elsewhere"
SPOILED = "bad"
_SHINY = 0.03  # of white paper's light, thrown back from a cell
_MUCH = 0.05  # of a cell's own light added by shine, from which it should be found
_PAPER_Y = 0.86  # luminance of paper, about
_KNOWN_SIGMA = 0.6  # CIEDE2000 of a calibrated patch
_YOUNGER = ("neutral-degrees", "progression")  # than the seeds figures were written down for
_KINDS = tuple(name for name in sorted(KINDS) if name not in _YOUNGER)
"""The kinds that have been measured from the first: a seed stays the sheet it was."""

_SETS = ("split-six+black", "three-printers", "muted-earths")
_FAR, _SURE = 5.0, 0.5  # confident wrong: this far off, with a sigma under this share of it


@dataclass(frozen=True, kw_only=True)
class CellError:
    """One painted cell, read."""

    away: float  # CIEDE2000
    value: float  # value steps
    sigma: float
    sigma_value: float
    flagged: bool
    shines: bool  # is said to
    shine: float  # light really added, as a share of its own
    step: float | None  # error of L* against the cell before it; None where either is flagged


@dataclass(frozen=True, kw_only=True)
class Measured:
    """One sheet, read."""

    cells: list[CellError]
    believed: bool  # that its printer is the one it was said to be


def sheet_of(seed: int) -> tuple[Layout, bytes]:
    """Give a plain value scale and its PDF; steps and paper change with the seed."""
    return _drawn(_scale_of(seed), seed, grey_only=True)


def any_sheet_of(seed: int) -> tuple[Layout, bytes]:
    """Give a sheet of any kind and its PDF; kind, set, paper and printing change with the seed."""
    asked = _asked_of(seed)
    return sheet_of(seed) if asked is None else _drawn(asked, seed, grey_only=seed % 5 == 0)


def _drawn(asked: Asked, seed: int, *, grey_only: bool) -> tuple[Layout, bytes]:
    paper = list(Paper)[seed % 2]
    layout = worksheet_layout(asked, paper, "K7Q2-04", grey_only=grey_only)
    return layout, sheets_pdf([draw_worksheet(layout, asked, paper, Printed())], "sheet")


def hand_of(seed: int, kinds: Kinds = Kinds.USUAL) -> Hand:
    """Give a student who mixes the cells of that sheet from their tubes, more or less well."""
    rng = np.random.default_rng([seed, 5])
    asked = _asked_of(seed)
    cells = (asked or _scale_of(seed)).cells
    hand = Hand(
        step_noise=rng.uniform(0.1, 0.6),
        bunching=rng.normal(0.0, 0.15),
        recipes={cell.id: recipe_of(cell) for cell in cells},
    )
    return lively(hand, rng, kinds)


def _asked_of(seed: int) -> Asked | None:
    """Give the exercise of a seed's sheet; None where it is a plain value scale."""
    kind, paints = _KINDS[seed % len(_KINDS)], _SETS[seed // len(_KINDS) % len(_SETS)]
    return None if kind == FIRST_KIND and seed % 3 else _asked(kind, paints)


def _scale_of(seed: int) -> Asked:
    scale = kind_of(FIRST_KIND)
    return scale.asked_plainly(scale.chosen({"steps": 5 + seed % 7}), Medium.ACRYLIC)


@cache
def _asked(kind: str, paints: str) -> Asked:
    ground = Ground(paints=builtin_set(paints), table=USUAL_HUES)
    return kind_of(kind).asked(kind_of(kind).chosen({}), ground)


def with_known_print(layout: Layout, labs: dict[str, Triple], seed: int) -> Layout:
    """Write the printer's colours into a layout, as a calibration measures them."""
    noise = np.random.default_rng(seed).normal(0.0, 0.35, (len(layout.reference), 3))
    reference = tuple(
        replace(
            patch,
            lab=tuple((np.array(labs[patch.id]) + off).tolist()),
            lab_sigma=_KNOWN_SIGMA,
            lab_source="printer calibration",
        )
        for patch, off in zip(layout.reference, noise, strict=True)
    )
    return replace(layout, reference=reference)


def measure(seed: int, preset: str, width_px: int) -> Measured | None:
    """Read one sheet; None where none was found."""
    layout, pdf = any_sheet_of(seed)
    size = (width_px, width_px * 3 // 4)
    light = preset.partition("+")[0]
    kinds = Kinds.UNSEEN if UNSEEN in preset else Kinds.USUAL
    hand = hand_of(seed, kinds)
    pictures = [
        take_picture(
            layout, pdf, seed=seed, preset=light, hand=hand, size_px=size, kinds=kinds, again=again
        )
        for again in range(3 if THREE in preset else 1)
    ]
    picture = pictures[0]
    if KNOWN in preset:
        layout = with_known_print(layout, dict(picture.patches), seed)
    if ELSEWHERE in preset:
        other = load_paper(np.random.default_rng([seed, 9]), 1.0)
        layout = with_known_print(layout, patch_labs(layout, other), seed)
    reading = read_together([read_photo(open_photo(p.jpeg), layout).reading for p in pictures])
    return measured_by(reading, pictures)


def measured_by(reading: Reading, pictures: Sequence[TakenPicture]) -> Measured | None:
    """Hold a reading of one sheet against the truth; None where no sheet was found."""
    if not reading.found:
        return None
    errors, before = [], None
    for cell, truth in zip(reading.cells, pictures[0].truth, strict=True):
        if truth.lab is None:
            continue
        lightness = None if cell.flags else cell.lab[0] - truth.lab[0]
        errors.append(
            CellError(
                away=float(ciede2000(cell.lab, truth.lab)),
                value=cell.hvc.value - hvc_of(truth.lab).value,
                sigma=cell.sigma,
                sigma_value=cell.sigma_value,
                flagged=bool(cell.flags),
                shines=CellFlag.GLARE in cell.flags,
                shine=min(one.shine[cell.id] for one in pictures) / _own_light(truth.lab),
                step=_apart(lightness, before),
            )
        )
        before = lightness
    return Measured(cells=errors, believed=Knowledge.OTHER_PRINT not in reading.knowledge)


def _own_light(lab: Triple) -> float:
    """Give a colour's luminance as a share of white paper's."""
    return float(lab_to_xyz(lab)[1]) / 100.0 / _PAPER_Y


def _apart(lightness: float | None, before: float | None) -> float | None:
    return None if lightness is None or before is None else lightness - before


def told_of_shine(sheets: Sequence[Sequence[CellError]]) -> str:
    """Say what was told of shine where there was none, and how much of it was found."""
    dry = [sheet for sheet in sheets if not any(cell.shine for cell in sheet)]
    falsely = [cell.shines for sheet in dry for cell in sheet]
    wet = [sum(cell.shines for cell in sheet) > len(sheet) / 2.0 for sheet in dry]
    found = [cell.shines for sheet in sheets for cell in sheet if cell.shine > _MUCH]
    return (
        f"of {len(dry)} sheets without shine {np.mean(falsely):.1%} of cells said to shine, "
        f"{sum(wet)} sheets wet"
    ) + (f"; of {len(found)} cells with much shine {np.mean(found):.1%} found" if found else "")


def spoiled_and_read(seed: int, width_px: int) -> bool:
    """Whether a spoiled photograph was read as if nothing were wrong where something was."""
    layout, pdf = any_sheet_of(seed)
    size = (width_px, width_px * 3 // 4)
    picture = take_picture(layout, pdf, seed=seed, preset=SPOILED, hand=hand_of(seed), size_px=size)
    reading = read_photo(open_photo(picture.jpeg), layout).reading
    if not reading.found:
        return False
    if picture.mishap.cut_off:
        return SheetFlag.CROPPED not in reading.flags
    wet = picture.mishap.wet
    return any(
        not cell.flags and truth.lab is not None and (not wet or picture.shine[cell.id] > _SHINY)
        for cell, truth in zip(reading.cells, picture.truth, strict=True)
    )


def measured(
    preset: str, how_many: int, width_px: int, first: int = FIRST_SEED
) -> Iterator[Measured | None]:
    """Read many photographs, on all cores."""
    one = partial(measure, preset=preset, width_px=width_px)
    with own_processes() as pool:
        yield from pool.map(one, range(first, first + how_many), chunksize=4)


def main() -> None:
    usual = ("easy+known", "60", "2400", str(FIRST_SEED))
    preset, how_many, width_px, first = (*sys.argv[1:], *usual[len(sys.argv) - 1 :])
    if preset == SPOILED:
        one = partial(spoiled_and_read, width_px=int(width_px))
        with own_processes() as pool:
            wrong = sum(pool.map(one, range(int(first), int(first) + int(how_many))))
        print(f"{SPOILED}: {1 - wrong / int(how_many):.1%} refused, or flagged where spoiled")
        return
    sheets = list(measured(preset, int(how_many), int(width_px), int(first)))
    print(told_of(preset, sheets))
    if KNOWN in preset or ELSEWHERE in preset:
        print(told_of_printer(sheets))


def told_of_printer(sheets: Sequence[Measured | None]) -> str:
    """Say on how many sheets the printer was believed."""
    read = [sheet for sheet in sheets if sheet]
    return f"printer believed on {sum(one.believed for one in read)} of {len(read)} sheets"


def told_of(name: str, sheets: Sequence[Measured | None]) -> str:
    """Say how far readings are from the truth."""
    read = [sheet for sheet in sheets if sheet]
    cells = [cell for sheet in read for cell in sheet.cells]
    plain = [cell for cell in cells if not cell.flagged]
    away, sigma = (np.array([getattr(c, n) for c in plain]) for n in ("away", "sigma"))
    value = np.abs([cell.value for cell in plain])
    steps = np.abs([cell.step for cell in cells if cell.step is not None])
    covers = np.mean(value <= 2 * np.array([cell.sigma_value for cell in plain]))
    wrong = np.mean([not c.flagged and c.away > _FAR and c.sigma < _SURE * c.away for c in cells])
    return (
        f"{name}: {len(read)} of {len(sheets)} found; "
        f"CIEDE2000 {np.median(away):.2f} / {np.percentile(away, 95):.2f}; "
        f"value {np.median(value):.3f} / {np.percentile(value, 95):.3f}; "
        f"steps of L* {np.median(steps):.2f} / {np.percentile(steps, 95):.2f}; "
        f"confident wrong {wrong:.1%}; flagged {np.mean([c.flagged for c in cells]):.1%}; "
        f"two sigma cover {np.mean(away <= 2 * sigma):.1%} (value {covers:.1%}); "
        f"sigma / error in the middle {np.median(sigma) / np.median(away):.2f}\n"
        + told_of_shine([sheet.cells for sheet in read])
    )


if __name__ == "__main__":
    main()
