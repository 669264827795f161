"""Students who move, merge or leave for good, and pictures that are kept no longer."""

from datetime import UTC, datetime, timedelta

import pytest

from noema.actions.archive_class import archive_class
from noema.actions.erase_student import erase_student
from noema.actions.make_class import make_class
from noema.actions.move_student import merge_students, move_student
from noema.actions.set_retention import keep_for, remove_old, would_go
from noema.core.errors import NotFound, Refused
from noema.core.judging.review import Decision, Verb
from noema.devices.piece_store import LocalPieces
from noema.store.classes import classes_of_school, students_of_class
from noema.store.erasure import traces_of
from noema.store.photographs import photo_of_school
from noema.store.student_work import attempts_of_student, keep_check, sheets_of_student

NOW = datetime(2026, 11, 25, 12, tzinfo=UTC)


@pytest.fixture
def pieces(tmp_path):
    return LocalPieces(tmp_path)


def other_class(school):
    with school.sessions.begin() as session:
        return make_class(session, school.id, "Year 9", NOW.date(), 12)


def names_in(school, class_id):
    with school.sessions() as session:
        return [one.display_name for one in students_of_class(session, class_id)]


def test_a_student_moves_with_what_they_painted(school):
    number = school.reviewable()
    student = school.sheets()[0]
    to_class = other_class(school)
    with school.sessions.begin() as session:
        move_student(session, school.id, student.student_id, school.class_id, to_class)
    assert names_in(school, to_class) == [student.student]
    assert student.student not in names_in(school, school.class_id)
    with school.sessions() as session:
        kept = attempts_of_student(session, student.student_id)
    assert [one.photograph_id for one in kept] == [number]


def test_two_records_become_one_with_all_attempts(school):
    photos = [school.hands_in(school.photo_of(s)).photo.id for s in school.sheets()[:2]]
    one, other = (sheet.student_id for sheet in school.sheets()[:2])
    with school.sessions.begin() as session:
        merge_students(session, school.id, one, other)
    with school.sessions() as session:
        kept = attempts_of_student(session, one)
        sheets = sheets_of_student(session, one, school.assignment_id)
    assert sorted(attempt.photograph_id for attempt in kept) == photos
    assert [sheet.attempt for sheet in sheets] == [1, 2]
    assert len(names_in(school, school.class_id)) == 2
    with school.sessions() as session, pytest.raises(Refused, match="same student"):
        merge_students(session, school.id, one, one)


def test_nothing_is_left_of_who_withdraws_consent(school, pieces):
    number = school.reviewable()
    school.decides(number, Decision(verb=Verb.SEND_BACK, sentence="Once more."))
    sheet = school.sheets()[0]
    with school.sessions.begin() as session:
        keep_check(session, number, ["c1"])
        sha256 = photo_of_school(session, school.id, number).sha256
    with school.sessions.begin() as session:
        erased = erase_student(
            session, school.files, pieces, school.id, sheet.student_id,
            typed_name=f" {sheet.student.upper()} ",
        )  # fmt: skip
    assert erased.proven
    assert (erased.photographs, erased.files) == (
        1,
        2,
    )  # the photograph and the sheet seen squarely
    with pytest.raises(NotFound):
        school.files.get(sha256)
    with school.sessions() as session:
        assert traces_of(session, [sheet.student, sheet.code]) == {}
        assert traces_of(session, [school.sheets()[0].student]) != {}  # the search finds others
    assert len(school.sheets()) == 2


def test_the_name_must_be_typed_and_nobody_elses_goes(school, other_school, pieces):
    student = school.sheets()[0].student_id
    with school.sessions() as session, pytest.raises(Refused, match="Type the name"):
        erase_student(session, school.files, pieces, school.id, student, typed_name="Anna")
    with school.sessions() as session, pytest.raises(NotFound):
        erase_student(session, school.files, pieces, other_school.id, student, typed_name="x")


def test_a_picture_two_records_share_stays_until_the_last_goes(school, pieces):
    school.reviewable()
    photo = school.photo_of(school.sheets()[1], seed=9)
    number = school.hands_in(photo).photo.id
    with school.sessions.begin() as session:
        erase_student(
            session, school.files, pieces, school.id, school.sheets()[0].student_id,
            typed_name=school.sheets()[0].student,
        )  # fmt: skip
    with school.sessions() as session:
        kept = photo_of_school(session, school.id, number)
    assert school.files.get(kept.sha256) == photo


def test_old_pictures_are_shown_before_they_go_and_numbers_stay(app, school):
    number = school.reviewable()
    later = datetime.now(UTC) + timedelta(days=100)
    with school.sessions() as session:
        assert would_go(session, school.id, 2, datetime.now(UTC)).photographs == 0
        looked = would_go(session, school.id, 2, later)
        assert (looked.photographs, looked.by_class) == (1, {"Year 8": 1})
        with pytest.raises(Refused, match="without end"):
            remove_old(session, school.files, school.id, later)
    with school.sessions.begin() as session:
        keep_for(session, school.id, 2)
        assert remove_old(session, school.files, school.id, later) == 1
    client = school.teacher(app)
    assert client.get(f"/photographs/{number}/original").status_code == 404
    assert client.get(f"/review/{number}").status_code == 200
    assert school.attempt(number).tally["ids"]
    with school.sessions() as session:
        assert would_go(session, school.id, 2, later).photographs == 0


def test_an_archived_class_leaves_the_lists_and_comes_back(school):
    def listed(*, archived):
        with school.sessions() as session:
            return [c.id for c in classes_of_school(session, school.id, archived=archived)]

    with school.sessions.begin() as session:
        archive_class(session, school.id, school.class_id, NOW)
    assert (listed(archived=False), listed(archived=True)) == ([], [school.class_id])
    with school.sessions.begin() as session:
        archive_class(session, school.id, school.class_id, None)
    assert (listed(archived=False), listed(archived=True)) == ([school.class_id], [])
