"""The first school is founded, by whoever comes first and alone."""

from sqlalchemy.orm import Session

from noema.actions.create_school import create_school
from noema.core.errors import NotFound
from noema.core.language import ENGLISH, LANGUAGES, current_language, gettext
from noema.store.archive import is_empty
from noema.store.people import TeacherRow, hold_founding, teacher_by_email


def has_school(session: Session) -> bool:
    """Whether there is a school."""
    return not is_empty(session)


def found_first_school(
    session: Session, school: str, email: str, name: str, password: str, time_zone: str
) -> TeacherRow:
    """Found it and give its administrator; refuses where there is one, of two at once one.

    The school is spoken to in the language it is founded in.
    """
    hold_founding(session)
    if has_school(session):
        raise NotFound(gettext("There is a school here already: log in."))
    spoken = current_language()
    language = spoken if spoken in LANGUAGES else ENGLISH
    create_school(session, school, email, name, password, time_zone, language)
    teacher = teacher_by_email(session, email)
    assert teacher is not None  # who was just added
    return teacher
