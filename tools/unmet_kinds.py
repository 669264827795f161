"""Says how far doubt holds under kinds of lamp and sensor that nothing was fitted to.

Run: .venv/bin/python -m tools.unmet_kinds [photographs [seeds from]]
Stand-in photographs of usual kinds are read as if the kind of lamp they were taken under, or
sensors with layers where theirs is one, had never been met, and as if all had. For each factor by
which usual cameras' maps are taken to vary more (`never_met` in core/photo/parameters/colour.py) it
says what is confidently wrong and what two sigma hold: of it the least is in use under which few
cells are confidently wrong even so.
"""

import sys
from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from noema.core.colour.difference import ciede2000
from noema.core.photo.read import READER
from noema.core.photo.stages.colour import tone_and_colour
from noema.core.photo.stages.doubt import doubt
from noema.core.photo.stages.identify import identify
from noema.core.photo.stages.light import light
from noema.core.photo.stages.place import SheetToPlace, Sought, place
from noema.core.photo.stages.sample import sample
from noema.formats.photo_file import open_photo
from noema.stand_ins.processes import own_processes
from noema.stand_ins.studio import TakenPicture, take_picture
from tools.make_colour_prior import KINDS_OF_LAMP, kind_of_lamp
from tools.photographs import any_sheet_of, hand_of, with_known_print

FIRST_SEED, PHOTOGRAPHS = 60_000, 80
SIZE_PX = (1400, 1050)
FACTORS = (1.0, 2.0, 4.0)
LAMPS = 1 + len(KINDS_OF_LAMP)
_FAR = 5.0  # CIEDE2000


@dataclass(frozen=True, kw_only=True)
class Cell:
    """One painted cell without a flag, read in one way."""

    known: bool  # what the printer lays
    unmet: str  # which kind was left out; empty: none
    factor: float
    away: float  # CIEDE2000
    sigma: float


def left_out(picture: TakenPicture) -> dict[str, tuple[int, ...]]:
    """Give the kinds of a picture's camera and lamp that may be left out, by number."""
    lamp = 1 + kind_of_lamp(picture.lamp)
    ways = {"": (), "the lamp": (lamp, LAMPS + lamp)}
    if picture.layered:
        ways["the sensor"] = tuple(range(LAMPS, 2 * LAMPS))
    return ways


def cells_of(seed: int) -> list[Cell]:
    """Read one photograph in every way."""
    layout, pdf = any_sheet_of(seed)
    picture = take_picture(
        layout, pdf, seed=seed, preset="class", hand=hand_of(seed), size_px=SIZE_PX
    )
    known = with_known_print(layout, dict(picture.patches), seed)
    return [
        cell
        for print_known in (False, True)
        for cell in _ways(
            picture,
            Sought(
                picture=open_photo(picture.jpeg), layout=known if print_known else layout, card=None
            ),
            print_known,
        )
    ]


def _ways(picture: TakenPicture, sought: Sought, known: bool) -> Iterator[Cell]:
    own = identify(sought.picture).with_code(sought.layout.qr_text)
    if own is None:
        return
    lit = light(place(SheetToPlace(sought=sought, found=own)))
    sampled = sample(tone_and_colour(lit))
    for unmet, kinds in left_out(picture).items():
        for factor in FACTORS:
            colour = replace(READER.colour, kinds_left_out=kinds, never_met=factor)
            read = doubt(replace(sampled, coloured=tone_and_colour(lit, colour)))
            for cell, truth in zip(read, picture.truth, strict=True):
                if truth.lab is not None and not cell.flags:
                    away = float(ciede2000(cell.lab, truth.lab))
                    yield Cell(known=known, unmet=unmet, factor=factor, away=away, sigma=cell.sigma)


def main() -> None:
    count, first = (*map(int, sys.argv[1:]), *(PHOTOGRAPHS, FIRST_SEED)[len(sys.argv) - 1 :])
    rows: dict[tuple[bool, str, float], list[Cell]] = defaultdict(list)
    with own_processes() as pool:
        for cells in pool.map(cells_of, range(first, first + count), chunksize=4):
            for cell in cells:
                rows[cell.known, cell.unmet, cell.factor].append(cell)
    for (known, unmet, factor), cells in sorted(rows.items()):
        away, sigma = (
            np.array([getattr(cell, name) for cell in cells]) for name in ("away", "sigma")
        )
        wrong = np.mean((away > _FAR) & (away > 2.0 * sigma))
        print(
            f"printer {'known' if known else 'unknown'}, never met: {unmet or 'nothing'}, "
            f"factor {factor:.0f}: {len(cells)} cells, {np.median(away):.2f}; confident wrong "
            f"{wrong:.1%}; two sigma cover {np.mean(away <= 2.0 * sigma):.1%}"
        )


if __name__ == "__main__":
    main()
