"""A class's tubes are learned from its sheets; its keys follow, and a teacher may refuse."""

from dataclasses import replace

import numpy as np
import pytest
from sqlalchemy import text

from noema.actions import learn_tubes as learning
from noema.actions.hold_against import Holding, hold_against
from noema.actions.hold_by_class import answer_for_class
from noema.actions.learn_tubes import follow_tubes, learn_tubes, tubes_known
from noema.actions.work_out_exercise import Chosen, exercise_of
from noema.core.colour.difference import ciede2000
from noema.core.errors import NotFound, Refused
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.class_question import ClassAnswer
from noema.core.exercises.levels import Key, Level
from noema.core.judging import class_shares, class_tubes
from noema.core.judging.judgement import Why
from noema.core.judging.verdict import Verdict
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.shelf import builtin_set
from noema.formats.judgement_json import judgement_from_json
from noema.jobs.judge_assignment import judge_behind
from noema.jobs.learn_tubes import follow_tubes_of
from noema.stand_ins.makers import mixed_by_eye, tubes_of_a_maker
from noema.stand_ins.painter import Hand
from noema.store.assignments import assignment_of_school
from noema.store.class_tubes import keep_tubes, tubes_of_set
from noema.store.judgements import judgements_of
from noema.store.reviews import attempts_of_class
from noema.store.revisions import progress_of, revision_of
from tests.trade import found_school

SET = "three-traditional+black"
PAINTS = builtin_set(SET)
MAKER = tubes_of_a_maker(PAINTS.tubes, np.random.default_rng(3))
LADDER = Chosen(
    kind="tint-ladder",
    options=kind_of("tint-ladder").chosen({"steps": 4}),
    paints=PAINTS,
    set_ref=SET,
)


@pytest.fixture
def painting(sessions, files, monkeypatch):
    """A class whose three students have painted tints with tubes of their own maker."""
    monkeypatch.setattr(learning, "FEWEST", 3)
    monkeypatch.setattr(class_tubes, "FEWEST_SHEETS", 3)
    school = found_school(sessions, files, chosen=LADDER)
    asked = exercise(school).asked
    for n, sheet in enumerate(school.sheets()[:3], start=1):
        rng = np.random.default_rng(n)
        laid = {
            c.id: mixed_by_eye(c.parts, c.lab, MAKER, PAINTS.binder.dry, rng, 0.1)
            for c in asked.cells
        }
        meant = {cell: lab for cell, (lab, _) in laid.items()}
        recipes = {cell: parts for cell, (_, parts) in laid.items()}
        hand = Hand(missed=0.0, streaks=0.02, meant=meant, recipes=recipes)
        assert school.hands_in(school.photo_of(sheet, seed=n, hand=hand)).photo is not None
    return school


def exercise(school):
    with school.sessions() as session:
        return exercise_of(session, assignment_of_school(session, school.id, school.assignment_id))


def learn(school):
    with school.sessions.begin() as session:
        learn_tubes(session, school.class_id, SET)


def follow_later(school):
    """What the worker does once a teacher has chosen."""
    queued = text(
        "SELECT args FROM procrastinate_jobs WHERE task_name = 'follow_tubes' "
        "AND (args->>'class_id')::int = :id ORDER BY id DESC LIMIT 1"
    )
    with school.sessions() as session:
        args = session.scalar(queued, {"id": school.class_id})
    follow_tubes_of(school.sessions, **args)


def follow(school, *, yes, school_id=None):
    with school.sessions.begin() as session:
        follow_tubes(
            session, school_id or school.id, school.assignment_id, school.teacher_id, follow=yes
        )


def number(school):
    with school.sessions() as session:
        return revision_of(session, school.assignment_id).number


def masstone(tube):
    return lab_of_parts([Part(tube=tube, amount=1.0)], PAINTS.binder.dry)


def test_a_pile_teaches_what_the_tubes_are_and_the_key_follows(painting, app):
    asked = text(
        "SELECT count(*) FROM procrastinate_jobs WHERE task_name = 'learn_tubes' "
        "AND (args->>'class_id')::int = :id"
    )
    with painting.sessions() as session:
        assert session.scalar(asked, {"id": painting.class_id}) == 3
    before = exercise(painting)
    learn(painting)
    after = exercise(painting)
    assert number(painting) == 2
    for cell, plain in zip(after.asked.cells, before.asked.cells, strict=True):
        assert ciede2000(lab_of_parts(cell.parts, PAINTS.binder.dry), cell.lab) < 0.5
        assert cell.id == plain.id
    ends = [cell for cell in after.asked.cells if len(cell.parts) == 1]
    off = [
        [float(ciede2000(masstone(MAKER[cell.parts[0].tube.name]), lab)) for cell, lab in pairs]
        for pairs in (
            [(c, c.lab) for c in ends],
            [(c, masstone(PAINTS.tube(c.parts[0].tube.name))) for c in ends],
        )
    ]
    assert max(off[0]) < max(off[1])
    judge_behind(painting.sessions, painting.assignment_id)
    with painting.sessions() as session:
        assert progress_of(session, painting.assignment_id).is_done
    page = painting.teacher(app).get(f"/assignments/{painting.assignment_id}/key").text
    assert "Your tubes" in page
    assert "Hold against the paints as described" in page


def test_nothing_new_teaches_nothing(painting):
    learn(painting)
    learn(painting)
    assert number(painting) == 2


def test_a_teacher_may_refuse_and_think_again(painting, app):
    plain = exercise(painting).asked
    learn(painting)
    followed = exercise(painting).asked
    teacher = painting.teacher(app)
    address = f"/assignments/{painting.assignment_id}/tubes"
    assert teacher.post(address, data={}).status_code == 303
    assert exercise(painting).asked == followed
    follow_later(painting)
    assert exercise(painting).asked == plain
    with painting.sessions() as session:
        assert not tubes_known(session, painting.assignment_id).followed
    assert teacher.post(address, data={"follow": "1"}).status_code == 303
    follow_later(painting)
    again = exercise(painting).asked
    for cell, before in zip(again.cells, followed.cells, strict=True):
        assert cell.lab == pytest.approx(before.lab, abs=0.05)


def test_what_isnt_known_cant_be_followed(school, other_school):
    with pytest.raises(Refused, match="hand in 6 sheets"):
        follow(school, yes=True)
    with pytest.raises(NotFound):
        follow(school, yes=False, school_id=other_school.id)


@pytest.fixture
def alike(sessions, files, monkeypatch):
    """A class whose three students have mixed one tint far too dark, with tubes as described."""
    monkeypatch.setattr(learning, "FEWEST", 3)
    monkeypatch.setattr(class_shares, "FEWEST", 3)
    school = found_school(sessions, files, chosen=LADDER)
    asked = exercise(school).asked
    dark = next(cell for cell in asked.cells if cell.id == DARK)
    meant = {cell.id: cell.lab for cell in asked.cells}
    meant[DARK] = (dark.lab[0] - 14.0, *dark.lab[1:])
    recipes = {cell.id: cell.parts for cell in asked.cells}
    for n, sheet in enumerate(school.sheets()[:3], start=1):
        hand = Hand(missed=0.0, streaks=0.02, meant=meant, recipes=recipes)
        assert school.hands_in(school.photo_of(sheet, seed=n, hand=hand)).photo is not None
    learn(school)
    return school


DARK = "r1c2"


def answer(school, said, school_id=None):
    with school.sessions.begin() as session:
        answer_for_class(
            session, school_id or school.id, school.assignment_id, school.teacher_id, said
        )


def judged(school):
    """The verdict and the reason of the dark tint on every sheet, judged by what holds now."""
    judge_behind(school.sessions, school.assignment_id)
    with school.sessions() as session:
        assert progress_of(session, school.assignment_id).is_done
        ids = [a.photograph_id for a in attempts_of_class(session, school.class_id)]
        bodies = judgements_of(session, ids)
    cells = [judgement_from_json(bodies[one]).cells for one in ids]
    return [(c.verdict, c.reason.why) for own in cells for c in own if c.id == DARK]


def test_what_all_have_alike_is_asked_and_counts_for_nobody(alike, app):
    assert exercise(alike).question.cells.keys() == {DARK}
    assert judged(alike) == [(Verdict.LOOK, Why.IN_QUESTION)] * 3
    teacher = alike.teacher(app)
    assert "the paint, or what was taught?" in teacher.get("/").text
    address = f"/exercises/{alike.assignment_id}"
    page = teacher.get(f"{address}/patterns").text
    assert "on 3 of 3 sheets it is" in page
    assert teacher.post(f"{address}/question", data={}).status_code == 422
    assert teacher.post(f"{address}/question", data={"answer": "paint"}).status_code == 303
    assert "the key expects what your class painted" in teacher.get(f"{address}/patterns").text
    assert "the paint, or what was taught?" not in teacher.get("/").text
    assert {verdict for verdict, _ in judged(alike)} == {Verdict.HOLDS}
    asked, expected = exercise(alike).asked, exercise(alike).expected
    assert [c.id for c, e in zip(asked.cells, expected.cells, strict=True) if c != e] == [DARK]


def test_taught_so_it_counts_and_is_not_asked_again(alike):
    answer(alike, ClassAnswer.TAUGHT)
    assert not {verdict for verdict, _ in judged(alike)} & {Verdict.HOLDS, Verdict.LOOK}
    numbered = number(alike)
    answer(alike, ClassAnswer.TAUGHT)
    assert number(alike) == numbered
    with alike.sessions.begin() as session:
        kept = tubes_of_set(session, alike.class_id, SET)
        keep_tubes(session, alike.class_id, SET, replace(kept, counted=0))
    learn(alike)
    assert exercise(alike).question.answer is ClassAnswer.TAUGHT


def test_of_a_teachers_sheet_and_of_other_paints_nothing_is_asked(alike):
    wanted = Holding(key=Key.TEACHER, level=Level.BEGINNER)
    hold(alike, wanted)
    assert exercise(alike).question is None
    hold(alike, replace(wanted, key=Key.PAINTS))
    assert exercise(alike).question.cells.keys() == {DARK}
    hold(alike, replace(wanted, key=Key.PAINTS, paints=PAINTS, set_ref=SET))
    assert exercise(alike).question is None


def hold(school, wanted):
    with school.sessions.begin() as session:
        hold_against(session, school.id, school.assignment_id, school.teacher_id, wanted)


def test_what_isnt_in_question_cant_be_answered(school, other_school):
    with pytest.raises(Refused, match="Nothing of this exercise is in question"):
        answer(school, ClassAnswer.PAINT)
    with pytest.raises(NotFound):
        answer(school, ClassAnswer.PAINT, school_id=other_school.id)
