"""What is said follows the teacher's word: nothing is said of a cell that holds by it."""

import pytest

from noema.core.coaching.advice import PRAISE, advise
from noema.core.coaching.as_reviewed import as_reviewed
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.judging.judge import judge
from noema.core.judging.judgement import FindingKind
from noema.core.judging.review import Review
from noema.core.judging.verdict import Verdict
from noema.core.words.advice import advice_words
from tests.core.exercises.grounds import asked, choose
from tests.core.judging.readings import SPLIT, mixed, read_labs

WHEEL = asked("colour-wheel", choose(hues=12), "split-six+black")
LEANING = mixed(warm_yellow=1.0, scarlet=1.0)


def judged(changed):
    return judge(read_labs(WHEEL, changed), WHEEL, Key.PAINTS, Level.BEGINNER, paints=SPLIT)


@pytest.fixture
def orange():
    return next(cell.id for cell in WHEEL.cells if cell.label == "orange")


def test_a_cell_that_holds_by_the_teachers_word_is_not_spoken_of(orange):
    judgement = judged({orange: LEANING})
    before = advise(judgement, {})
    assert "orange" in before.cells
    review = Review(overruled={orange: Verdict.HOLDS})
    after = advise(as_reviewed(judgement, review), {})
    assert after.about == PRAISE
    assert after.cells == ()


def test_a_cell_that_is_left_out_is_not_spoken_of_nor_counted(orange):
    judgement = as_reviewed(judged({orange: LEANING}), Review(left_out=frozenset({orange})))
    assert orange not in {cell.id for cell in judgement.cells}
    assert advise(judgement, {}).about == PRAISE


def test_a_cell_the_teacher_calls_off_is_spoken_of(orange):
    good = judged({})
    after = advise(as_reviewed(good, Review(overruled={orange: Verdict.OFF})), {})
    assert after.cells == ("orange",)
    said = advice_words(after, Medium.ACRYLIC)
    assert "teacher's eye" in said
    assert "olds its step" not in said


def test_two_cells_of_which_one_holds_are_not_swapped_any_more():
    one, other = WHEEL.cells[3], WHEEL.cells[5]
    judgement = judged({one.id: other.lab, other.id: one.lab})
    assert FindingKind.SWAPPED in {finding.kind for finding in judgement.findings}
    after = as_reviewed(judgement, Review(overruled={one.id: Verdict.HOLDS}))
    assert FindingKind.SWAPPED not in {finding.kind for finding in after.findings}
