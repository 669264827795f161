"""A student says which cells they think hold, before they see what was read."""

from collections.abc import Collection

from sqlalchemy.orm import Session

from noema.actions.work_out_exercise import exercise_of, for_sheet
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.store.photographs import photo_of_student
from noema.store.student_work import given_one_to_student, keep_check, sheet_of_student
from noema.store.students import StudentRow


def check_self(
    session: Session, student: StudentRow, photograph_id: int, thinks: Collection[str] | None
) -> None:
    """Keep what the student thinks of their sheet, once; None: they'd rather not say."""
    photo = photo_of_student(session, student.id, photograph_id)
    if photo.sheet_id is None and thinks is not None:
        raise Refused(gettext("Nobody knows yet which sheet this is: wait until it is read."))
    if photo.sheet_id is not None and thinks is not None:
        sheet = sheet_of_student(session, student.id, photo.sheet_id)
        assignment = given_one_to_student(session, student.id, sheet.assignment_id)
        exercise = for_sheet(exercise_of(session, assignment), sheet.cells)
        if not set(thinks) <= {cell.id for cell in exercise.asked.cells}:
            raise Refused(gettext("That is no cell of this sheet: choose among those shown."))
    keep_check(session, photograph_id, thinks)
