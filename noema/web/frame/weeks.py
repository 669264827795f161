"""Classes and where each is in its own weeks, for every page that lists or names them."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from noema.store.classes import ClassRow


@dataclass(frozen=True, kw_only=True)
class ClassLine:
    """A class in a list."""

    id: int
    name: str
    students: int
    week: str


def class_lines(rows: Sequence[ClassRow]) -> tuple[ClassLine, ...]:
    """Give a line for each class."""
    return tuple(
        ClassLine(id=row.id, name=row.name, students=row.students, week=week_words(row))
        for row in rows
    )


def week_words(row: ClassRow) -> str:
    """Say where a class is in its unit today."""
    week = this_week(row)
    if week < 1:
        return f"unit of {row.unit_weeks} weeks, not begun"
    if week > row.unit_weeks:
        return f"unit of {row.unit_weeks} weeks, over"
    return f"week {week} of {row.unit_weeks}"


def this_week(row: ClassRow) -> int:
    """Give the week of a class's unit that today lies in."""
    return row.week_on(datetime.now(UTC).date())
