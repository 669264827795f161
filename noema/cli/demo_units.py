"""The demo's units in time: the school's days, each class's lessons, one of them missed."""

from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from functools import partial

from sqlalchemy.orm import Session

from noema.actions.change_unit import cancelled, change_unit, keep_days
from noema.actions.plan_unit import plan_unit
from noema.core.planning.frame import ClassFrame, WeeklyLesson, Wish
from noema.core.planning.ready import READY
from noema.core.planning.timetable import weekly_of
from noema.core.planning.unit import monday_of
from noema.stand_ins.saltmarsh import CLASSES, UNIT_WEEKS, WEEK
from noema.store.classes import classes_of_school
from noema.store.units import CalendarRow

_RACK = 40
_LESSONS = ("tue 09:40 50\nthu 11:00 50", "wed 13:10 75", "mon 18:30 100")
_UNITS = ("first-term-gouache", "six-weeks-acrylic", "evening-watercolour")
_MISSED = time(9, 40)  # of the first class, the week before


def _given(
    lessons: tuple[WeeklyLesson, ...], unit: tuple[Wish, ...], one: ClassFrame
) -> ClassFrame:
    return replace(one, lessons=lessons, unit=unit)


def fill_units(session: Session, school_id: int, today: date) -> None:
    """Plan each class from its first week, then miss a lesson and plan what is to come."""
    monday = monday_of(today) - timedelta(weeks=WEEK - 1)
    free = monday + timedelta(weeks=WEEK + 1)
    calendar = CalendarRow(
        begins_on=monday,
        ends_on=monday + timedelta(weeks=UNIT_WEEKS + 1),
        holidays=(
            {"first": free.isoformat(), "last": (free + timedelta(days=4)).isoformat(),
             "name": "half term"},
        ),
        rack=_RACK,
    )  # fmt: skip
    keep_days(session, school_id, calendar)
    by_name = {row.name: row for row in classes_of_school(session, school_id)}
    rows = []
    begun = datetime.combine(monday, time(0), UTC)
    for one, lessons, unit in zip(CLASSES, _LESSONS, _UNITS, strict=True):
        row = by_name.get(one.name)
        if row is None:
            continue
        rows.append(row)
        change = partial(_given, weekly_of(lessons), READY[unit].wishes)
        change_unit(session, school_id, row.id, change)
        plan_unit(session, row.id, begun)
    missed = datetime.combine(monday + timedelta(weeks=WEEK - 2, days=1), _MISSED)
    change_unit(session, school_id, rows[0].id, cancelled(missed, is_held=False))
    for row in rows:
        plan_unit(session, row.id, datetime.now(UTC))
