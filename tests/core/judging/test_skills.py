"""Sheets summed up skill by skill."""

import pytest

from noema.core.errors import Refused
from noema.core.exercises.catalogue import KINDS
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.skills import Skill
from noema.core.judging.judge import judge
from noema.core.judging.review import Review
from noema.core.judging.rubric import USUAL_RUBRIC, Rubric
from noema.core.judging.skills import mark_of, skill_marks
from noema.core.judging.verdict import Verdict
from tests.core.exercises.grounds import asked, choose
from tests.core.judging.readings import SPLIT, read_labs

WHEEL = asked("colour-wheel", choose(hues=12), "split-six+black")
SCALE = asked("value-scale", choose(steps=7), "split-six+black")
NOTHING = Review()


def marks(exercise, changed=None, review=NOTHING, rubric=USUAL_RUBRIC, **how):
    reading = read_labs(exercise, changed, **how)
    judgement = judge(reading, exercise, Key.PAINTS, Level.BEGINNER, paints=SPLIT)
    return {mark.skill: mark for mark in skill_marks(judgement, review, rubric)}


def moved(cell, lightness=0.0, a=0.0, b=0.0):
    return (cell.lab[0] + lightness, cell.lab[1] + a, cell.lab[2] + b)


ORANGE = next(cell for cell in WHEEL.cells if cell.label == "orange")
DARKER = {ORANGE.id: moved(ORANGE, lightness=-38.0)}


@pytest.mark.parametrize("exercise", [WHEEL, SCALE])
def test_a_sheet_painted_right_has_every_skill_that_counts(exercise):
    found = marks(exercise)
    assert set(found) == set(USUAL_RUBRIC.of_kind(exercise.kind))
    assert {mark.level for mark in found.values()} == {4}
    assert {mark.name for mark in found.values()} == {"strong"}


def test_what_strays_costs_its_own_skill():
    found = marks(WHEEL, DARKER)
    assert found[Skill.VALUE].points < 4.0
    assert found[Skill.CRAFT].points == 4.0


def test_a_cell_left_out_costs_nothing():
    found = marks(WHEEL, DARKER, review=Review(left_out=frozenset({ORANGE.id})))
    assert found[Skill.VALUE].points == 4.0


def test_a_teachers_word_counts_before_what_was_measured():
    found = marks(WHEEL, DARKER, review=Review(overruled={ORANGE.id: Verdict.HOLDS}))
    assert found[Skill.VALUE].points == 4.0


def test_uneven_steps_cost_evenness():
    step = SCALE.cells[3]
    found = marks(SCALE, {step.id: moved(step, lightness=8.0)})
    assert found[Skill.EVENNESS].points < 4.0


def test_bare_spots_cost_craft():
    assert marks(WHEEL, coverage={ORANGE.id: 0.7})[Skill.CRAFT].points < 4.0


def test_greys_that_lean_cost_neutral():
    found = marks(SCALE, {SCALE.cells[2].id: moved(SCALE.cells[2], a=14.0)})
    assert found[Skill.NEUTRAL].points < 4.0


def test_no_mark_is_worked_out_unless_it_is_wanted():
    ten = Rubric(names=USUAL_RUBRIC.names, weights=USUAL_RUBRIC.weights, out_of=10)
    assert mark_of(marks(WHEEL).values(), USUAL_RUBRIC) is None
    assert mark_of(marks(WHEEL, rubric=ten).values(), ten) == 10.0
    assert 5.0 < mark_of(marks(WHEEL, DARKER, rubric=ten).values(), ten) < 10.0


def test_weights_move_the_mark():
    def marked(weight):
        weights = {"colour-wheel": {skill: 1.0 for skill in Skill} | {Skill.VALUE: weight}}
        rubric = Rubric(names=USUAL_RUBRIC.names, weights=weights, out_of=100)
        return mark_of(marks(WHEEL, DARKER, rubric=rubric).values(), rubric)

    assert marked(5.0) < marked(1.0)


def test_every_kind_has_skills_that_count():
    assert all(USUAL_RUBRIC.of_kind(kind) for kind in KINDS)


@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"names": ("a", "b", "c", "d")}, "five levels"),
        ({"weights": {"*": {Skill.HUE: 9.0}}}, "weight"),
        ({"weights": {"*": {Skill.HUE: 0.0}}}, "at least one"),
        ({"out_of": 0}, "mark"),
    ],
)
def test_a_rubric_that_makes_no_sense_is_refused(change, said):
    with pytest.raises(Refused, match=said):
        Rubric(**{"names": USUAL_RUBRIC.names, "weights": USUAL_RUBRIC.weights, **change})
