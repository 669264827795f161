"""What most of a class painted alike: asked about, and counted for nobody until answered."""

from dataclasses import replace

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.class_question import ClassAnswer, ClassQuestion
from noema.core.exercises.levels import Key, Level
from noema.core.judging.class_shares import FEWEST, shared_by_class
from noema.core.judging.evidence import strays_of
from noema.core.judging.judge import judge
from noema.core.judging.judgement import Why
from noema.core.judging.verdict import Verdict
from noema.core.pigments.known_tubes import UNKNOWN
from noema.core.pigments.mix import lab_of_parts
from noema.core.words.class_question import cells_in_question
from noema.core.words.reasons import reason_words
from noema.formats.class_question_json import question_from_json, question_to_json
from tests.core.exercises.grounds import asked, choose
from tests.core.judging.readings import SPLIT, read_labs

WHEEL = asked("colour-wheel", choose(hues=12), "split-six+black")
GREEN = next(cell for cell in WHEEL.cells if cell.label == "green")
LEANING = tuple(
    lab_of_parts(
        [
            replace(part, amount=part.amount * (6.0 if n == 0 else 1.0))
            for n, part in enumerate(GREEN.parts)
        ],
        SPLIT.binder.dry,
    ).tolist()
)
BROWNISH = (GREEN.lab[0] - 9.0, GREEN.lab[1] + 14.0, GREEN.lab[2] + 4.0)


def sheet(seed, green=None):
    """A wheel painted a little unsteadily; its green as given."""
    rng = np.random.default_rng(seed)
    labs = {cell.id: tuple(np.array(cell.lab) + rng.normal(0.0, 0.8, 3)) for cell in WHEEL.cells}
    if green is not None:
        labs[GREEN.id] = tuple(np.array(green) + rng.normal(0.0, 1.0, 3))
    return read_labs(WHEEL, labs)


def strays(reading):
    return strays_of(WHEEL, WHEEL, reading.cells, SPLIT.binder.dry, UNKNOWN)


def shared(odd, right):
    sheets = [sheet(n, BROWNISH) for n in range(odd)] + [sheet(50 + n) for n in range(right)]
    return shared_by_class([strays(one) for one in sheets])


def test_a_mix_that_most_have_alike_is_in_question_and_no_other():
    found = shared(9, 2)
    assert set(found) == {GREEN.id}
    [one] = found.values()
    assert (one.students, one.of) == (9, 11)
    moved = tuple(np.add(GREEN.lab, one.shift))
    assert ciede2000(moved, BROWNISH) < 4.0


@pytest.mark.parametrize(("odd", "right"), [(0, 12), (5, 6), (FEWEST - 1, 0)])
def test_what_some_have_or_few_sheets_show_is_not(odd, right):
    assert not shared(odd, right)


def test_each_way_its_own_is_no_common_mistake():
    ways = [(12, 0, 0), (-12, 0, 0), (0, 14, 0), (0, -14, 0), (0, 0, 15), (0, 0, -15)] * 2
    sheets = [sheet(n, tuple(np.add(GREEN.lab, way))) for n, way in enumerate(ways)]
    assert not shared_by_class([strays(one) for one in sheets])


QUESTION = ClassQuestion(cells=shared(9, 2))


def green_of(reading, exercise, printed=None):
    judgement = judge(
        reading, exercise, Key.PAINTS, Level.BEGINNER, paints=SPLIT, printed=printed or exercise
    )
    cell = next(cell for cell in judgement.cells if cell.id == GREEN.id)
    return cell, judgement


def test_until_answered_it_counts_against_nobody():
    counted, before = green_of(sheet(3, LEANING), WHEEL)
    assert counted.verdict in (Verdict.DRIFTS, Verdict.OFF)
    assert any(GREEN.id in finding.cells for finding in before.findings)
    waits, judgement = green_of(sheet(3, LEANING), QUESTION.marked(WHEEL))
    assert waits.reason.why is Why.IN_QUESTION
    assert not waits.measured
    assert "most of the class" in reason_words(waits.reason)
    assert not any(GREEN.id in finding.cells for finding in judgement.findings)
    holds, _ = green_of(sheet(60), QUESTION.marked(WHEEL))
    assert holds.verdict is Verdict.HOLDS


def test_said_to_be_the_paint_what_they_painted_is_expected():
    answered = replace(QUESTION, answer=ClassAnswer.PAINT)
    exercise = answered.expected(WHEEL)
    assert green_of(sheet(3, BROWNISH), exercise, WHEEL)[0].verdict is Verdict.HOLDS
    assert green_of(sheet(60), exercise, WHEEL)[0].verdict is not Verdict.HOLDS
    assert answered.marked(WHEEL) == WHEEL


def test_said_to_be_taught_it_counts_as_any_other():
    answered = replace(QUESTION, answer=ClassAnswer.TAUGHT)
    assert answered.expected(WHEEL) == WHEEL
    assert answered.marked(WHEEL) == WHEEL


def test_a_teacher_is_told_how_it_differs():
    [said] = cells_in_question(QUESTION, WHEEL, USUAL_HUES)
    assert said.words.startswith("Green: on 9 of 11 sheets it is ")
    assert "darker" in said.words
    assert "duller" in said.words


def test_questions_are_kept_as_json():
    kept = question_from_json(question_to_json(replace(QUESTION, answer=ClassAnswer.TAUGHT)))
    assert kept.answer is ClassAnswer.TAUGHT
    assert kept.cells[GREEN.id].shift == pytest.approx(QUESTION.cells[GREEN.id].shift, abs=0.01)
    assert question_from_json(None) is None
