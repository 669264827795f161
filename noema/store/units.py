"""Units in time: a school's calendar, and what its classes are to do when."""

from collections.abc import Collection
from dataclasses import dataclass
from datetime import date
from typing import cast

from sqlalchemy import func, select, true, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.store.base import Json
from noema.store.planning_tables import ClassUnit, SchoolCalendar
from noema.store.tables import SchoolClass


@dataclass(frozen=True, kw_only=True)
class CalendarRow:
    """The days a school plans in."""

    begins_on: date
    ends_on: date
    holidays: tuple[Json, ...]  # first, last and name
    rooms: tuple[Json, ...]  # as in a noema-frame/1
    periods: tuple[Json, ...] = ()  # name, start and minutes


@dataclass(frozen=True, kw_only=True)
class UnitRow:
    """A class's unit as it is kept."""

    class_id: int
    frame: Json  # the class's part of a noema-frame/1
    plan: Json | None
    is_planned: bool  # as it stands now
    can_undo: bool
    has_feed: bool  # a private address for calendars


def calendar_of_school(session: Session, school_id: int) -> CalendarRow | None:
    """Which days does a school plan in, if it said?"""
    row = session.get(SchoolCalendar, school_id)
    if row is None:
        return None
    return CalendarRow(
        begins_on=row.begins_on,
        ends_on=row.ends_on,
        holidays=tuple(row.holidays),
        rooms=tuple(row.rooms),
        periods=tuple(row.periods),
    )


def keep_calendar(session: Session, school_id: int, calendar: CalendarRow) -> None:
    """Keep the days a school plans in."""
    values = {
        "begins_on": calendar.begins_on,
        "ends_on": calendar.ends_on,
        "holidays": list(calendar.holidays),
        "rooms": list(calendar.rooms),
        "periods": list(calendar.periods),
    }
    added = insert(SchoolCalendar).values(school_id=school_id, **values)
    session.execute(added.on_conflict_do_update(index_elements=["school_id"], set_=values))


def unit_of_class(session: Session, class_id: int) -> UnitRow | None:
    """What is a class to do, and when, if anybody said?"""
    row = session.get(ClassUnit, class_id)
    if row is None:
        return None
    return UnitRow(
        class_id=row.class_id,
        frame=row.frame,
        plan=row.plan,
        is_planned=row.planned == row.asked,
        can_undo=row.before is not None,
        has_feed=row.feed_token_sha256 is not None,
    )


def keep_frame_of_class(session: Session, class_id: int, frame: Json) -> None:
    """Keep what a class is to do, and what it was before, so that it can be brought back."""
    row = session.get(ClassUnit, class_id)
    if row is None:
        session.add(ClassUnit(class_id=class_id, frame=frame))
    else:
        row.before = {"frame": row.frame, "plan": row.plan}
        row.frame, row.asked, row.changed_at = frame, row.asked + 1, func.now()
    session.flush()


def bring_frame_back(session: Session, class_id: int) -> bool:
    """Take the last change of a class's unit back, or that back; False where there was none."""
    row = session.get(ClassUnit, class_id)
    if row is None or row.before is None:
        return False
    kept = row.before
    row.before = {"frame": row.frame, "plan": row.plan}
    # The plan it had comes back too: it is kept as far as may be when it is planned anew.
    row.frame, row.plan = cast(Json, kept["frame"]), cast("Json | None", kept["plan"])
    row.asked += 1
    session.flush()
    return True


def ask_for_plans(session: Session, school_id: int) -> tuple[int, ...]:
    """Count a change of all units of a school's classes that go on; gives the classes."""
    going_on = select(SchoolClass.id).where(
        SchoolClass.school_id == school_id, SchoolClass.archived_at.is_(None)
    )
    asked = (
        update(ClassUnit)
        .where(ClassUnit.class_id.in_(going_on))
        .values(asked=ClassUnit.asked + 1)
        .returning(ClassUnit.class_id)
    )
    return tuple(session.scalars(asked).all())


def ask_for_plan(session: Session, class_id: int) -> None:
    """Count a change of what a class's unit is planned by."""
    session.execute(
        update(ClassUnit).where(ClassUnit.class_id == class_id).values(asked=ClassUnit.asked + 1)
    )


def asked_of_unit(session: Session, class_id: int) -> int:
    """Which change of a class's unit is the newest?"""
    asked = select(ClassUnit.asked).where(ClassUnit.class_id == class_id)
    return session.scalars(asked).one()


def keep_plan(session: Session, class_id: int, plan: Json, asked: int) -> None:
    """Keep the plan of a change of a class's unit."""
    session.execute(
        update(ClassUnit).where(ClassUnit.class_id == class_id).values(plan=plan, planned=asked)
    )


def units_of_school(
    session: Session, school_id: int, class_ids: Collection[int] | None = None
) -> tuple[UnitRow, ...]:
    """What are a school's classes that go on to do, or some of them?"""
    asked_for = true() if class_ids is None else ClassUnit.class_id.in_(class_ids)
    rows = session.scalars(
        select(ClassUnit)
        .join(SchoolClass, SchoolClass.id == ClassUnit.class_id)
        .where(
            SchoolClass.school_id == school_id,
            SchoolClass.archived_at.is_(None),
            asked_for,
        )
    )
    return tuple(
        UnitRow(
            class_id=row.class_id,
            frame=row.frame,
            plan=row.plan,
            is_planned=row.planned == row.asked,
            can_undo=row.before is not None,
            has_feed=row.feed_token_sha256 is not None,
        )
        for row in rows
    )


def units_being_planned(session: Session, school_id: int) -> tuple[int, int]:
    """How many of a school's units wait to be planned, and how many are there?"""
    waits = func.count().filter(ClassUnit.planned != ClassUnit.asked)
    row = session.execute(
        select(waits, func.count())
        .select_from(ClassUnit)
        .join(SchoolClass, SchoolClass.id == ClassUnit.class_id)
        .where(SchoolClass.school_id == school_id, SchoolClass.archived_at.is_(None))
    ).one()
    return row[0], row[1]
