"""Units kept to be given to other classes."""

from dataclasses import dataclass

from sqlalchemy import delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.store.base import Json
from noema.store.planning_tables import UnitPattern


@dataclass(frozen=True, kw_only=True)
class UnitPatternName:
    """A kept unit by its name."""

    id: int
    name: str


def unit_patterns_of(session: Session, school_id: int) -> tuple[UnitPatternName, ...]:
    """Which units has a school kept, by name?"""
    rows = session.execute(
        select(UnitPattern.id, UnitPattern.name)
        .where(UnitPattern.school_id == school_id)
        .order_by(UnitPattern.name)
    )
    return tuple(UnitPatternName(id=row.id, name=row.name) for row in rows)


def wishes_of_pattern(session: Session, school_id: int, pattern_id: int) -> tuple[Json, ...]:
    """What does a kept unit wish for, as in a noema-frame/1?"""
    row = session.scalar(
        select(UnitPattern).where(UnitPattern.school_id == school_id, UnitPattern.id == pattern_id)
    )
    if row is None:
        raise _no_such()
    return tuple(row.wishes)


def keep_unit_pattern(session: Session, school_id: int, name: str, wishes: list[Json]) -> None:
    """Keep a unit; one of the same name is put in its place."""
    added = insert(UnitPattern).values(school_id=school_id, name=name, wishes=wishes)
    session.execute(
        added.on_conflict_do_update(
            index_elements=["school_id", "name"], set_={"wishes": added.excluded.wishes}
        )
    )


def drop_unit_pattern(session: Session, school_id: int, pattern_id: int) -> None:
    """Forget a kept unit; refuses one that isn't there."""
    gone = delete(UnitPattern).where(
        UnitPattern.school_id == school_id, UnitPattern.id == pattern_id
    )
    if session.scalar(gone.returning(UnitPattern.id)) is None:
        raise _no_such()


def _no_such() -> NotFound:
    return NotFound(gettext("There is no such unit in your school: choose one of the list."))
