"""A teacher gets a new password; every log-in under the old one ends."""

from sqlalchemy.orm import Session

from noema.actions import passwords
from noema.actions.come_in import show_out
from noema.actions.create_school import check_password
from noema.store.people import TeacherRow, set_password_hash, teacher_by_email


def set_password(session: Session, email: str, password: str) -> TeacherRow:
    """Give a teacher a password; gives who it is."""
    check_password(password)
    show_out(session, email)
    teacher = teacher_by_email(session, email)
    assert teacher is not None  # or nobody could have been shown out
    set_password_hash(session, teacher.id, passwords.HASHER.hash(password))
    return teacher
