"""A class's tubes are learned from its sheets; its keys follow, and a teacher may refuse."""

import numpy as np
import pytest
from sqlalchemy import text

from noema.actions import learn_tubes as learning
from noema.actions.learn_tubes import follow_tubes, learn_tubes, tubes_known
from noema.actions.work_out_exercise import Chosen, exercise_of
from noema.core.colour.difference import ciede2000
from noema.core.errors import NotFound, Refused
from noema.core.exercises.catalogue import kind_of
from noema.core.judging import class_tubes
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.shelf import builtin_set
from noema.jobs.judge_assignment import judge_behind
from noema.stand_ins.makers import mixed_by_eye, tubes_of_a_maker
from noema.stand_ins.painter import Hand
from noema.store.assignments import assignment_of_school
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
    monkeypatch.setattr(learning, "_FEWEST", 3)
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
    assert exercise(painting).asked == plain
    with painting.sessions() as session:
        assert not tubes_known(session, painting.assignment_id).followed
    assert teacher.post(address, data={"follow": "1"}).status_code == 303
    again = exercise(painting).asked
    for cell, before in zip(again.cells, followed.cells, strict=True):
        assert cell.lab == pytest.approx(before.lab, abs=0.05)


def test_what_isnt_known_cant_be_followed(school, other_school):
    with pytest.raises(Refused, match="Nothing is known of these tubes yet"):
        follow(school, yes=True)
    with pytest.raises(NotFound):
        follow(school, yes=False, school_id=other_school.id)
