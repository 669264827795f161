"""A school's cupboard, and what lessons took of it."""

from collections.abc import Collection, Iterable
from dataclasses import asdict, dataclass
from datetime import date, datetime

from sqlalchemy import delete, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.store.planning_tables import LessonPaint, PaintContainer
from noema.store.tables import School, SchoolClass


@dataclass(frozen=True, kw_only=True)
class ContainerRow:
    """A tube or bottle."""

    id: int
    tube: str
    medium: str
    label: str
    size_ml: float
    left_ml: float  # when it was counted
    counted_at: datetime
    opened_on: date | None


@dataclass(frozen=True, kw_only=True)
class LessonPaintRow:
    """What a lesson that is past took of a paint."""

    class_id: int
    lesson: str  # such as 2027-01-12T09:40, at the school's clock
    tube: str
    medium: str
    label: str
    expected_ml: float  # as is usual
    used_ml: float | None = None  # as somebody said


def containers_of(session: Session, school_id: int) -> tuple[ContainerRow, ...]:
    """What stands in a school's cupboard?"""
    rows = session.scalars(
        select(PaintContainer)
        .where(PaintContainer.school_id == school_id)
        .order_by(PaintContainer.label, PaintContainer.id)
    )
    return tuple(
        ContainerRow(
            id=row.id,
            tube=row.tube,
            medium=row.medium,
            label=row.label,
            size_ml=row.size_ml,
            left_ml=row.left_ml,
            counted_at=row.counted_at,
            opened_on=row.opened_on,
        )
        for row in rows
    )


def add_containers(
    session: Session, school_id: int, rows: Iterable[tuple[str, str, str, float]]
) -> None:
    """Put full containers in, each a tube's name, medium, label and size in ml."""
    for tube, medium, label, size_ml in rows:
        session.add(
            PaintContainer(
                school_id=school_id,
                tube=tube,
                medium=medium,
                label=label,
                size_ml=size_ml,
                left_ml=size_ml,
            )
        )
    session.flush()


def count_container(
    session: Session, container_id: int, left_ml: float, opened_on: date | None, at: datetime
) -> None:
    """Keep what is left in a container, as it was counted."""
    session.execute(
        update(PaintContainer)
        .where(PaintContainer.id == container_id)
        .values(left_ml=left_ml, opened_on=opened_on, counted_at=at)
    )


def drop_container(session: Session, school_id: int, container_id: int) -> None:
    """Take a container out; refuses one that isn't there."""
    gone = delete(PaintContainer).where(
        PaintContainer.school_id == school_id, PaintContainer.id == container_id
    )
    if session.scalar(gone.returning(PaintContainer.id)) is None:
        raise NotFound(gettext("There is no such tube or bottle in your cupboard."))


def lead_days_of(session: Session, school_id: int) -> int:
    """How many days does paint take from the order to the shelf?"""
    return session.scalars(select(School.paint_lead_days).where(School.id == school_id)).one()


def keep_lead_days(session: Session, school_id: int, days: int) -> None:
    """Keep how many days paint takes from the order to the shelf."""
    session.execute(update(School).where(School.id == school_id).values(paint_lead_days=days))


def keep_expected(session: Session, rows: Collection[LessonPaintRow]) -> None:
    """Keep what lessons took as is usual; what is known of a lesson already stays."""
    if rows:
        added = insert(LessonPaint).values([asdict(row) for row in rows])
        session.execute(added.on_conflict_do_nothing())


def keep_used(session: Session, rows: Iterable[LessonPaintRow]) -> None:
    """Keep what lessons were said to have used."""
    for row in rows:
        added = insert(LessonPaint).values(**asdict(row))
        session.execute(
            added.on_conflict_do_update(
                index_elements=["class_id", "lesson", "tube", "medium"],
                set_={"used_ml": row.used_ml},
            )
        )


def lesson_paint_of_class(session: Session, class_id: int) -> tuple[LessonPaintRow, ...]:
    """What did a class's lessons take, the oldest first?"""
    of_class = LessonPaint.class_id == class_id
    rows = session.scalars(select(LessonPaint).where(of_class).order_by(*_IN_TIME))
    return tuple(map(_lesson_paint, rows))


def lesson_paint_of_school(session: Session, school_id: int) -> tuple[LessonPaintRow, ...]:
    """What did the lessons of a school's classes take, archived ones too, the oldest first?"""
    rows = session.scalars(
        select(LessonPaint)
        .join(SchoolClass, SchoolClass.id == LessonPaint.class_id)
        .where(SchoolClass.school_id == school_id)
        .order_by(*_IN_TIME)
    )
    return tuple(map(_lesson_paint, rows))


_IN_TIME = (LessonPaint.lesson, LessonPaint.class_id, LessonPaint.tube)


def _lesson_paint(row: LessonPaint) -> LessonPaintRow:
    return LessonPaintRow(
        class_id=row.class_id,
        lesson=row.lesson,
        tube=row.tube,
        medium=row.medium,
        label=row.label,
        expected_ml=row.expected_ml,
        used_ml=row.used_ml,
    )
