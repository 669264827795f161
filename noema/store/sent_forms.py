"""Forms that were sent: each is done once, however often it comes."""

from datetime import datetime, timedelta

from sqlalchemy import delete
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.store.student_tables import SentForm


def first_time(session: Session, once: str) -> bool:
    """Is this form sent for the first time? One that is being done just now is waited for."""
    new = insert(SentForm).values(once=once).on_conflict_do_nothing().returning(SentForm.once)
    return session.scalar(new) is not None


def forget_forms(session: Session, now: datetime) -> None:
    """Forget forms that nobody sends again by mistake."""
    session.execute(delete(SentForm).where(SentForm.made_at < now - timedelta(days=1)))
