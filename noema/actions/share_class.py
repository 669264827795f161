"""A class is taught together, or handed over."""

from sqlalchemy.orm import Session

from noema.core.errors import NotFound, Refused
from noema.core.language import gettext
from noema.store.class_teachers import (
    colleagues_of,
    share_class,
    teachers_of_class,
    unshare_class,
)
from noema.store.classes import class_of_school
from noema.store.people import TeacherRow


def share_with(
    session: Session, by: TeacherRow, class_id: int, teacher_id: int, *, shares: bool
) -> None:
    """Share a class with somebody of its school, or no longer; it is never left to nobody."""
    class_of_school(session, by.school_id, class_id)
    if teacher_id not in {one.id for one in colleagues_of(session, by.school_id)}:
        raise NotFound(gettext("Nobody of your school who can come in is meant: choose again."))
    if shares:
        share_class(session, class_id, teacher_id)
        return
    others = [one for one in teachers_of_class(session, class_id) if one.id != teacher_id]
    if not others:
        raise Refused(gettext("Share the class with somebody else first: nobody would teach it."))
    unshare_class(session, class_id, teacher_id)
