"""How lessons went."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import asdict, dataclass

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.store.planning_tables import LessonWent


@dataclass(frozen=True, kw_only=True)
class WentRow:
    """How the painting of one exercise went in a lesson."""

    lesson: str  # such as 2027-01-12T09:40, at the school's clock
    wish: str
    kind: str
    medium: str
    planned_min: float
    factor: float
    over_min: float
    unfinished: float


def keep_went(session: Session, class_id: int, rows: Sequence[WentRow]) -> None:
    """Keep how a lesson went; what was said of it before is forgotten."""
    for row in rows:
        values = asdict(row)
        added = insert(LessonWent).values(class_id=class_id, **values)
        session.execute(
            added.on_conflict_do_update(
                index_elements=["class_id", "lesson", "wish"],
                set_={name: values[name] for name in ("over_min", "unfinished")},
            )
        )


def went_of_class(session: Session, class_id: int) -> dict[tuple[str, str], list[WentRow]]:
    """How did a class's lessons go, by kind and medium, the oldest first?"""
    rows = session.scalars(
        select(LessonWent)
        .where(LessonWent.class_id == class_id)
        .order_by(LessonWent.lesson, LessonWent.wish)
    )
    found: dict[tuple[str, str], list[WentRow]] = defaultdict(list)
    for row in rows:
        found[row.kind, row.medium].append(
            WentRow(
                lesson=row.lesson,
                wish=row.wish,
                kind=row.kind,
                medium=row.medium,
                planned_min=row.planned_min,
                factor=row.factor,
                over_min=row.over_min,
                unfinished=row.unfinished,
            )
        )
    return dict(found)
