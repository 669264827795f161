"""Named questions answer what they say."""

from noema.actions.print_sheets import print_again
from noema.actions.review_sheet import review_sheet
from noema.core.judging.review import Decision, ReviewState, Verb
from noema.core.progress.states import WorkState
from noema.stand_ins.mishap import Mishap
from noema.store.reviews import attempts_of_class, decided, waiting_for_review
from noema.store.waiting import sent_back_without_sheet, waiting_for_teacher
from noema.store.work import work_of_class
from noema.web.frame.page import counted


def decide(school, photo, decision):
    with school.sessions.begin() as session:
        review_sheet(
            session,
            school_id=school.id,
            teacher_id=school.teacher_id,
            photograph_id=photo,
            decision=decision,
        )


def test_every_state_of_work_is_told_apart(school):
    one, two, three = school.sheets()
    first = school.hands_in(school.photo_of(one)).photo
    school.hands_in(school.photo_of(two), read=False)
    with school.sessions() as session:
        states = {
            key[0]: work.state for key, work in work_of_class(session, school.class_id).items()
        }
        # A photograph nobody has matched yet belongs to no student.
        assert states == {
            one.student_id: WorkState.TO_REVIEW,
            two.student_id: WorkState.WAITING,
            three.student_id: WorkState.WAITING,
        }
    decide(school, first.id, Decision(verb=Verb.ACCEPT))
    with school.sessions() as session:
        work = work_of_class(session, school.class_id)[(one.student_id, school.assignment_id)]
    assert (work.state, work.photograph_id) == (WorkState.ACCEPTED, first.id)


def test_only_the_latest_attempt_waits(school):
    sheet = school.sheets()[0]
    school.hands_in(school.photo_of(sheet, seed=1), hours_ago=30)
    newer = school.hands_in(school.photo_of(sheet, seed=2)).photo
    with school.sessions() as session:
        waiting = waiting_for_review(session, school.id)
        latest = attempts_of_class(session, school.class_id)
    assert [attempt.photograph_id for attempt in waiting] == [newer.id]
    assert [attempt.photograph_id for attempt in latest] == [newer.id]
    assert waiting[0].tally["skills"]
    assert latest[0].tally == {k: v for k, v in waiting[0].tally.items() if k != "skills"}


def test_what_waits_is_counted_by_stage(school):
    sheets = school.sheets()
    photo = school.hands_in(school.photo_of(sheets[0])).photo
    school.hands_in(school.photo_of(sheets[1], mishap=Mishap(hide_code=True)))
    school.hands_in(school.photo_of(sheets[2]), read=False)
    with school.sessions() as session:
        waiting = waiting_for_teacher(session, school.id)
    assert (waiting.to_print, waiting.reading, waiting.in_tray) == (0, 1, 1)
    assert (waiting.to_review, waiting.to_return) == (1, 0)
    decide(school, photo.id, Decision(verb=Verb.SEND_BACK, sentence="Once more."))
    with school.sessions() as session:
        waiting = waiting_for_teacher(session, school.id)
    assert (waiting.to_review, waiting.to_return) == (0, 1)


def test_sent_back_work_waits_for_a_sheet_until_there_is_one(school):
    photo = school.reviewable()
    student = school.sheets()[0].student_id
    decide(school, photo, Decision(verb=Verb.SEND_BACK, sentence="Once more."))
    with school.sessions.begin() as session:
        assert sent_back_without_sheet(session, school.id, [school.assignment_id]) == (photo,)
        again = print_again(session, school.id, school.assignment_id, [student])
    assert [(sheet.attempt, sheet.student_id) for sheet in again] == [(2, student)]
    with school.sessions() as session:
        assert sent_back_without_sheet(session, school.id, [school.assignment_id]) == ()
        assert len(decided(session, school.id, ReviewState.SENT_BACK, [school.assignment_id])) == 1
    redo = school.hands_in(school.photo_of(again[0], seed=7)).photo
    with school.sessions() as session:
        assert decided(session, school.id, ReviewState.SENT_BACK, [school.assignment_id]) == ()
        assert waiting_for_review(session, school.id)[0].photograph_id == redo.id


def test_schools_are_apart(school, other_school):
    school.reviewable()
    with school.sessions() as session:
        assert waiting_for_review(session, other_school.id) == ()
        assert waiting_for_teacher(session, other_school.id).to_review == 0


def test_beyond_a_hundred_nothing_is_counted(school, monkeypatch):
    school.reviewable()
    school.hands_in(school.photo_of(school.sheets()[1], seed=4))
    with school.sessions() as session:
        assert waiting_for_teacher(session, school.id).to_review == 2
        monkeypatch.setattr("noema.store.waiting.MOST_COUNTED", 0)
        assert waiting_for_teacher(session, school.id).to_review == 1
    assert (counted(99), counted(100)) == ("99", "99+")
