"""Stand-in sheets with a known mistake or none: painted, photographed and read.

Used by tools/mistakes.py and others.
"""

from dataclasses import dataclass
from functools import cache

import numpy as np

from noema.core.colour.names import USUAL_HUES
from noema.core.errors import Refused
from noema.core.exercises.asked import Asked, Ground
from noema.core.exercises.catalogue import FIRST_KIND, kind_of, usual_tolerance
from noema.core.exercises.levels import Level
from noema.core.exercises.media import Medium
from noema.core.exercises.options import Options
from noema.core.photo.read import read_photo
from noema.core.photo.reading import Reading
from noema.core.pigments.shelf import TUBES, PaintSet, builtin_set
from noema.core.pigments.tube import Tube
from noema.core.sheet.drawn_worksheet import Printed, draw_worksheet
from noema.core.sheet.layout import Layout
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import worksheet_layout
from noema.formats.photo_file import open_photo
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.kinds import Kinds
from noema.stand_ins.makers import tubes_of_a_maker
from noema.stand_ins.sitting import Sitting
from noema.stand_ins.student import Mistake, Painted, paint_sheet
from noema.stand_ins.studio import take_picture
from tools.photographs import KNOWN, UNSEEN, with_known_print

MAKERS, _CARE = "+makers", 0.15  # one sigma of the logarithm of amounts mixed by eye
CLASS_OF = 24  # students that have the same tubes
SIZE_PX = (2000, 1500)
_CODE, _PAPER = "K7Q2-04", Paper.A4
_PLAIN = "plain-scale"
_SCALES = ((_PLAIN, {}), ("value-scale", {"steps": 7}))
_LADDERS = (
    ("tint-ladder", {}),
    ("shade-ladder", {"steps": 5}),
    ("tone-ladder", {"steps": 6}),
)
_WHEELS = (
    ("colour-wheel", {"hues": 6}),
    ("colour-wheel", {"hues": 12}),
    ("colour-wheel", {"hues": 12, "rings": ("tint-in",)}),
)
_CHARTS = (("intensity-chart", {}), ("intensity-chart", {"steps": 5, "sides": True}))
_PAIRS = (("secondary-pairs", {}),)
_REST = (
    ("mixing-grid", {}),
    ("family-chart", {}),
    ("colour-match", {}),
    ("mixed-darks", {}),
    ("chromatic-greys", {}),
    ("tube-swatches", {}),
)
_EVERY = (*_SCALES, *_LADDERS, *_WHEELS, *_CHARTS, *_PAIRS, *_REST)
_EXERCISES = {
    Mistake.LEAN: _WHEELS,
    Mistake.BUNCHED: (*_SCALES, *_LADDERS),
    Mistake.SWAPPED: (*_SCALES, *_LADDERS, *_WHEELS, *_CHARTS),
    Mistake.CONTAMINATED: (*_WHEELS, *_PAIRS, *_REST[:1]),
    Mistake.NOT_NEUTRAL: _CHARTS,
    Mistake.WRONG_PAIR: _PAIRS,
    Mistake.THIN: _EVERY,
    Mistake.SEE_THROUGH: (*_LADDERS, *_WHEELS, *_CHARTS, *_PAIRS),
    Mistake.WET: _EVERY,
    Mistake.EXCHANGED: (*_LADDERS, *_WHEELS, *_CHARTS),
    Mistake.SHORT_DARK: _SCALES,
    Mistake.BARE: (*_SCALES, *_LADDERS, *_WHEELS, *_CHARTS),
}
_SETS = ("split-six+black", "split-six+black", "three-traditional+black", "three-printers+black")


@dataclass(frozen=True, kw_only=True)
class HandedIn:
    """A sheet with a known mistake, read."""

    seed: int
    asked: Asked
    paints: PaintSet | None
    level: Level
    mistake: Mistake | None
    painted: Painted  # as it truly is
    maker: dict[str, Tube] | None  # whose tubes the student has
    reading: Reading


def handed_in(seed: int, mistake: Mistake | None, preset: str = "class") -> HandedIn | None:
    """Paint, photograph and read one sheet; None where no sheet is found in the photograph."""
    rng = np.random.default_rng([seed, 6])
    level = Level.BEGINNER if seed % 3 else Level.INTERMEDIATE
    while True:
        choices = _EXERCISES[mistake] if mistake else _EVERY
        kind, chosen = choices[int(rng.integers(len(choices)))]
        name = _SETS[seed // CLASS_OF % len(_SETS)]
        if mistake is Mistake.WRONG_PAIR:
            name = _SETS[0]
        try:
            options = kind_of(FIRST_KIND if kind == _PLAIN else kind).chosen(chosen)
            asked, paints, layout, pdf = sheet_of(kind, options, name)
            maker = maker_of(seed // CLASS_OF, preset)
            sitting = Sitting(
                asked=asked,
                paints=paints,
                tolerance=usual_tolerance(asked.kind, level),
                rng=rng,
                care=_CARE if MAKERS in preset else 0.08,
                maker=maker,
            )
            painted = paint_sheet(sitting, mistake)
            break
        except Refused:
            continue  # this exercise or set leaves no room for it
    reading = photographed(seed, layout, pdf, painted, preset)
    if not reading.found:
        return None
    return HandedIn(
        seed=seed,
        asked=asked,
        paints=paints,
        level=level,
        mistake=mistake,
        painted=painted,
        maker=maker,
        reading=reading,
    )


@cache
def maker_of(group: int, preset: str) -> dict[str, Tube] | None:
    """Give a class's tubes as some maker fills them; None: as the model has them."""
    if MAKERS not in preset:
        return None
    return tubes_of_a_maker(TUBES.values(), np.random.default_rng([group, 8]), _kinds(preset))


def _kinds(preset: str) -> Kinds:
    return Kinds.UNSEEN if UNSEEN in preset else Kinds.USUAL


def photographed(
    seed: int, layout: Layout, pdf: bytes, painted: Painted, preset: str = "class"
) -> Reading:
    """Photograph a sheet as people of a preset do, and read it."""
    picture = take_picture(
        layout,
        pdf,
        seed=seed,
        preset=preset.partition("+")[0],
        hand=painted.hand,
        mishap=painted.mishap,
        size_px=SIZE_PX,
        kinds=_kinds(preset),
    )
    if KNOWN in preset:
        layout = with_known_print(layout, dict(picture.patches), seed)
    return read_photo(open_photo(picture.jpeg), layout).reading


Drawn = tuple[Asked, PaintSet | None, Layout, bytes]


@cache
def sheet_of(
    kind: str, options: Options, name: str
) -> tuple[Asked, PaintSet | None, Layout, bytes]:
    """Work an exercise out and draw its sheet."""
    plain = kind == _PLAIN
    paints = None if plain else builtin_set(name)
    if paints is None:
        asked = kind_of(FIRST_KIND).asked_plainly(options, Medium.ACRYLIC)
    else:
        asked = kind_of(kind).asked(options, Ground(paints=paints, table=USUAL_HUES))
    layout = worksheet_layout(asked, _PAPER, _CODE, grey_only=plain)
    drawing = draw_worksheet(layout, asked, _PAPER, Printed())
    return asked, paints, layout, sheets_pdf([drawing], "sheet")
