"""Classes and where each is in its own weeks, for every page that lists or names them."""

from collections.abc import Sequence
from dataclasses import dataclass

from noema.core.language import gettext, ngettext
from noema.formats.days import short_day
from noema.store.assignments import AssignmentRow
from noema.store.classes import ClassRow
from noema.web.frame.clock import today


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


def due_said(row: AssignmentRow) -> str:
    """Say when a class's exercise is due, such as week 6, by 16 Oct."""
    return gettext("week %(week)s, by %(day)s", week=row.due_week, day=short_day(row.due_day))


def week_words(row: ClassRow) -> str:
    """Say where a class is in its unit today."""
    unit, week = row.unit, row.unit.week_on(today())
    if week < 1:
        return ngettext(
            "unit of %(count)s week, not begun", "unit of %(count)s weeks, not begun", unit.weeks
        )
    if week > unit.weeks:
        return ngettext("unit of %(count)s week, over", "unit of %(count)s weeks, over", unit.weeks)
    return gettext("week %(week)s of %(weeks)s", week=week, weeks=unit.weeks)
