"""Judged anew by another key, level, audience or version; what was before, and decided, stays."""

import pytest
from sqlalchemy import text

from noema.actions.hold_against import hold_against
from noema.actions.read_again import reread_photograph
from noema.actions.speak_to_class import speak_to_class
from noema.core.coaching.audience import Audience
from noema.core.errors import NotFound, Refused
from noema.core.exercises.levels import Key, Level
from noema.core.judging.judgement import JUDGE_VERSION
from noema.core.judging.review import Decision, ReviewState, Verb
from noema.stand_ins.painter import Hand
from noema.store.assignments import assignment_of_school

UNEVEN = Hand(step_noise=0.9, missed=0.0, ragged_mm=0.3)


def judgements(school, photo):
    with school.sessions() as session:
        question = text(
            "SELECT j.judge, j.key, j.level FROM judgement j JOIN reading r ON r.id = j.reading_id "
            "WHERE r.photograph_id = :p ORDER BY j.id"
        )
        return [tuple(row) for row in session.execute(question, {"p": photo})]


def test_another_level_and_key_judge_all_work_and_keep_what_was_before(school):
    photo = school.reviewable(hand=UNEVEN, seed=3)
    school.decides(photo, Decision(verb=Verb.ACCEPT))
    before = school.attempt(photo)
    with school.sessions.begin() as session:
        judged = hold_against(
            session, school.id, school.assignment_id, Key.OWN_ENDS, Level.ADVANCED
        )
        assert judged == 1
    after = school.attempt(photo)
    assert [row[1:] for row in judgements(school, photo)] == [
        ("named", "beginner"),
        ("own-ends", "advanced"),
    ]
    assert after.tally["verdict"] != before.tally["verdict"]
    assert after.review.state is ReviewState.ACCEPTED
    with school.sessions() as session:
        row = assignment_of_school(session, school.id, school.assignment_id)
    assert (row.key, row.level) == (Key.OWN_ENDS, Level.ADVANCED)
    assert row.tolerance["value"] == 0.3


def test_a_key_the_exercise_hasnt_is_refused(school):
    with school.sessions.begin() as session, pytest.raises(Refused, match="no set of paints"):
        hold_against(session, school.id, school.assignment_id, Key.PAINTS, Level.BEGINNER)


def test_another_schools_assignment_isnt_there(school, other_school):
    with school.sessions.begin() as session, pytest.raises(NotFound):
        hold_against(session, school.id, other_school.assignment_id, Key.NAMED, Level.ADVANCED)


def test_an_older_judgement_is_followed_by_one_of_todays_judge(school):
    photo = school.reviewable()
    with school.sessions.begin() as session:
        session.execute(text("UPDATE judgement SET judge = 'noema-judge/1'"))
    with school.sessions.begin() as session:
        reread_photograph(session, school.files, photo)
    assert [row[0] for row in judgements(school, photo)] == ["noema-judge/1", JUDGE_VERSION]


def test_sentences_are_said_anew_for_another_audience(school):
    photo = school.reviewable(hand=UNEVEN, seed=5)
    before = school.attempt(photo).sentence
    with school.sessions.begin() as session:
        speak_to_class(session, school.id, school.class_id, Audience.CHILD)
    assert school.attempt(photo).sentence != before
    assert len(judgements(school, photo)) == 1
