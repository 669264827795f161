"""A school's own rubric."""

from sqlalchemy import select, update
from sqlalchemy.orm import Session

from noema.store.base import Json
from noema.store.tables import School


def rubric_body(session: Session, school_id: int) -> Json | None:
    """What did the school write over the usual rubric, if anything?"""
    return session.scalar(select(School.rubric).where(School.id == school_id))


def set_rubric(session: Session, school_id: int, body: Json | None) -> None:
    """Keep a school's rubric; None goes back to the usual one."""
    session.execute(update(School).where(School.id == school_id).values(rubric=body))
