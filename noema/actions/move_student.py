"""A student goes to another class, or two records turn out to be one student."""

from sqlalchemy.orm import Session

from noema.core.errors import Refused
from noema.core.language import gettext
from noema.store.classes import class_of_school, student_of_class
from noema.store.erasure import enrol_in, erase_student, give_sheets_to, leave_class
from noema.store.students import student_of_school


def move_student(
    session: Session, school_id: int, student_id: int, from_class: int, to_class: int
) -> None:
    """Take a student from one class into another; what they painted goes with them."""
    class_of_school(session, school_id, from_class)
    class_of_school(session, school_id, to_class)
    student_of_class(session, from_class, student_id)
    if from_class == to_class:
        raise Refused(gettext("They are in that class already: choose another."))
    enrol_in(session, student_id, to_class)
    leave_class(session, student_id, from_class)


def merge_students(session: Session, school_id: int, one_id: int, other_id: int) -> None:
    """Make two records one: the other's sheets, classes and identifiers become the first's."""
    student_of_school(session, school_id, one_id)
    student_of_school(session, school_id, other_id)
    if one_id == other_id:
        raise Refused(gettext("That is the same student: choose the other record."))
    give_sheets_to(session, other_id, one_id)
    erase_student(session, other_id)
