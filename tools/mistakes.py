"""Judges stand-in students' sheets whose mistakes are known: is the finding named the one made?

Run: .venv/bin/python -m tools.mistakes [preset] [sheets with a mistake [painted right [seeds]]]
The preset is `class`, with an unknown printer, or `easy+known`. With +makers every class of 24 has
tubes of some maker, of the same names but other pigments and strengths, and mixes them by eye, each
amount 15% off; with +unseen makers, pigments, lamps, sensors, printers and streaks are of kinds
that nothing was fitted to or tried on.
"""

import sys
import time
from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache, partial

import numpy as np

from noema.core.colour.names import USUAL_HUES
from noema.core.errors import Refused
from noema.core.exercises.asked import Asked, Ground
from noema.core.exercises.catalogue import FIRST_KIND, kind_of, usual_tolerance
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.exercises.options import Options
from noema.core.judging.judge import judge
from noema.core.judging.judgement import Finding, FindingKind
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
from noema.stand_ins.processes import own_processes
from noema.stand_ins.sitting import Sitting
from noema.stand_ins.student import Mistake, Painted, paint_sheet
from noema.stand_ins.studio import take_picture
from tools.photographs import KNOWN, UNSEEN, with_known_print

MAKERS, _CARE = "+makers", 0.15  # one sigma of the logarithm of amounts mixed by eye
CLASS_OF = 24  # students that have the same tubes
FIRST_SEED = 180_000  # kept apart from the seeds used while building
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
_TELLS = {
    Mistake.LEAN: {FindingKind.LEANS},
    Mistake.BUNCHED: {FindingKind.BUNCHED},
    Mistake.SWAPPED: {FindingKind.SWAPPED},
    Mistake.CONTAMINATED: {FindingKind.CONTAMINATED},
    Mistake.NOT_NEUTRAL: {FindingKind.NOT_NEUTRAL},
    Mistake.WRONG_PAIR: {FindingKind.WRONG_TUBE},
    Mistake.THIN: {FindingKind.THIN},
    Mistake.SEE_THROUGH: {FindingKind.THIN},
    Mistake.WET: {FindingKind.WET},
    Mistake.EXCHANGED: {FindingKind.SWAPPED},
    Mistake.SHORT_DARK: {FindingKind.SHORT_DARK},
    Mistake.BARE: {FindingKind.EMPTY},
}


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

    @property
    def wrong(self) -> tuple[str, ...]:
        """The cells the mistake lies in."""
        return self.painted.wrong

    @property
    def findings(self) -> tuple[Finding, ...]:
        """What judging says of it, the gravest first."""
        key = Key.NAMED if self.paints is None else Key.PAINTS
        return judge(self.reading, self.asked, key, self.level, paints=self.paints).findings


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
            maker = _maker(seed // CLASS_OF, preset)
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
def _maker(group: int, preset: str) -> dict[str, Tube] | None:
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


def made(wrong: int, right: int, first: int) -> Iterator[tuple[int, Mistake | None]]:
    """Give seeds, each mistake in turn, and sheets painted right spread among them."""
    every, done = tuple(Mistake), 0
    for n in range(wrong + right):
        if (n + 1) * right // (wrong + right) > n * right // (wrong + right):
            yield first + n, None
        else:
            yield first + n, every[done % len(every)]
            done += 1


def tells(sheet: HandedIn) -> bool:
    """Whether the first finding is the mistake made, in a cell where it was made."""
    assert sheet.mistake is not None
    first = next(iter(sheet.findings), None)
    if first is None or first.kind not in _TELLS[sheet.mistake]:
        return False
    return not first.cells or bool(set(first.cells) & set(sheet.wrong))


def claims(sheet: HandedIn) -> bool:
    """Whether a sheet painted right is said to show a mistake."""
    return bool(sheet.findings)


def report(wrong: Sequence[HandedIn], right: Sequence[HandedIn]) -> None:
    """Print how often findings are the mistakes made."""
    for mistake in Mistake:
        mine = [sheet for sheet in wrong if sheet.mistake is mistake]
        named = [tells(sheet) for sheet in mine]
        others = Counter(
            next((f.kind.value for f in sheet.findings), "nothing")
            for sheet, is_named in zip(mine, named, strict=True)
            if not is_named
        )
        print(f"{mistake.value:14} {sum(named):4} of {len(mine)} named; else {dict(others)}")
    told = np.mean([tells(sheet) for sheet in wrong]) if wrong else 0.0
    false = np.mean([claims(sheet) for sheet in right]) if right else 0.0
    said = Counter(f.kind.value for s in right for f in s.findings)
    print(f"the mistake made is named first: {told:.1%} of {len(wrong)} (at least 95%)")
    print(
        f"painted right, a mistake claimed: {false:.1%} of {len(right)} (at most 3%) {dict(said)}"
    )


def main() -> None:
    """Paint and judge as many sheets as asked for."""
    named = sys.argv[1:2] if sys.argv[1:2] and sys.argv[1][:1].isalpha() else []
    preset, rest = (*named, "class")[0], sys.argv[1 + len(named) :]
    given = [int(text) for text in rest]
    count, right, first = (*given, *(400, 200, FIRST_SEED)[len(given) :])
    one = partial(handed_in, preset=preset)
    with own_processes() as pool:
        seeds, kinds = zip(*made(count, right, first), strict=True)
        sheets = [sheet for sheet in pool.map(one, seeds, kinds) if sheet is not None]
    report([s for s in sheets if s.mistake], [s for s in sheets if s.mistake is None])
    start = time.perf_counter()
    judged = [len(sheet.findings) for sheet in sheets]
    each = (time.perf_counter() - start) / max(len(judged), 1)
    print(f"judging one of them / 30 ms: {each / 0.03:.2f} (at most 1)")


if __name__ == "__main__":
    main()
