"""Students who move, merge or leave for good, and pictures that are kept no longer."""

from datetime import UTC, datetime, timedelta
from threading import Thread

import pytest
from sqlalchemy import text
from sqlalchemy.exc import OperationalError

from noema.actions import read_photograph as reading
from noema.actions.archive_class import archive_class
from noema.actions.erase_student import erase_student
from noema.actions.let_files_leave import let_files_leave
from noema.actions.make_class import make_class
from noema.actions.move_student import merge_students, move_student
from noema.actions.read_photograph import read_photograph
from noema.actions.set_retention import keep_for, remove_old, would_go
from noema.core.errors import NotFound, Refused
from noema.core.judging.review import Decision, Verb
from noema.devices.mail import Letter
from noema.devices.piece_store import LocalPieces
from noema.formats.photo_file import open_photo
from noema.jobs.let_leave import let_leave_all
from noema.jobs.stores import Stores
from noema.stand_ins.outbox import PretendOutbox
from noema.store import erasure
from noema.store.classes import classes_of_school, students_of_class
from noema.store.erasure import leaving_count, traces_of
from noema.store.people import teacher_by_email
from noema.store.photographs import photo_of_school
from noema.store.student_work import attempts_of_student, keep_check, sheets_of_student
from noema.store.students import join_of_class

NOW = datetime(2026, 11, 25, 12, tzinfo=UTC)


@pytest.fixture
def outbox(tmp_path):
    return PretendOutbox(tmp_path)


@pytest.fixture
def stores(school, outbox, tmp_path):
    return Stores(
        sessions=school.sessions,
        files=school.files,
        pieces=LocalPieces(tmp_path / "pieces"),
        outbox=outbox,
    )


def let_leave(school, stores):
    """What the worker does once an erasure is kept."""
    queued = text(
        "SELECT args FROM procrastinate_jobs WHERE task_name = 'let_leave' ORDER BY id DESC LIMIT 1"
    )
    with school.sessions() as session:
        args = session.scalar(queued)
    let_leave_all(stores, **args)


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


def test_nothing_is_left_of_who_withdraws_consent(school, stores, outbox):
    number = school.reviewable()
    school.decides(number, Decision(verb=Verb.SEND_BACK, sentence="Once more."))
    sheet = school.sheets()[0]
    with school.sessions.begin() as session:
        keep_check(session, number, ["c1"])
        sha256 = photo_of_school(session, school.id, number).sha256
    outbox.send(letter(f"Report of {sheet.student}"))
    outbox.send(letter("Report of somebody else"))
    with school.sessions.begin() as session:
        erased = erase_student(
            session, outbox, school.id, sheet.student_id,
            typed_name=f" {sheet.student.upper()} ",
        )  # fmt: skip
    assert erased.traces == {}
    # The photograph and the sheet seen squarely; a letter.
    assert (erased.photographs, erased.files, erased.letters) == (1, 2, 1)
    let_leave(school, stores)
    assert [one.subject for one in outbox.sent_by("t@school.example")] == [
        "Report of somebody else"
    ]
    with pytest.raises(NotFound):
        school.files.get(sha256)
    with school.sessions() as session:
        assert traces_of(session, school.id, [sheet.student, sheet.code]) == {}
        assert traces_of(session, school.id, [school.sheets()[0].student]) != {}  # finds others
    assert len(school.sheets()) == 2


def letter(subject):
    return Letter(
        sender="t@school.example", to="p@home.example", subject=subject, words="", written_at=NOW
    )


def test_a_failure_while_erasing_loses_no_picture(school, stores, outbox, monkeypatch):
    """Files go after what they belong to, never before."""
    number = school.reviewable()
    sheet = school.sheets()[0]
    outbox.send(letter(f"Report of {sheet.student}"))

    def fails(*_):
        raise OperationalError("SELECT", {}, Exception("the connection is gone"))

    monkeypatch.setattr(erasure, "traces_of", fails)
    with pytest.raises(OperationalError), school.sessions.begin() as session:
        erase_student(session, outbox, school.id, sheet.student_id, typed_name=sheet.student)
    let_leave_all(stores)
    with school.sessions() as session:
        assert school.files.has(photo_of_school(session, school.id, number).sha256)
    assert len(outbox.sent_by("t@school.example")) == 1


def test_what_comes_again_while_it_leaves_stays(school, stores, outbox):
    number = school.reviewable()
    sheet = school.sheets()[0]
    with school.sessions.begin() as session:
        sha256 = photo_of_school(session, school.id, number).sha256
        erase_student(session, outbox, school.id, sheet.student_id, typed_name=sheet.student)
    school.files.put(school.files.get(sha256))  # somebody hands it in just now
    let_leave(school, stores)
    assert school.files.has(sha256)
    with school.sessions.begin() as session:
        assert leaving_count(session, school.id) == 1
        later = datetime.now(UTC) + timedelta(hours=2)
        let_files_leave(session, school.files, later)
    assert not school.files.has(sha256)


def test_a_search_for_traces_tells_nothing_of_secrets_and_other_schools(school, other_school):
    with school.sessions() as session:
        code = join_of_class(session, school.class_id).join_code
        secret = teacher_by_email(session, school.email).password_hash
        theirs = other_school.sheets()[0].student
        assert traces_of(session, school.id, [code, secret[10:20], theirs]) == {}
        assert traces_of(session, other_school.id, [theirs]) != {}


def test_who_is_being_read_is_erased_once_the_reading_is_kept(school, outbox, monkeypatch):
    """An erasure waits for what is being written about somebody, and takes it along."""
    number = school.hands_in(school.photo_of(school.sheets()[0]), read=False).photo.id
    sheet = school.sheets()[0]
    erased = []

    def erase():
        with school.sessions.begin() as session:
            erased.append(
                erase_student(
                    session, outbox, school.id, sheet.student_id, typed_name=sheet.student
                )
            )

    other = Thread(target=erase)

    def opens(data):
        other.start()  # the photograph is held by now, its sheet not yet
        other.join(timeout=1.0)
        return open_photo(data)

    monkeypatch.setattr(reading, "open_photo", opens)
    with school.sessions.begin() as session:
        read_photograph(session, school.files, number)
    other.join(timeout=30.0)
    monkeypatch.undo()
    assert erased[0].traces == {}
    with school.sessions.begin() as session:
        assert all(one.student_id != sheet.student_id for one in school.sheets())
        read_photograph(session, school.files, number)  # the job comes again, and finds nothing


def test_a_removed_picture_that_is_sent_again_stays_away(school, stores):
    number = school.reviewable()
    later = datetime.now(UTC) + timedelta(days=100)
    with school.sessions.begin() as session:
        data = school.files.get(photo_of_school(session, school.id, number).sha256)
        keep_for(session, school.id, 2)
        remove_old(session, school.id, later)
    let_leave(school, stores)
    again = school.hands_in(data, read=False)
    assert (again.known, again.photo.id) == (True, number)
    assert not school.files.has(again.photo.sha256)


def test_the_name_must_be_typed_and_nobody_elses_goes(school, other_school, outbox):
    student = school.sheets()[0].student_id
    with school.sessions() as session, pytest.raises(Refused, match="Type the name"):
        erase_student(session, outbox, school.id, student, typed_name="Anna")
    with school.sessions() as session, pytest.raises(NotFound):
        erase_student(session, outbox, other_school.id, student, typed_name="x")


def test_a_picture_two_records_share_stays_until_the_last_goes(school, stores, outbox):
    school.reviewable()
    photo = school.photo_of(school.sheets()[1], seed=9)
    number = school.hands_in(photo).photo.id
    with school.sessions.begin() as session:
        erase_student(
            session, outbox, school.id, school.sheets()[0].student_id,
            typed_name=school.sheets()[0].student,
        )  # fmt: skip
    let_leave(school, stores)
    with school.sessions() as session:
        kept = photo_of_school(session, school.id, number)
    assert school.files.get(kept.sha256) == photo


def test_old_pictures_are_shown_before_they_go_and_numbers_stay(app, school, stores):
    number = school.reviewable()
    later = datetime.now(UTC) + timedelta(days=100)
    with school.sessions() as session:
        assert would_go(session, school.id, 2, datetime.now(UTC)).photographs == 0
        looked = would_go(session, school.id, 2, later)
        assert (looked.photographs, looked.by_class) == (1, {"Year 8": 1})
        with pytest.raises(Refused, match="without end"):
            remove_old(session, school.id, later)
    with school.sessions.begin() as session:
        keep_for(session, school.id, 2)
        sha256 = photo_of_school(session, school.id, number).sha256
        assert remove_old(session, school.id, later) == 1
    assert school.files.has(sha256)
    let_leave(school, stores)
    assert not school.files.has(sha256)
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


def test_pages_go_on_without_an_archived_class(app, school):
    school.reviewable()
    with school.sessions.begin() as session:
        archive_class(session, school.id, school.class_id, NOW)
    client = school.teacher(app)
    for page in ("/", "/plan", "/print", "/photograph", "/review", "/return", "/keeping"):
        assert client.get(page).status_code == 200, page
