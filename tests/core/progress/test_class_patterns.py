"""What several students have in common."""

import pytest

from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.levels import Key, Level
from noema.core.judging.judge import judge
from noema.core.judging.review import Review
from noema.core.progress.class_patterns import FEWEST, Attempt, class_patterns, drifts_by_cell
from tests.core.exercises.grounds import asked, choose
from tests.core.judging.readings import SPLIT, mixed, read_labs

WHEEL = asked("colour-wheel", choose(hues=12), "split-six+black")
TINTS = asked("tint-ladder", choose(steps=7, tubes=("scarlet",)), "split-six+black")
GREEN = next(cell for cell in WHEEL.cells if cell.label == "yellow-green")
MUDDY = {GREEN.id: mixed(warm_yellow=12.0, ultramarine=1.0)}
ORANGE = next(cell for cell in WHEEL.cells if cell.label == "orange")
DULL = {ORANGE.id: (ORANGE.lab[0], 0.4 * ORANGE.lab[1], 0.4 * ORANGE.lab[2])}


def attempt(exercise, changed=None, review=None, **how):
    reading = read_labs(exercise, changed, **how)
    judgement = judge(reading, exercise, Key.PAINTS, Level.BEGINNER, paints=SPLIT)
    return Attempt(judgement=judgement, review=review or Review())


def words_of(attempts, exercise=WHEEL):
    return [one.words for one in class_patterns(attempts, exercise, SPLIT, USUAL_HUES)]


def test_a_class_that_paints_right_has_nothing_in_common():
    assert words_of([attempt(WHEEL) for _ in range(6)]) == []


@pytest.mark.parametrize(("many", "named"), [(FEWEST - 1, False), (FEWEST, True), (6, True)])
def test_what_a_few_share_is_named_what_two_share_isnt(many, named):
    attempts = [attempt(WHEEL, MUDDY) for _ in range(many)]
    attempts += [attempt(WHEEL) for _ in range(6 - many)]
    assert any(f"with {many} of 6" in words for words in words_of(attempts)) is named


def test_a_dull_mix_is_answered_from_the_set():
    found = class_patterns([attempt(WHEEL, DULL) for _ in range(5)], WHEEL, SPLIT, USUAL_HUES)
    dull = next(one for one in found if "is dull" in one.words)
    assert dull.suggestion.startswith("Mix it from warm yellow and scarlet alone")
    assert dull.cells == (ORANGE.id,)


def test_a_lean_is_named_by_the_hue_it_goes_to():
    too_yellow = {GREEN.id: mixed(lemon_yellow=3000.0, phthalo_blue=1.0)}
    said = words_of([attempt(WHEEL, too_yellow) for _ in range(4)])
    assert any("Yellow-green leans to yellow with 4 of 4" in words for words in said)


def test_the_same_finding_on_many_sheets_is_counted_once():
    one, other = TINTS.cells[1], TINTS.cells[3]
    turned = {one.id: other.lab, other.id: one.lab}
    said = words_of([attempt(TINTS, turned) for _ in range(4)], TINTS)
    assert any(
        words.startswith("4 of 4 sheets: cells stand in each other's place") for words in said
    )


def test_what_is_left_out_isnt_counted():
    out = Review(left_out=frozenset({GREEN.id}))
    attempts = [attempt(WHEEL, MUDDY, review=out) for _ in range(5)]
    green = next(one for one in drifts_by_cell(attempts, WHEEL) if one.id == GREEN.id)
    assert green.value == ()
    assert not any("Yellow-green is" in words for words in words_of(attempts))


def test_every_counted_drift_stands_in_its_cell_in_tolerances():
    attempts = [attempt(WHEEL, DULL), attempt(WHEEL)]
    orange = next(one for one in drifts_by_cell(attempts, WHEEL) if one.id == ORANGE.id)
    assert len(orange.value) == 2
    assert orange.chroma[0] < -1.0
    assert orange.chroma[1] == pytest.approx(0.0, abs=0.01)


def test_a_class_is_told_what_to_do_itself_and_its_teacher_what_to_show():
    too_dark = {TINTS.cells[3].id: TINTS.cells[1].lab}
    found = class_patterns([attempt(TINTS, too_dark) for _ in range(4)], TINTS, SPLIT, USUAL_HUES)
    assert found
    for one in found:
        assert one.own_try
        assert not {"Show", "Hand out", "Give time", "together"} & set(one.own_try.split())
    assert any(one.suggestion != one.own_try for one in found)
