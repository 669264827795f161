"""Series for the eye that were printed."""

from sqlalchemy import select
from sqlalchemy.orm import Session

from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.store.base import Json
from noema.store.eye_tables import EyePaperRow


def add_paper(
    session: Session, school_id: int, printer_id: int, code: str, rows: list[Json]
) -> None:
    """Keep what is printed."""
    session.add(EyePaperRow(school_id=school_id, printer_id=printer_id, code=code, rows=rows))
    session.flush()


def paper_of_school(session: Session, school_id: int, code: str) -> list[Json]:
    """Which rows were printed under a code?"""
    rows = session.scalar(
        select(EyePaperRow.rows).where(EyePaperRow.school_id == school_id, EyePaperRow.code == code)
    )
    if rows is None:
        raise NotFound(gettext("There is no such page: look at the code at its top."))
    return rows
