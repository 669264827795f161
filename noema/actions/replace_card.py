"""A student's lost card ends and a new one takes its place."""

from sqlalchemy.orm import Session

from noema.store.classes import class_of_school, student_of_class
from noema.store.log_ins import end_log_ins
from noema.store.students import end_card


def replace_card(session: Session, school_id: int, class_id: int, student_id: int) -> None:
    """End the card a student has; whoever came in with it is out."""
    class_of_school(session, school_id, class_id)
    student_of_class(session, class_id, student_id)
    end_card(session, student_id)
    end_log_ins(session, student_id=student_id)
