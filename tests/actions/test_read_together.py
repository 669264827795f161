"""Photographs of one sheet in a lesson are one attempt; paint gone over since is another."""

import pytest
from sqlalchemy import text

from noema.actions.match_photograph import give_to_another
from noema.actions.read_again import reread_photograph
from noema.actions.read_photograph import read_photograph
from noema.core.judging.review import Decision, Verb
from noema.core.progress.states import PhotoState, WorkState
from noema.stand_ins.painter import Hand
from noema.store.judgements import reading_behind
from noema.store.photographs import photo_of_school
from noema.store.reviews import waiting_for_review
from noema.store.student_work import attempts_of_student, work_of_student


@pytest.fixture
def sheet(school):
    return school.sheets()[0]


@pytest.fixture
def twice(school, sheet):
    """One sheet, photographed twice."""
    first = school.hands_in(school.photo_of(sheet), "first.jpg")
    return first.photo.id, school.hands_in(school.photo_of(sheet, again=1), "second.jpg").photo.id


def state_of(school, photograph_id: int) -> PhotoState:
    with school.sessions() as session:
        return photo_of_school(session, school.id, photograph_id).state


def attempts(school, sheet) -> list[int]:
    with school.sessions() as session:
        return [one.photograph_id for one in attempts_of_student(session, sheet.student_id)]


def sigma_of(body) -> float:
    return sum(cell["sigma"] for cell in body["cells"])


def test_two_photographs_of_a_sheet_are_one_attempt_and_surer_than_one(school, sheet, twice):
    first, second = twice
    assert attempts(school, sheet) == [first]
    assert (state_of(school, first), state_of(school, second)) == (
        PhotoState.READ,
        PhotoState.TOGETHER,
    )
    with school.sessions() as session:
        body = reading_behind(session, first)
        alone = session.scalar(
            text(
                "SELECT body FROM reading WHERE basis = '' AND photograph_id = :p "
                "ORDER BY id LIMIT 1"
            ),
            {"p": first},
        )
        work = work_of_student(session, sheet.student_id)
        waiting = [one.photograph_id for one in waiting_for_review(session, school.id)]
    assert body["photos"] == ["first.jpg", "second.jpg"]
    assert body["outlines"]
    assert sigma_of(body) < sigma_of(alone)
    assert work[school.assignment_id].state is WorkState.TO_REVIEW
    assert work[school.assignment_id].photograph_id == first
    assert waiting == [first]


def test_a_third_joins_them(school, sheet, twice):
    third = school.hands_in(school.photo_of(sheet, again=2), "third.jpg").photo.id
    assert state_of(school, third) is PhotoState.TOGETHER
    with school.sessions() as session:
        body = reading_behind(session, twice[0])
    assert body["photos"] == ["first.jpg", "second.jpg", "third.jpg"]


def test_paint_gone_over_in_between_is_another_attempt(school, sheet):
    first = school.hands_in(school.photo_of(sheet)).photo.id
    darker = Hand(step_noise=0.05, bunching=0.9)
    second = school.hands_in(school.photo_of(sheet, hand=darker)).photo.id
    assert attempts(school, sheet) == [first, second]


def test_the_next_lesson_is_another_attempt(school, sheet):
    first = school.hands_in(school.photo_of(sheet), hours_ago=3.0).photo.id
    second = school.hands_in(school.photo_of(sheet, again=1)).photo.id
    assert attempts(school, sheet) == [first, second]


def test_what_was_decided_is_not_joined(school, sheet):
    first = school.hands_in(school.photo_of(sheet)).photo.id
    school.decides(first, Decision(verb=Verb.ACCEPT))
    second = school.hands_in(school.photo_of(sheet, again=1)).photo.id
    assert attempts(school, sheet) == [first, second]


def test_reading_again_keeps_them_together(school, sheet, twice):
    for photograph_id in twice:
        with school.sessions.begin() as session:
            reread_photograph(session, school.files, photograph_id)
    assert attempts(school, sheet) == [twice[0]]
    with school.sessions() as session:
        assert len(reading_behind(session, twice[0])["photos"]) == 2


def test_given_to_another_student_they_go_together(school, sheet, twice):
    other = school.sheets()[1]
    with school.sessions.begin() as session:
        give_to_another(
            session,
            school_id=school.id,
            teacher_id=school.teacher_id,
            photograph_id=twice[0],
            sheet_id=other.id,
        )
    for photograph_id in twice:
        with school.sessions.begin() as session:
            read_photograph(session, school.files, photograph_id)
    assert attempts(school, sheet) == []
    assert attempts(school, other) == [twice[0]]
    assert state_of(school, twice[1]) is PhotoState.TOGETHER


def another(school, sheet, first, **how) -> int:
    """A picture handed in a day after, said to be of the same sheet."""
    return school.hands_in(
        school.photo_of(sheet, again=1, **how), hours_ago=-24.0, another_of=first
    ).photo.id


def test_another_picture_of_a_sheet_may_come_days_later(school, sheet):
    first = school.hands_in(school.photo_of(sheet)).photo.id
    second = another(school, sheet, first)
    assert attempts(school, sheet) == [first]
    assert state_of(school, second) is PhotoState.TOGETHER


def test_one_that_shows_other_paint_is_an_attempt_all_the_same(school, sheet):
    first = school.hands_in(school.photo_of(sheet)).photo.id
    darker = Hand(step_noise=0.05, bunching=0.9)
    second = another(school, sheet, first, hand=darker)
    assert attempts(school, sheet) == [first, second]


def test_one_of_a_sheet_that_was_decided_is_an_attempt_of_its_own(school, sheet):
    first = school.hands_in(school.photo_of(sheet)).photo.id
    school.decides(first, Decision(verb=Verb.ACCEPT))
    second = another(school, sheet, first)
    assert attempts(school, sheet) == [first, second]


def test_one_of_somebody_elses_sheet_stays_theirs(school, sheet):
    first = school.hands_in(school.photo_of(sheet)).photo.id
    other = school.sheets()[1]
    second = another(school, other, first)
    assert attempts(school, sheet) == [first]
    assert attempts(school, other) == [second]
