"""Every colour that was mixed, measured or written down, to be found again."""

from datetime import datetime

from sqlalchemy import (
    ColumnElement,
    Computed,
    Float,
    ForeignKey,
    Index,
    String,
    cast,
    func,
)
from sqlalchemy.dialects.postgresql import ARRAY
from sqlalchemy.dialects.postgresql.base import ischema_names
from sqlalchemy.orm import Mapped, mapped_column
from sqlalchemy.types import UserDefinedType

from noema.core.logbook.entry import EntryKind
from noema.store.base import Base, Json, made_now, one_of


class Cube(UserDefinedType[str]):
    """A point of PostgreSQL's extension `cube`."""

    cache_ok = True

    def get_col_spec(self, **_: object) -> str:
        """Give its name in SQL."""
        return "cube"


ischema_names["cube"] = Cube  # so that tables that are looked at know it too


def cube_of(lab: tuple[float, float, float]) -> ColumnElement[str]:
    """Give a colour as a point."""
    return func.cube(cast(list(lab), ARRAY(Float)))


class LogbookRow(Base):
    """One entry."""

    __tablename__ = "logbook_entry"
    __table_args__ = (
        one_of("kind", EntryKind),
        # The nearest of a school's: both in one index, by the extension btree_gist.
        Index("ix_logbook_entry_school_place", "school_id", "place", postgresql_using="gist"),
    )
    id: Mapped[int] = mapped_column(primary_key=True)
    school_id: Mapped[int] = mapped_column(ForeignKey("school.id"))
    class_id: Mapped[int | None] = mapped_column(ForeignKey("school_class.id"), index=True)
    student_id: Mapped[int | None] = mapped_column(ForeignKey("student.id"), index=True)
    photograph_id: Mapped[int | None] = mapped_column(ForeignKey("photograph.id"), index=True)
    practice_id: Mapped[int | None] = mapped_column(ForeignKey("bench_practice.id"), index=True)
    spot_id: Mapped[int | None] = mapped_column(ForeignKey("picture_spot.id"), index=True)
    kind: Mapped[str] = mapped_column(String(10))
    title: Mapped[str] = mapped_column(String(200))
    words: Mapped[str] = mapped_column(String(400))
    parts: Mapped[list[Json]]  # tube and volume
    lightness: Mapped[float]  # CIELAB, D50
    a: Mapped[float]
    b: Mapped[float]
    asked: Mapped[list[float] | None]  # Lab, of a cell
    place: Mapped[str] = mapped_column(
        Cube, Computed("cube(ARRAY[lightness, a, b])", persisted=True), deferred=True
    )
    made_at: Mapped[datetime] = made_now()
