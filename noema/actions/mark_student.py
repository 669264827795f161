"""A teacher notes who wasn't there for all of a lesson."""

from sqlalchemy.orm import Session

from noema.core.planning.register import RegisterMark
from noema.store.classes import class_of_school, student_of_class
from noema.store.register import keep_mark


def mark_student(
    session: Session,
    school_id: int,
    class_id: int,
    lesson: str,
    student_id: int,
    mark: RegisterMark | None,
) -> None:
    """Note it, or that they were there; refuses who isn't in the class."""
    class_of_school(session, school_id, class_id)
    student_of_class(session, class_id, student_id)
    keep_mark(session, class_id, lesson, student_id, mark)
