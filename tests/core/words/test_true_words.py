"""Sentences held to their meaning: each was once said where it wasn't so."""

from dataclasses import replace

import numpy as np
import pytest

from noema.core.coaching.advice import advise
from noema.core.coaching.moves import Act, next_moves
from noema.core.colour.hvc import hvc_to_lab
from noema.core.colour.names import USUAL_HUES, hue_step
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.exercises.skills import Skill
from noema.core.judging.judge import judge
from noema.core.judging.judgement import FindingKind, Off, Reason, Why
from noema.core.judging.review import Review
from noema.core.judging.rubric import USUAL_RUBRIC
from noema.core.judging.skills import skill_marks
from noema.core.judging.verdict import Verdict
from noema.core.photo.reading import CellFlag
from noema.core.pigments.says import say_adding
from noema.core.words.advice import advice_words
from noema.core.words.findings import finding_words
from noema.core.words.reasons import reason_words
from tests.core.exercises.grounds import asked, choose
from tests.core.judging.readings import SPLIT, mixed, read_labs

WHEEL = asked("colour-wheel", choose(hues=12), "split-six+black")
CHART = asked("intensity-chart", choose(), "split-six+black")
SCALE = asked("value-scale", choose(steps=9), "split-six+black")
BARE = (CellFlag.UNPAINTED,)
PAPER = (94.0, 0.0, 0.0)


def judged(exercise, changed=None, **how):
    reading = read_labs(exercise, changed, **how)
    return judge(reading, exercise, Key.PAINTS, Level.BEGINNER, paints=SPLIT)


def cell_called(exercise, label):
    return next(cell for cell in exercise.cells if cell.label == label)


def said_of(judgement, cell_id):
    return reason_words(next(c for c in judgement.cells if c.id == cell_id).reason)


def sentence(judgement, exercise):
    moves = {move.cell: move for move in next_moves(judgement, exercise, SPLIT)}
    return advice_words(advise(judgement, moves), Medium.ACRYLIC)


@pytest.mark.parametrize("share", [0.0, 0.1, 0.3])
@pytest.mark.parametrize("label", ["red", "green", "blue"])
def test_a_colour_duller_than_asked_is_never_called_too_intense(label, share):
    cell = cell_called(WHEEL, label)
    grey = (cell.lab[0], share * cell.lab[1], share * cell.lab[2])
    said = said_of(judged(WHEEL, {cell.id: grey}), cell.id)
    assert "intense" not in said
    assert "dull" in said.lower()


def test_another_hue_is_said_to_be_another_and_not_to_lean():
    red, blue = cell_called(WHEEL, "red"), cell_called(WHEEL, "blue")
    said = said_of(judged(WHEEL, {red.id: blue.lab}), red.id)
    assert "nother hue: blue" in said
    assert "leans" not in said


@pytest.mark.parametrize("label", ["orange", "green", "violet", "yellow-green", "red-orange"])
@pytest.mark.parametrize("turn", [-9.0, -6.0, 6.0, 9.0])
def test_a_lean_names_a_hue_on_the_side_to_which_the_colour_went_and_never_its_own(label, turn):
    cell = cell_called(WHEEL, label)
    hue = (cell.hvc.hue100 + turn) % 100.0
    lab = tuple(hvc_to_lab(np.array((hue, cell.hvc.value, cell.hvc.chroma))).tolist())
    said = said_of(judged(WHEEL, {cell.id: lab}), cell.id).lower()
    named = next(one for one in USUAL_HUES.hues(6) if f"eans to {one.name}" in said)
    assert named.name != USUAL_HUES.nearest(cell.hvc.hue100, 6).name
    assert np.sign(hue_step(cell.hvc.hue100, named.hue100)) == np.sign(turn)


def test_a_doubtful_lean_is_said_in_good_english():
    lean = Off(quantity="hue", towards="blue", tolerances=1.2)
    said = reason_words(Reason(why=Why.SEEMS, off=(lean,)))
    assert said == "Seems to lean to blue, but the reading isn't sure."
    another = reason_words(Reason(why=Why.SEEMS, off=(replace(lean, another=True),)))
    assert another == "Seems another hue, blue, but the reading isn't sure."


def test_a_blue_pile_in_reds_place_is_begun_again():
    red, blue = cell_called(WHEEL, "red-orange"), cell_called(WHEEL, "blue")
    judgement = judged(WHEEL, {red.id: blue.lab})
    moves = {move.cell: move for move in next_moves(judgement, WHEEL, SPLIT)}
    assert moves[red.id].act in (Act.AGAIN, Act.AS_IT_COMES)


def test_another_tube_in_a_tubes_place_is_no_little_dirt():
    cell = cell_called(WHEEL, "red")
    assert [part.tube.name for part in cell.parts] == ["scarlet"]
    judgement = judged(WHEEL, {cell.id: mixed(lemon_yellow=1.0)})
    about = [finding for finding in judgement.findings if cell.id in finding.cells]
    assert about
    words = " ".join(finding_words(finding, judgement) for finding in about)
    assert "a little" not in words
    assert FindingKind.CONTAMINATED not in {finding.kind for finding in about}


def test_a_little_of_another_tube_is_still_dirt():
    cell = next(one for one in WHEEL.cells if len(one.parts) == 1)
    own = cell.parts[0].tube.name.replace("-", "_")
    judgement = judged(WHEEL, {cell.id: mixed(**{own: 30.0, "ultramarine": 1.0})})
    kinds = {finding.kind for finding in judgement.findings if cell.id in finding.cells}
    assert FindingKind.CONTAMINATED in kinds


def test_a_start_is_praised_only_where_most_of_it_holds():
    last = WHEEL.cells[-1]
    good = judged(WHEEL, {last.id: PAPER}, flags={last.id: BARE})
    assert sentence(good, WHEEL).startswith("A good start")
    muddy = {cell.id: (40.0, 5.0, 5.0) for cell in WHEEL.cells[:-1]} | {last.id: PAPER}
    off = judged(WHEEL, muddy, flags={last.id: BARE})
    assert off.count(Verdict.HOLDS) < 4
    said = sentence(off, WHEEL)
    assert "good" not in said
    assert last.label in said.lower()


def test_no_skill_is_summed_up_from_one_cell_of_many():
    seen = WHEEL.cells[0].id
    flags = {cell.id: BARE for cell in WHEEL.cells if cell.id != seen}
    labs = {name: PAPER for name in flags}
    judgement = judged(WHEEL, labs, flags=flags)
    marks = {mark.skill: mark for mark in skill_marks(judgement, Review(), USUAL_RUBRIC)}
    for skill in (Skill.HUE, Skill.CRAFT):
        assert marks[skill].points is None
        assert marks[skill].name == "can't be said"


@pytest.mark.parametrize("share", [0.5, 0.7, 0.85, 0.95, 1.4])
def test_nobody_is_told_one_part_to_one(share):
    assert "1 part to 1" not in say_adding("crimson", share, 1.0)


@pytest.mark.parametrize("label", ["3", "5"])
def test_the_farther_off_the_more_is_said(label):
    cell = next(one for one in SCALE.cells if one.label == label)
    moves = []
    for steps in (1.0, 2.5):
        off = 9.5 * steps
        lab = (cell.lab[0] + off, 0.0, 0.0)
        judgement = judged(SCALE, {cell.id: lab})
        (move,) = (m for m in next_moves(judgement, SCALE, SPLIT) if m.cell == cell.id)
        moves.append(move)
    near, far = moves
    assert (near.act, near.tubes) != (far.act, far.tubes)


def test_of_two_neutrals_that_lean_apart_one_is_spoken_of_with_its_own_lean():
    red, *_, orange = (cell for cell in CHART.cells if cell.role.stands_apart)
    changed = {
        red.id: (red.lab[0], red.lab[1] + 20.0, red.lab[2] + 6.0),
        orange.id: (orange.lab[0], orange.lab[1], orange.lab[2] - 16.0),
    }
    judgement = judged(CHART, changed)
    finding = next(one for one in judgement.findings if one.kind is FindingKind.NOT_NEUTRAL)
    assert len(finding.cells) == 2
    assert len(set(finding.each)) == 2
    said = sentence(judgement, CHART)
    assert f"leans to {finding.each[0]}" in said
    (other,) = (cell.label for cell in judgement.cells if cell.id == finding.cells[1])
    assert other not in said.lower()
