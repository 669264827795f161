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
from functools import partial

import numpy as np

from noema.core.coaching.moves import Act
from noema.core.judging.judgement import FindingKind
from noema.core.judging.verdict import Verdict
from noema.stand_ins.processes import own_processes
from noema.stand_ins.student import Mistake
from tools.followed import Told, brings_nearer, told_of
from tools.handed_in import handed_in

FIRST_SEED = 180_000  # kept apart from the seeds used while building
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


def made(wrong: int, right: int, first: int) -> Iterator[tuple[int, Mistake | None]]:
    """Give seeds, each mistake in turn, and sheets painted right spread among them."""
    every, done = tuple(Mistake), 0
    for n in range(wrong + right):
        if (n + 1) * right // (wrong + right) > n * right // (wrong + right):
            yield first + n, None
        else:
            yield first + n, every[done % len(every)]
            done += 1


def named(told: Told) -> list[bool]:
    """Say of each finding, the gravest first, whether it is the mistake made, where it was made."""
    sheet = told.sheet
    assert sheet.mistake is not None
    return [
        one.kind in _TELLS[sheet.mistake]
        and (not one.cells or bool(set(one.cells) & set(sheet.painted.wrong)))
        for one in told.judgement.findings
    ]


def report(sheets: Sequence[Told]) -> None:
    """Print what is said of sheets, and what it is worth."""
    wrong = [one for one in sheets if one.sheet.mistake is not None]
    right = [one for one in sheets if one.sheet.mistake is None]
    for mistake in Mistake:
        mine = [one for one in wrong if one.sheet.mistake is mistake]
        first = [named(one)[:1] == [True] for one in mine]
        others = Counter(
            next((f.kind.value for f in one.judgement.findings), "nothing")
            for one, is_named in zip(mine, first, strict=True)
            if not is_named
        )
        print(f"{mistake.value:14} {sum(first):4} of {len(mine)} named first; else {dict(others)}")
    said = Counter(f.kind.value for one in right for f in one.judgement.findings)
    share("the mistake made is named first", [named(o)[:1] == [True] for o in wrong], "least 85%")
    share("it is named at all", [any(named(one)) for one in wrong], "least 92%")
    share(
        "painted right, a mistake claimed", [bool(o.judgement.findings) for o in right], "most 5%"
    )
    print(f"  {dict(said)}")
    share("painted right, the sentence faults something", [o.faults for o in right], "most 10%")
    for act, asked in ((Act.ADD, "least 85%"), (Act.AGAIN, "least 70%")):
        follow = (brings_nearer(o.sheet, m) for o in sheets for m in o.moves if m.act is act)
        nearer = [one for one in follow if one is not None]
        share(f"following “{act.value}” to the letter brings nearer", nearer, asked)
    measured = [cell for one in sheets for cell in one.judgement.cells if cell.measured]
    look = [cell.verdict is Verdict.LOOK for cell in measured]
    share("cells that could be seen and say look yourself", look, "most 20% in class")


def share(what: str, of: Sequence[bool], asked: str) -> None:
    """Print how many of some are so."""
    print(f"{what}: {sum(of)} of {len(of)}, {np.mean(of) if of else 0.0:.1%} (at {asked})")


def main() -> None:
    """Paint and judge as many sheets as asked for."""
    chosen = sys.argv[1:2] if sys.argv[1:2] and sys.argv[1][:1].isalpha() else []
    preset, rest = (*chosen, "class")[0], sys.argv[1 + len(chosen) :]
    given = [int(text) for text in rest]
    count, right, first = (*given, *(400, 200, FIRST_SEED)[len(given) :])
    one = partial(handed_in, preset=preset)
    with own_processes() as pool:
        seeds, kinds = zip(*made(count, right, first), strict=True)
        sheets = [sheet for sheet in pool.map(one, seeds, kinds) if sheet is not None]
    report(told_of(sheets))
    start = time.perf_counter()
    told_of(sheets)
    each = (time.perf_counter() - start) / max(len(sheets), 1)
    print(f"learning tubes, judging and coaching, a sheet / 30 ms: {each / 0.03:.2f}")


if __name__ == "__main__":
    main()
