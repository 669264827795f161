"""An assignment is put off, renamed or withdrawn; single students get terms of their own."""

from collections.abc import Mapping
from datetime import UTC, date, datetime

from sqlalchemy.orm import Session

from noema.core.coaching.needs import Needs
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.core.planning.unit import Unit
from noema.store.assignments import (
    assignment_of_school,
    lock_assignment,
    set_due,
    set_title,
    set_withdrawn,
)
from noema.store.classes import class_of_school, student_of_class, students_of_class
from noema.store.queue import queue_judging
from noema.store.terms import (
    Terms,
    assignments_with_sheets_of,
    keep_terms,
    needs_of_students,
    set_needs,
)

LONGEST_TITLE = 120


def week_of_due(unit: Unit, due_on: date) -> int:
    """Give the week of a unit a day lies in; refuses a day before it or after its last week."""
    week = unit.week_on(due_on)
    if not unit.holds(week):
        raise Refused(
            gettext(
                "The unit lasts from %(first)s to %(last)s: choose a day between them.",
                first=unit.starts_on.isoformat(),
                last=unit.ends_on.isoformat(),
            )
        )
    return week


def change_assignment(
    session: Session, school_id: int, assignment_id: int, *, title: str, due_on: date
) -> None:
    """Call an assignment otherwise, or let it be due on another day."""
    row = assignment_of_school(session, school_id, assignment_id)
    title = " ".join(title.split())
    if not 1 <= len(title) <= LONGEST_TITLE:
        raise Refused(
            gettext("Give the exercise a name of at most %(most)s letters.", most=LONGEST_TITLE)
        )
    if title != row.title:
        set_title(session, assignment_id, title)
    if due_on != row.due_day:
        set_due(session, assignment_id, due_on, week_of_due(row.unit, due_on))


def withdraw(session: Session, school_id: int, assignment_id: int, *, gives: bool) -> None:
    """Withdraw an assignment, so that nobody owes it, or give it after all.

    What was handed in stays, and so does what was said of it.
    """
    assignment_of_school(session, school_id, assignment_id)
    lock_assignment(session, assignment_id)
    set_withdrawn(session, assignment_id, None if gives else datetime.now(UTC))


def set_terms(
    session: Session, school_id: int, assignment_id: int, wanted: Mapping[int, Terms]
) -> None:
    """Say what holds for single students of an assignment; those not named stay as they were."""
    row = assignment_of_school(session, school_id, assignment_id)
    lock_assignment(session, assignment_id)
    enrolled = {one.id for one in students_of_class(session, row.class_id)}
    for student_id, terms in wanted.items():
        if student_id not in enrolled:
            raise Refused(gettext("They are in this class no longer: look at the page again."))
        keep_terms(session, assignment_id, student_id, terms)


def help_student(
    session: Session, school_id: int, class_id: int, student_id: int, needs: Needs
) -> None:
    """Say what helps a student from now on; where they are judged otherwise, it is done again.

    Sheets that are printed stay as they are.
    """
    class_of_school(session, school_id, class_id)
    student_of_class(session, class_id, student_id)
    before = needs_of_students(session, [student_id])[student_id]
    set_needs(session, student_id, needs)
    if before.gentler != needs.gentler:
        for assignment_id in assignments_with_sheets_of(session, student_id):
            queue_judging(session, assignment_id)
