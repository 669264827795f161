"""A school says in which language it is spoken to, and anybody which they would rather have."""

from sqlalchemy.orm import Session

from noema.actions.come_in import Who
from noema.core.errors import Refused
from noema.core.language import LANGUAGES, gettext
from noema.store.languages import keep_own_language, keep_school_language


def choose_own_language(session: Session, who: Who, code: str) -> None:
    """Speak to somebody in a language from now on, wherever they come in."""
    keep_own_language(session, who.teacher_id, who.student_id, _checked(code))


def choose_school_language(session: Session, school_id: int, code: str) -> None:
    """Speak to a school in a language: to everybody who chose none, and on its paper."""
    keep_school_language(session, school_id, _checked(code))


def _checked(code: str) -> str:
    if code not in LANGUAGES:
        raise Refused(gettext("That language isn’t on the list: choose it again."))
    return code
