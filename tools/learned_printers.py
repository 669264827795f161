"""Says what learning a printer from a pile of photographs is worth.

Run: .venv/bin/python -m tools.learned_printers
    [preset [schools [width in pixels [phones [first school]]]]]
A school prints 24 sheets on one printer and photographs them in one room, under one lamp, with so
many phones (three). Each sheet is read three times: as from an unknown printer, by what the other
phones' photographs tell of it, and as from a calibrated one. A preset ending in +unseen is of
kinds that nothing was fitted to or tried on (`noema/stand_ins/kinds.py`).
"""

import sys
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from functools import partial

import numpy as np

from noema.core.photo.knowledge import LEARNED_SOURCE, with_known_print
from noema.core.photo.learned_print import LearnedPrint, PrintLook, learn_print
from noema.core.photo.read import read_photo
from noema.core.photo.reading import Reading
from noema.core.sheet.layout import Layout
from noema.formats.photo_file import open_photo
from noema.stand_ins.kinds import Kinds
from noema.stand_ins.optics import draw_lamp
from noema.stand_ins.printer import load_paper
from noema.stand_ins.processes import own_processes
from noema.stand_ins.studio import TakenPicture, take_picture
from tools.photographs import (
    FIRST_SEED,
    UNSEEN,
    Measured,
    any_sheet_of,
    hand_of,
    measured_by,
    told_of,
    told_of_printer,
)
from tools.photographs import with_known_print as calibrated

PILE = 24
_DAY = date(2027, 2, 1)


@dataclass(frozen=True, kw_only=True)
class Sheet:
    """One sheet of a pile, photographed and read as from an unknown printer."""

    seed: int
    layout: Layout
    picture: TakenPicture
    reading: Reading


def read_unknown(seed: int, preset: str, width_px: int, phones: int) -> Sheet:
    """Photograph one sheet of a school's pile and read it."""
    school, number = divmod(seed - FIRST_SEED, PILE)
    light = preset.partition("+")[0]
    kinds = Kinds.UNSEEN if UNSEEN in preset else Kinds.USUAL
    layout, pdf = any_sheet_of(seed)
    picture = take_picture(
        layout,
        pdf,
        seed=seed,
        preset=light,
        hand=hand_of(seed, kinds),
        size_px=(width_px, width_px * 3 // 4),
        kinds=kinds,
        press=load_paper(np.random.default_rng([school, 21]), 1.0, kinds),
        phone=school * phones + number % phones,
        lamp=draw_lamp(np.random.default_rng([school, 22]), light, kinds),
    )
    reading = read_photo(open_photo(picture.jpeg), layout).reading
    return Sheet(seed=seed, layout=layout, picture=picture, reading=reading)


def read_known(sheet: Sheet, learned: LearnedPrint | None) -> tuple[Measured | None, ...]:
    """Read a sheet by what was learned, and as from a calibrated printer."""
    layout = sheet.layout
    seen = sheet.reading.print_seen
    by_pile = layout
    if learned is not None and seen is not None:
        by_pile = with_known_print(layout, learned.for_camera(seen.camera), LEARNED_SOURCE)
    by_calibration = calibrated(layout, dict(sheet.picture.patches), sheet.seed)
    picture = open_photo(sheet.picture.jpeg)
    return tuple(
        measured_by(read_photo(picture, one).reading, [sheet.picture])
        for one in (by_pile, by_calibration)
    )


def looks_of(pile: Sequence[Sheet]) -> list[PrintLook]:
    """Give what a pile's photographs show of its printer."""
    seen = (sheet.reading.print_seen for sheet in pile)
    return [PrintLook(seen=one, day=_DAY) for one in seen if one is not None]


def main() -> None:
    usual = ("class", "4", "2000", "3", "0")
    preset, schools, width_px, phones, first = (*sys.argv[1:], *usual[len(sys.argv) - 1 :])
    start = FIRST_SEED + PILE * int(first)
    seeds = range(start, start + PILE * int(schools))
    with own_processes() as pool:
        one = partial(read_unknown, preset=preset, width_px=int(width_px), phones=int(phones))
        sheets = list(pool.map(one, seeds, chunksize=4))
        piles = [sheets[n : n + PILE] for n in range(0, len(sheets), PILE)]
        learned = [one for pile in piles for one in [learn_print(looks_of(pile))] * len(pile)]
        known = list(pool.map(read_known, sheets, learned, chunksize=4))
    print(told_of("unknown", [measured_by(sheet.reading, [sheet.picture]) for sheet in sheets]))
    by_pile, by_calibration = zip(*known, strict=True)
    print(told_of("learned", by_pile))
    print(told_of_printer(by_pile))
    print(told_of("calibrated", by_calibration))


if __name__ == "__main__":
    main()
