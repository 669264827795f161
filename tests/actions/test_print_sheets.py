"""Sheets are made once for each student, and again only for a redo."""

from concurrent.futures import ThreadPoolExecutor

import pytest

from noema.actions.make_class import enrol_students
from noema.actions.print_sheets import drawings, newest_sheets, print_again, print_sheets
from noema.core.errors import NotFound, Refused
from noema.core.sheet.drawing import Words
from noema.store.assignments import assignment_of_school


def test_printing_again_makes_nothing_new_until_somebody_joins(school):
    with school.sessions.begin() as session:
        assert print_sheets(session, school.id, school.assignment_id) == 0
        enrol_students(session, school.id, school.class_id, "Dee Late")
        assert print_sheets(session, school.id, school.assignment_id) == 1
    assert [sheet.number for sheet in school.sheets()] == [1, 2, 3, 4]
    assert len({sheet.code for sheet in school.sheets()}) == 4


def test_two_teachers_printing_at_once_make_each_sheet_once(school):
    with school.sessions.begin() as session:
        enrol_students(session, school.id, school.class_id, "Dee\nEd\nFay")

    def print_now(_):
        with school.sessions.begin() as session:
            return print_sheets(session, school.id, school.assignment_id)

    with ThreadPoolExecutor(4) as pool:
        made = list(pool.map(print_now, range(4)))
    assert sum(made) == 3
    assert len(school.sheets()) == 6


def test_a_redo_gets_the_next_attempt_and_replaces_the_sheet_to_print(school):
    first = school.sheets()[0]
    with school.sessions.begin() as session:
        again = print_again(session, school.id, school.assignment_id, [first.student_id])
    assert (again[0].attempt, again[0].number) == (2, 4)
    newest = newest_sheets(school.sheets())
    assert len(newest) == 3
    assert again[0].code in {sheet.code for sheet in newest}
    assert first.code not in {sheet.code for sheet in newest}


def test_a_sheet_carries_its_students_name_code_and_week(school):
    sheet = school.sheets()[1]
    with school.sessions() as session:
        assignment = assignment_of_school(session, school.id, school.assignment_id)
        drawing = drawings(session, assignment, [sheet])[0]
    words = {item.text for item in drawing.items if isinstance(item, Words)}
    assert {sheet.student, sheet.code, "Due by 16 October, week 6", "Year 8"} <= words


def test_what_isnt_the_schools_cant_be_printed(school, other_school):
    with school.sessions() as session:
        with pytest.raises(NotFound):
            print_sheets(session, other_school.id, school.assignment_id)
        with pytest.raises(Refused, match="to do again"):
            print_again(session, school.id, school.assignment_id, [0])
