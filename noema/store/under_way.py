"""Something long that fills a school just now, for its first page to tell of."""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from sqlalchemy import delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.store.student_tables import UnderWayRow

_SILENT = timedelta(minutes=2)  # after which what was under way is taken to have ended


@dataclass(frozen=True, kw_only=True)
class UnderWay:
    """How far it is."""

    name: str  # of the class that is filled
    done: int
    total: int


def note_under_way(session: Session, school_id: int, name: str, done: int, total: int) -> None:
    """Say how far it is."""
    values = {"name": name, "done": done, "total": total, "changed_at": datetime.now(UTC)}
    row = insert(UnderWayRow).values(school_id=school_id, **values)
    session.execute(row.on_conflict_do_update(index_elements=["school_id"], set_=values))


def end_under_way(session: Session, school_id: int) -> None:
    """Say that it is over."""
    session.execute(delete(UnderWayRow).where(UnderWayRow.school_id == school_id))


def under_way(session: Session, school_id: int) -> UnderWay | None:
    """What fills a school just now?"""
    row = session.scalar(
        select(UnderWayRow).where(
            UnderWayRow.school_id == school_id,
            UnderWayRow.changed_at > datetime.now(UTC) - _SILENT,
        )
    )
    return None if row is None else UnderWay(name=row.name, done=row.done, total=row.total)
