"""Assignments that are put off or withdrawn, and what holds for single students alone."""

from datetime import date

import pytest

from noema.actions.change_assignment import (
    change_assignment,
    help_student,
    set_terms,
    withdraw,
)
from noema.actions.change_class import change_class, name_student
from noema.actions.due_days import due_days_of_student
from noema.actions.hold_against import Holding, hold_against
from noema.actions.make_class import enrol_students
from noema.actions.print_sheets import drawings, print_again, print_sheets
from noema.core.coaching.needs import Needs
from noema.core.errors import Refused
from noema.core.exercises.catalogue import usual_tolerance
from noema.core.exercises.levels import Key, Level
from noema.core.judging.review import Decision, Verb
from noema.core.progress.excuse import Excuse
from noema.core.progress.states import WorkState
from noema.core.sheet.drawing import Words
from noema.formats.judgement_json import judgement_from_json
from noema.formats.layout_json import layout_from_json
from noema.jobs.judge_assignment import judge_behind
from noema.stand_ins.painter import Hand
from noema.store.assignments import assignment_of_school
from noema.store.classes import class_of_school, students_of_class
from noema.store.judgements import judgements_of
from noema.store.revisions import progress_of
from noema.store.sheets import layouts_of_sheets
from noema.store.student_work import given_to_student, work_of_student
from noema.store.terms import Terms
from noema.store.waiting import waiting_for_teacher
from noema.store.work import work_of_class

UNEVEN = Hand(step_noise=0.9, missed=0.0, ragged_mm=0.3)
LATER = date(2026, 10, 21)  # in week 7


def given(school):
    with school.sessions() as session:
        return assignment_of_school(session, school.id, school.assignment_id)


def sets_terms(school, **by_student):
    with school.sessions.begin() as session:
        wanted = {int(name[1:]): terms for name, terms in by_student.items()}
        set_terms(session, school.id, school.assignment_id, wanted)


def helps(school, student_id, **needs):
    with school.sessions.begin() as session:
        help_student(session, school.id, school.class_id, student_id, Needs(**needs))


def due_days(school, student_id):
    with school.sessions() as session:
        rows = given_to_student(session, student_id)
        return due_days_of_student(session, school.id, student_id, rows)


def joins(school, name):
    with school.sessions.begin() as session:
        enrol_students(session, school.id, school.class_id, name)
        students = students_of_class(session, school.class_id)
        return next(one.id for one in students if one.display_name == name)


def prints(school):
    with school.sessions.begin() as session:
        return print_sheets(session, school.id, school.assignment_id)


def test_what_is_put_off_is_due_on_the_new_day_for_everybody(school):
    student_id = school.sheets()[0].student_id
    assert given(school).due_day == date(2026, 10, 16)
    with school.sessions.begin() as session:
        change_assignment(session, school.id, school.assignment_id, title="Greys", due_on=LATER)
    row = given(school)
    assert (row.title, row.due_week, row.due_day) == ("Greys", 7, LATER)
    assert due_days(school, student_id) == {school.assignment_id: LATER}


@pytest.mark.parametrize("day", [date(2026, 9, 6), date(2026, 11, 30)])
def test_a_day_outside_the_unit_is_refused_with_its_days(school, day):
    with school.sessions() as session, pytest.raises(Refused, match="2026-09-07 to 2026-11-29"):
        change_assignment(session, school.id, school.assignment_id, title="Greys", due_on=day)


def test_one_students_day_is_theirs_alone_and_stands_on_their_sheet(school):
    first, second = school.sheets()[:2]
    sets_terms(school, **{f"s{first.student_id}": Terms(due_on=LATER)})
    assert due_days(school, first.student_id) == {school.assignment_id: LATER}
    assert due_days(school, second.student_id) == {}
    with school.sessions() as session:
        drawn = drawings(session, given(school), [first, second])
    said = [{i.text for i in one.items if isinstance(i, Words)} for one in drawn]
    assert "Due by 21 October, week 6" in said[0]
    assert "Due by 16 October, week 6" in said[1]


def test_who_was_away_or_is_excused_owes_nothing_and_gets_no_sheet(school):
    late = joins(school, "Dee Late")
    owing = school.sheets()[0].student_id
    sets_terms(
        school,
        **{f"s{late}": Terms(excuse=Excuse.AWAY), f"s{owing}": Terms(excuse=Excuse.EXCUSED)},
    )
    with school.sessions() as session:
        work = work_of_class(session, school.class_id)
        waiting = waiting_for_teacher(session, school.id)
        own = work_of_student(session, late)
    assert work[(late, school.assignment_id)].state is WorkState.EXCUSED
    assert work[(owing, school.assignment_id)].state is WorkState.EXCUSED
    assert own[school.assignment_id].state is WorkState.EXCUSED
    assert waiting.to_print == given(school).missing == prints(school) == 0
    sets_terms(school, **{f"s{late}": Terms()})
    assert given(school).missing == prints(school) == 1


def test_what_an_excused_student_hands_in_stands_as_anybodys(school):
    sheet = school.sheets()[0]
    sets_terms(school, **{f"s{sheet.student_id}": Terms(excuse=Excuse.EXCUSED)})
    school.reviewable()
    with school.sessions() as session:
        work = work_of_class(session, school.class_id)
    assert work[(sheet.student_id, school.assignment_id)].state is WorkState.TO_REVIEW


def test_withdrawn_it_is_on_nobodys_list_and_what_came_in_stays(school):
    photo = school.reviewable()
    student_id = school.sheets()[0].student_id
    late = joins(school, "Dee Late")
    with school.sessions.begin() as session:
        withdraw(session, school.id, school.assignment_id, gives=False)
    with school.sessions() as session:
        assert given_to_student(session, student_id) == ()
        assert waiting_for_teacher(session, school.id).to_print == 0
    with pytest.raises(Refused, match="withdrawn"):
        prints(school)
    school.decides(photo, Decision(verb=Verb.ACCEPT))
    with school.sessions.begin() as session:
        withdraw(session, school.id, school.assignment_id, gives=True)
    assert prints(school) == 1
    with school.sessions() as session:
        assert len(given_to_student(session, late)) == 1
        assert work_of_student(session, student_id)[school.assignment_id].state is (
            WorkState.ACCEPTED
        )


def test_larger_cells_and_fewer_steps_are_on_the_next_sheet_alone(school):
    one = school.sheets()[0].student_id
    other = school.sheets()[1].student_id
    helps(school, one, larger_cells=True, fewer_steps=True)
    with school.sessions.begin() as session:
        again = print_again(session, school.id, school.assignment_id, [one, other])
        laid = layouts_of_sheets(session, [sheet.id for sheet in (*school.sheets()[:2], *again)])
    before, as_before, larger, usual = (
        layout_from_json(laid[sheet.id]) for sheet in (*school.sheets()[:2], *again)
    )
    assert [len(layout.cells) for layout in (before, as_before, larger, usual)] == [5, 5, 3, 5]
    assert [cell.label for cell in larger.cells] == [c.label for c in usual.cells][::2]

    def height(layout):
        (_, top), (_, bottom) = layout.cells[0].polygon_mm[0], layout.cells[0].polygon_mm[2]
        return bottom - top

    assert height(larger) > 1.5 * height(usual)
    school.hands_in(school.photo_of(again[0]))
    with school.sessions() as session:
        work = work_of_student(session, one)[school.assignment_id]
        judged = judgement_from_json(
            judgements_of(session, [work.photograph_id])[work.photograph_id]
        )
    assert len(judged.cells) == 3


def test_one_student_is_judged_more_gently_and_what_waits_is_judged_again(school):
    with school.sessions.begin() as session:
        strict = Holding(key=Key.NAMED, level=Level.ADVANCED)
        hold_against(session, school.id, school.assignment_id, school.teacher_id, strict)
    photos = []
    for sheet in school.sheets()[:2]:
        handed_in = school.hands_in(school.photo_of(sheet, hand=UNEVEN, seed=3))
        photos.append(handed_in.photo.id)

    def limits():
        with school.sessions() as session:
            bodies = judgements_of(session, photos)
            return [judgement_from_json(bodies[photo]).cells[0].tolerance for photo in photos]

    usual = {level: usual_tolerance("value-scale", level).value for level in Level}
    strict, gentler = usual[Level.ADVANCED], usual[Level.INTERMEDIATE]
    assert limits() == [strict, strict]
    helps(school, school.sheets()[0].student_id, gentler=True)
    with school.sessions() as session:
        assert progress_of(session, school.assignment_id).is_done  # the key is the same
    judge_behind(school.sessions, school.assignment_id)
    assert limits() == [gentler, strict]
    helps(school, school.sheets()[0].student_id)
    judge_behind(school.sessions, school.assignment_id)
    assert limits() == [strict, strict]


def test_somebody_elses_students_get_no_terms_here(school, other_school):
    theirs = other_school.sheets()[0].student_id
    with pytest.raises(Refused, match="no longer"):
        sets_terms(school, **{f"s{theirs}": Terms(due_on=LATER)})


def test_a_unit_that_begins_later_moves_what_is_due_in_a_week_and_no_day(school):
    with school.sessions.begin() as session:
        change_class(session, school.id, school.class_id, "Year 8 b", date(2026, 9, 14), 10)
    assert given(school).due_day == date(2026, 10, 23)
    with school.sessions.begin() as session:
        change_assignment(session, school.id, school.assignment_id, title="Greys", due_on=LATER)
        change_class(session, school.id, school.class_id, "Year 8 b", date(2026, 9, 28), 10)
        row = class_of_school(session, school.id, school.class_id)
    assert (row.name, row.unit.weeks) == ("Year 8 b", 10)
    assert (given(school).due_week, given(school).due_day) == (4, LATER)


def test_a_student_keeps_their_card_and_work_under_another_name(school):
    school.reviewable()
    sheet = school.sheets()[0]
    with school.sessions.begin() as session:
        name_student(session, school.id, school.class_id, sheet.student_id, " Zoë   Abbott ")
    assert school.sheets()[0].student == "Zoë Abbott"
    with school.sessions() as session:
        assert work_of_student(session, sheet.student_id)[school.assignment_id].photograph_id
    taken = school.sheets()[1].student.upper()
    with school.sessions() as session, pytest.raises(Refused, match="tells the two apart"):
        name_student(session, school.id, school.class_id, sheet.student_id, taken)
