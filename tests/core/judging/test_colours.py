"""Judging painted colours: hue, value and chroma, each with its doubt."""

import numpy as np
import pytest

from noema.core.coaching.advice import advise
from noema.core.colour.hvc import hvc_of, hvc_to_lab
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.exercises.tolerance import Tolerance
from noema.core.judging.judge import judge
from noema.core.judging.judgement import FindingKind
from noema.core.judging.verdict import Verdict
from noema.core.photo.reading import CellFlag, CellReading, Reading
from noema.core.words.advice import advice_words
from noema.core.words.reasons import reason_words
from tests.core.exercises.grounds import asked, choose

WHEEL = asked("colour-wheel", choose(hues=12), "split-six")


def read(exercise, changed=None, sigma=1.0, flags=None):
    """A reading in which every cell is as expected but those changed: by id, hue, value, chroma."""
    cells = []
    for cell in exercise.cells:
        hue, value, chroma = (changed or {}).get(cell.id, (0.0, 0.0, 0.0))
        hvc = cell.hvc
        lab = cell.lab
        if (changed or {}).get(cell.id):
            moved = ((hvc.hue100 + hue) % 100, hvc.value + value, hvc.chroma + chroma)
            lightness, a, b = hvc_to_lab(np.array(moved)).tolist()
            lab = (lightness, a, b)
        cells.append(
            CellReading(
                id=cell.id,
                lab=lab,
                hvc=hvc_of(lab),
                sigma=sigma,
                sigma_value=0.1 * sigma,
                sigma_step=0.05 * sigma,
                sigma_hue=1.0 * sigma,
                sigma_chroma=0.3 * sigma,
                coverage=1.0,
                unevenness=0.02,
                spill=0.0,
                flags=(flags or {}).get(cell.id, ()),
            )
        )
    return Reading(sheet="K7Q2-04", found=True, flags=(), cells=tuple(cells))


def judged(changed=None, **how):
    return judge(read(WHEEL, changed, **how), WHEEL, Key.PAINTS, Level.BEGINNER)


def test_a_wheel_as_expected_holds_everywhere():
    judgement = judged()
    assert judgement.count(Verdict.HOLDS) == 12
    assert judgement.findings == ()
    assert "Every cell holds" in advice_words(advise(judgement, {}), Medium.ACRYLIC)


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ((-7.0, 0.0, 0.0), "leans to red"),
        ((7.0, 0.0, 0.0), "leans to yellow"),
        ((0.0, -1.6, 0.0), "too dark"),
        ((0.0, 1.3, -1.0), "too light"),
        ((0.0, 0.0, -6.0), "too dull"),
    ],
)
def test_a_strayed_orange_is_named_with_its_direction(change, words):
    judgement = judged({"h3": change})
    orange = judgement.cells[2]
    assert orange.label == "orange"
    assert orange.verdict in (Verdict.DRIFTS, Verdict.OFF)
    assert words in reason_words(orange.reason).lower()
    assert judgement.count(Verdict.HOLDS) == 11
    assert "orange" in advice_words(advise(judgement, {}), Medium.ACRYLIC)


def test_a_doubtful_reading_asks_the_teacher():
    judgement = judged({"h3": (-5.0, 0.0, 0.0)}, sigma=9.0)
    assert judgement.cells[2].verdict is Verdict.LOOK
    assert "isn't sure" in reason_words(judgement.cells[2].reason)


def test_a_cell_left_bare_is_empty_however_pale_it_was_asked():
    judgement = judged(flags={"h1": (CellFlag.UNPAINTED,)})
    assert [finding.kind for finding in judgement.findings] == [FindingKind.EMPTY]
    assert "now paint yellow" in advice_words(advise(judgement, {}), Medium.ACRYLIC)


def test_own_tolerances_replace_the_levels():
    reading = read(WHEEL, {"h3": (-7.0, 0.0, 0.0)})
    wide = Tolerance(hue=12.0, value=1.0, chroma=5.0)
    judgement = judge(reading, WHEEL, Key.PAINTS, Level.ADVANCED, tolerance=wide)
    assert judgement.cells[2].verdict is Verdict.HOLDS
    assert judgement.cells[2].hue.tolerance == 12.0


def test_a_grey_is_never_held_against_a_hue():
    chart = asked("intensity-chart", choose(steps=5, pairs=("red-green",)), "split-six")
    judgement = judge(read(chart), chart, Key.PAINTS, Level.ADVANCED)
    neutral = judgement.cells[2]
    assert neutral.hue is None
    assert neutral.chroma is not None
    assert judgement.cells[0].hue is not None
