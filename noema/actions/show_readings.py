"""A teacher says when a class's students see what was read."""

from sqlalchemy.orm import Session

from noema.store.classes import class_of_school
from noema.store.students import set_sees_at_once


def show_readings(session: Session, school_id: int, class_id: int, *, at_once: bool) -> None:
    """Show readings as soon as they are there, or only after the teacher's review."""
    class_of_school(session, school_id, class_id)
    set_sees_at_once(session, class_id, at_once)
