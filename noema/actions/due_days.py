"""The days on which a student's exercises are due; who was away has longer."""

from collections import defaultdict
from collections.abc import Sequence
from datetime import date, datetime

from sqlalchemy.orm import Session

from noema.actions.frames import frames_of_school
from noema.core.planning.away import due_after
from noema.core.planning.kept import as_kept
from noema.core.planning.register import RegisterMark
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.store.assignments import AssignmentRow
from noema.store.register import marks_of_student
from noema.store.terms import terms_of_student


def due_days_of_student(
    session: Session, school_id: int, student_id: int, rows: Sequence[AssignmentRow]
) -> dict[int, date]:
    """Give the day each exercise is due on for a student, by assignment.

    Where a teacher chose a day for them it is that one, then the day chosen for the class, then
    what the class's unit plans; none of a week in which any day will do.
    """
    chosen = {row.id: row.due_on for row in rows if row.due_on is not None} | {
        assignment_id: terms.due_on
        for assignment_id, terms in terms_of_student(session, student_id).items()
        if terms.due_on is not None
    }
    of_units = [row for row in rows if row.wish is not None and row.id not in chosen]
    return _planned(session, school_id, student_id, of_units) | {
        row.id: chosen[row.id] for row in rows if row.id in chosen
    }


def _planned(
    session: Session, school_id: int, student_id: int, of_units: Sequence[AssignmentRow]
) -> dict[int, date]:
    if not of_units:
        return {}
    missed: dict[int, set[datetime]] = defaultdict(set)
    for class_id, lesson, mark in marks_of_student(session, student_id):
        if mark is RegisterMark.AWAY:
            missed[class_id].add(datetime.fromisoformat(lesson))
    class_ids = {row.class_id for row in of_units}
    plans = {
        one.id: as_kept(frame, kept_plan_from_json(kept.plan))
        for one, kept, frame in frames_of_school(session, school_id, class_ids)
        if kept.plan is not None
    }
    return {
        row.id: due
        for row in of_units
        if row.class_id in plans
        and (due := due_after(plans[row.class_id], str(row.wish), missed[row.class_id]))
    }
