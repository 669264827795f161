"""Reads stand-in photographs and says how far the values are from the truth.

Run: .venv/bin/python -m tools.photographs [preset [how many [width in pixels]]]
"""

import sys
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial

import numpy as np

from noema.core.colour.value import lightness_to_value
from noema.core.exercises.media import Medium
from noema.core.exercises.value_scale import ValueScale
from noema.core.photo.decode import decode_picture
from noema.core.photo.read import read_photo
from noema.core.sheet.layout import Layout
from noema.core.sheet.paper import Paper
from noema.core.sheet.value_scale_sheet import SheetWords, draw_value_scale, value_scale_layout
from noema.formats.photo_file import check_photo
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.studio import take_picture

FIRST_SEED = 50_000  # kept apart from the seeds used while building


@dataclass(frozen=True, kw_only=True)
class CellError:
    """One painted cell, read."""

    error: float  # value steps
    sigma: float
    flagged: bool


def sheet_of(seed: int) -> tuple[Layout, bytes]:
    """Give a sheet and its PDF; steps and paper change with the seed."""
    scale = ValueScale(steps=5 + seed % 7, medium=Medium.ACRYLIC)
    layout = value_scale_layout(scale, list(Paper)[seed % 2], "K7Q2-04")
    words = SheetWords(student="Ada", school_class="Year 8", due="Due in week 6")
    return layout, sheets_pdf([draw_value_scale(layout, scale, words)], "sheet")


def measure(seed: int, preset: str, width_px: int) -> list[CellError] | None:
    """Read one photograph; None where no sheet was found."""
    layout, pdf = sheet_of(seed)
    size = (width_px, width_px * 3 // 4)
    picture = take_picture(layout, pdf, seed=seed, preset=preset, size_px=size)
    megapixels = check_photo(picture.jpeg).megapixels
    reading = read_photo(decode_picture(picture.jpeg, megapixels), layout).reading
    if not reading.found:
        return None
    return [
        CellError(
            error=cell.hvc.value - float(lightness_to_value(truth.lab[0])),
            sigma=cell.sigma_value,
            flagged=bool(cell.flags),
        )
        for cell, truth in zip(reading.cells, picture.truth, strict=True)
        if truth.lab is not None
    ]


def measured(preset: str, how_many: int, width_px: int) -> Iterator[list[CellError] | None]:
    """Read many photographs, on all cores."""
    one = partial(measure, preset=preset, width_px=width_px)
    with ProcessPoolExecutor() as pool:
        yield from pool.map(one, range(FIRST_SEED, FIRST_SEED + how_many))


def main() -> None:
    usual = ("easy", "30", "4032")
    preset, how_many, width_px = (*sys.argv[1:], *usual[len(sys.argv) - 1 :])
    sheets = list(measured(preset, int(how_many), int(width_px)))
    cells = [cell for sheet in sheets if sheet for cell in sheet]
    errors = np.abs([cell.error for cell in cells if not cell.flagged])
    within = np.mean([abs(cell.error) <= 2 * cell.sigma for cell in cells])
    print(f"preset {preset}: {sum(s is not None for s in sheets)} of {how_many} sheets found")
    print(
        f"value error, cells without a flag: median {np.median(errors):.3f}, "
        f"95th percentile {np.percentile(errors, 95):.3f}, largest {errors.max():.3f}"
    )
    print(
        f"cells flagged {np.mean([cell.flagged for cell in cells]):.1%}; "
        f"two sigma cover {within:.1%} of all cells"
    )


if __name__ == "__main__":
    main()
