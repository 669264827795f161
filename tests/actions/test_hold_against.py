"""Judged anew by another key, level, audience or version; what was before, and decided, stays."""

from threading import Thread

import pytest
from sqlalchemy import text

from noema.actions import read_photograph
from noema.actions.choose_audience import choose_audience
from noema.actions.hold_against import Holding, hold_against
from noema.actions.judge_sheets import queue_outdated
from noema.actions.read_again import reread_photograph
from noema.actions.say_to import sentence_of
from noema.core.coaching.audience import Audience
from noema.core.errors import NotFound, Refused
from noema.core.exercises.catalogue import usual_tolerance
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.tolerance import Tolerance
from noema.core.judging.judgement import JUDGE_VERSION
from noema.core.judging.review import Decision, ReviewState, Verb
from noema.jobs.judge_assignment import judge_behind
from noema.stand_ins.painter import Hand
from noema.store.assignments import assignment_of_school
from noema.store.revisions import Progress, assignments_behind, progress_of, revision_of

UNEVEN = Hand(step_noise=0.9, missed=0.0, ragged_mm=0.3)


def judgements(school, photo):
    with school.sessions() as session:
        question = text(
            "SELECT j.judge, k.key, k.level FROM judgement j JOIN reading r ON r.id = j.reading_id "
            "JOIN key_revision k ON k.id = j.revision_id WHERE r.photograph_id = :p ORDER BY j.id"
        )
        return [tuple(row) for row in session.execute(question, {"p": photo})]


def holds(school, key=Key.NAMED, level=Level.BEGINNER, **more):
    with school.sessions.begin() as session:
        wanted = Holding(key=key, level=level, **more)
        hold_against(session, school.id, school.assignment_id, school.teacher_id, wanted)


def held(school):
    with school.sessions() as session:
        return assignment_of_school(session, school.id, school.assignment_id)


def progress(school):
    with school.sessions() as session:
        return progress_of(session, school.assignment_id)


def test_another_level_and_key_judge_all_work_and_keep_what_was_before(school):
    photo = school.reviewable(hand=UNEVEN, seed=3)
    school.decides(photo, Decision(verb=Verb.ACCEPT))
    before = school.attempt(photo)
    holds(school, Key.OWN_ENDS, Level.ADVANCED)
    waiting = school.attempt(photo)
    assert waiting.is_behind
    assert waiting.tally == before.tally
    assert progress(school) == Progress(judged=0, read=1)
    judge_behind(school.sessions, school.assignment_id)
    after = school.attempt(photo)
    assert not after.is_behind
    assert progress(school) == Progress(judged=1, read=1)
    assert [row[1:] for row in judgements(school, photo)] == [
        ("named", "beginner"),
        ("own-ends", "advanced"),
    ]
    assert after.tally["verdict"] != before.tally["verdict"]
    assert after.review.state is ReviewState.ACCEPTED
    row = held(school)
    assert (row.key, row.level) == (Key.OWN_ENDS, Level.ADVANCED)
    assert row.tolerance.value == 0.3


def test_judging_twice_changes_nothing_and_a_key_back_again_is_a_revision_of_its_own(school):
    photo = school.reviewable(hand=UNEVEN, seed=3)
    for key in (Key.OWN_ENDS, Key.NAMED):
        holds(school, key)
        judge_behind(school.sessions, school.assignment_id)
        judge_behind(school.sessions, school.assignment_id)
    assert [row[1] for row in judgements(school, photo)] == ["named", "own-ends", "named"]
    with school.sessions() as session:
        assert revision_of(session, school.assignment_id).number == 3


def test_own_tolerances_survive_another_key_but_not_another_level(school):
    own = Tolerance(hue=None, value=0.25, chroma=None)
    holds(school, own_tolerance=own)
    holds(school, Key.OWN_ENDS)
    assert held(school).tolerance == own
    holds(school, Key.OWN_ENDS, Level.ADVANCED)
    assert held(school).tolerance == usual_tolerance("value-scale", Level.ADVANCED)


def test_a_key_changed_while_a_photograph_is_read_is_the_one_it_is_judged_by(school, monkeypatch):
    keep = read_photograph.keep_reading

    def change_meanwhile(*arguments):
        kept = keep(*arguments)
        holds(school, Key.OWN_ENDS, Level.ADVANCED)
        return kept

    monkeypatch.setattr(read_photograph, "keep_reading", change_meanwhile)
    photo = school.reviewable(hand=UNEVEN, seed=3)
    assert [row[1:] for row in judgements(school, photo)] == [("own-ends", "advanced")]
    assert not school.attempt(photo).is_behind


def test_a_key_changed_while_a_photograph_is_being_judged_waits_and_then_judges_it(school):
    handed_in = school.hands_in(school.photo_of(school.sheets()[0], hand=UNEVEN), read=False)
    photo = handed_in.photo.id
    changing = Thread(target=holds, args=(school, Key.OWN_ENDS, Level.ADVANCED))
    with school.sessions.begin() as session:
        read_photograph.read_photograph(session, school.files, photo)
        changing.start()
        changing.join(timeout=0.5)
        assert changing.is_alive()  # until the judgement is kept
    changing.join(timeout=10.0)
    assert not changing.is_alive()
    assert school.attempt(photo).is_behind
    judge_behind(school.sessions, school.assignment_id)
    assert [row[1:] for row in judgements(school, photo)] == [
        ("named", "beginner"),
        ("own-ends", "advanced"),
    ]


def test_the_same_judgement_by_two_at_once_is_kept_once(school):
    photo = school.reviewable(hand=UNEVEN, seed=3)
    holds(school, Key.OWN_ENDS)
    both = [
        Thread(target=judge_behind, args=(school.sessions, school.assignment_id)) for _ in range(2)
    ]
    for one in both:
        one.start()
    for one in both:
        one.join(timeout=20.0)
    assert [row[1] for row in judgements(school, photo)] == ["named", "own-ends"]


def test_a_key_the_exercise_hasnt_is_refused(school):
    with pytest.raises(Refused, match="no set of paints"):
        holds(school, Key.PAINTS)


def test_another_schools_assignment_isnt_there(school, other_school):
    with school.sessions.begin() as session, pytest.raises(NotFound):
        wanted = Holding(key=Key.NAMED, level=Level.ADVANCED)
        hold_against(session, school.id, other_school.assignment_id, school.teacher_id, wanted)


def test_an_older_judgement_is_followed_by_one_of_todays_judge(school):
    photo = school.reviewable()
    with school.sessions.begin() as session:
        old = text(
            "UPDATE judgement SET judge = 'noema-judge/1' WHERE reading_id IN "
            "(SELECT id FROM reading WHERE photograph_id = :p)"
        )
        session.execute(old, {"p": photo})
    with school.sessions.begin() as session:
        reread_photograph(session, school.files, photo)
    assert [row[0] for row in judgements(school, photo)] == ["noema-judge/1", JUDGE_VERSION]


def test_what_an_earlier_judge_judged_is_judged_again_when_the_worker_starts(school):
    photo = school.reviewable()
    with school.sessions.begin() as session:
        assert school.assignment_id not in assignments_behind(session, JUDGE_VERSION)
        old = text(
            "UPDATE judgement SET judge = 'noema-judge/5' WHERE reading_id IN "
            "(SELECT id FROM reading WHERE photograph_id = :p)"
        )
        session.execute(old, {"p": photo})
    with school.sessions.begin() as session:
        assert school.assignment_id in assignments_behind(session, JUDGE_VERSION)
        assert queue_outdated(session) >= 1
    judge_behind(school.sessions, school.assignment_id)
    assert [row[0] for row in judgements(school, photo)] == ["noema-judge/5", JUDGE_VERSION]
    with school.sessions.begin() as session:
        assert school.assignment_id not in assignments_behind(session, JUDGE_VERSION)


def test_sentences_are_said_anew_for_another_audience(school):
    photo = school.reviewable(hand=UNEVEN, seed=5)
    before = sentence_of(school.attempt(photo))
    with school.sessions.begin() as session:
        choose_audience(session, school.id, school.class_id, Audience.CHILD)
    assert sentence_of(school.attempt(photo)) != before
    assert len(judgements(school, photo)) == 1
