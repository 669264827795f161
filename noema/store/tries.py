"""How often reading a photograph was begun and not ended, and what Noema stumbled over."""

from sqlalchemy import ColumnElement, func, select, update
from sqlalchemy.orm import Session

from noema.core.progress.states import PhotoState
from noema.store.tables import Photograph


def tries_of(session: Session, photograph_id: int) -> int:
    """How often was reading a photograph begun and not ended?"""
    return session.scalar(select(Photograph.tries).where(Photograph.id == photograph_id)) or 0


def count_try(session: Session, photograph_id: int, by: int) -> int:
    """Count a try of reading, or take some back; gives how many there are then."""
    counted = (
        update(Photograph)
        .where(Photograph.id == photograph_id)
        .values(tries=func.greatest(0, Photograph.tries + by))
        .returning(Photograph.tries)
    )
    return session.scalar(counted) or 0


def stumbled_over(session: Session, school_id: int, reason: str) -> tuple[int, ...]:
    """Which unreadable photographs of a school failed for a reason?"""
    question = select(Photograph.id).where(*_stumbled(school_id, reason))
    return tuple(session.scalars(question.order_by(Photograph.id)))


def stumbled_count(session: Session, school_id: int, reason: str) -> int:
    """How many are there?"""
    return (
        session.scalar(select(func.count(Photograph.id)).where(*_stumbled(school_id, reason))) or 0
    )


def _stumbled(school_id: int, reason: str) -> tuple[ColumnElement[bool], ...]:
    return (
        Photograph.school_id == school_id,
        Photograph.state == PhotoState.UNREADABLE.value,
        Photograph.reason.startswith(reason, autoescape=True),
        Photograph.picture_gone_at.is_(None),
    )
