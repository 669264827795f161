"""A student who may try again gets another sheet, of only the cells that need it."""

from sqlalchemy.orm import Session

from noema.actions.print_sheets import needing_cells, print_again
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.store.sheets import SheetRow
from noema.store.student_work import attempts_of_student, given_one_to_student, sheets_of_student
from noema.store.students import StudentRow


def try_again(
    session: Session, student: StudentRow, assignment_id: int, *, only_needed: bool
) -> SheetRow:
    """Give the student's next sheet: the one not yet handed in, or a new one."""
    assignment = given_one_to_student(session, student.id, assignment_id)
    sheets = sheets_of_student(session, student.id, assignment_id)
    if not sheets:
        raise Refused(gettext("There is no sheet of yours yet: ask your teacher to print it."))
    attempts = attempts_of_student(session, student.id, assignment_id)
    if sheets[-1].id not in {attempt.sheet_id for attempt in attempts}:
        return sheets[-1]
    cells = needing_cells(session, assignment, attempts[-1:]) if only_needed else None
    return print_again(session, student.school_id, assignment_id, [student.id], cells)[0]
