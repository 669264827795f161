"""A class's unit is over: it leaves the lists with all it holds, and can come back."""

from datetime import datetime

from sqlalchemy.orm import Session

from noema.store.classes import class_of_school, set_archived, set_term


def archive_class(session: Session, school_id: int, class_id: int, now: datetime | None) -> None:
    """Archive a class, or with no time bring it back."""
    class_of_school(session, school_id, class_id)
    set_archived(session, class_id, now)


def name_term(session: Session, school_id: int, class_id: int, term: str) -> None:
    """Say in which term or year a class is."""
    class_of_school(session, school_id, class_id)
    set_term(session, class_id, " ".join(term.split())[:40])
