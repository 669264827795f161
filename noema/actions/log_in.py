"""A teacher shows who they are."""

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError
from sqlalchemy.orm import Session

from noema.core.errors import NotAllowed
from noema.store.people import TeacherRow, teacher_by_email

_HASHER = PasswordHasher()
_NOBODY = _HASHER.hash("nobody's password")


def log_in(session: Session, email: str, password: str) -> TeacherRow:
    """Give the teacher, or refuse without saying which of the two was wrong."""
    teacher = teacher_by_email(session, email)
    try:
        # Somebody unknown costs as much time as somebody known.
        _HASHER.verify(teacher.password_hash if teacher else _NOBODY, password)
    except (VerifyMismatchError, InvalidHashError) as wrong:
        raise NotAllowed("That e-mail and password don't belong together: try again.") from wrong
    if teacher is None:
        raise NotAllowed("That e-mail and password don't belong together: try again.")
    return teacher
