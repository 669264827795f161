"""A teacher says whom a class's sentences are for; every one is said so from then on."""

from sqlalchemy.orm import Session

from noema.core.coaching.audience import Audience
from noema.store.classes import class_of_school, set_audience


def choose_audience(session: Session, school_id: int, class_id: int, audience: Audience) -> None:
    """Set a class's audience; what a teacher wrote stays as it was written."""
    class_of_school(session, school_id, class_id)
    set_audience(session, class_id, audience)
