"""A teacher shows who they are."""

from functools import cache

from argon2.exceptions import InvalidHashError, VerifyMismatchError
from sqlalchemy.orm import Session

from noema.actions import passwords
from noema.core.errors import NotAllowed
from noema.core.language import gettext
from noema.store.people import TeacherRow, teacher_by_email


def log_in(session: Session, email: str, password: str) -> TeacherRow:
    """Give the teacher, or refuse without saying which of the two was wrong."""
    teacher = teacher_by_email(session, email)
    try:
        # Somebody unknown costs as much time as somebody known.
        passwords.HASHER.verify(teacher.password_hash if teacher else _nobody(), password)
    except (VerifyMismatchError, InvalidHashError) as wrong:
        raise _refusal() from wrong
    if teacher is None or teacher.is_disabled:
        raise _refusal()
    return teacher


def _refusal() -> NotAllowed:
    return NotAllowed(gettext("That e-mail and password don't belong together: try again."))


@cache
def _nobody() -> str:
    return passwords.HASHER.hash("nobody's password")
