"""The frame a class is planned in, and what its exercises are worked out with."""

from collections import defaultdict
from collections.abc import Collection, Iterator
from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta

from sqlalchemy.orm import Session

from noema.core.pigments.shelf import PaintSet, builtin_set
from noema.core.planning.asking import USUAL_PAINTS, Workshop
from noema.core.planning.frame import ClassFrame, Room, SchoolFrame
from noema.core.planning.pace import Pace, Went, handed_in, learned
from noema.core.planning.timetable import Period
from noema.formats.frame_json import room_from_json
from noema.formats.kept_plan_json import class_from_json, kept_plan_from_json
from noema.formats.options_json import options_from_json
from noema.store.classes import ClassRow, class_of_school, classes_of_school
from noema.store.hand_ins import hand_ins_of_class
from noema.store.lessons_went import WentRow, went_of_class
from noema.store.paints import hue_words, paint_set
from noema.store.people import time_zone_of
from noema.store.units import (
    CalendarRow,
    UnitRow,
    calendar_of_school,
    unit_of_class,
    units_of_school,
)


def frame_of_class(session: Session, school_id: int, class_id: int) -> SchoolFrame:
    """Give the frame a class is planned in, with the class alone; refuses another school's."""
    row = class_of_school(session, school_id, class_id)
    calendar = calendar_of_school(session, school_id)
    kept = unit_of_class(session, class_id)
    return _frame(row, kept, calendar, time_zone_of(session, school_id))


def frames_of_school(
    session: Session, school_id: int, class_ids: Collection[int] | None = None
) -> Iterator[tuple[ClassRow, UnitRow, SchoolFrame]]:
    """Give each class that has a unit and goes on, or some, with the frame it is planned in."""
    calendar, zone = calendar_of_school(session, school_id), time_zone_of(session, school_id)
    kept = {one.class_id: one for one in units_of_school(session, school_id, class_ids)}
    for row in classes_of_school(session, school_id):
        if row.id in kept:
            yield row, kept[row.id], _frame(row, kept[row.id], calendar, zone)


def periods_of_school(session: Session, school_id: int) -> tuple[Period, ...]:
    """Give the periods of a school's day, if it said."""
    calendar = calendar_of_school(session, school_id)
    return () if calendar is None else periods_of(calendar)


def periods_of(calendar: CalendarRow) -> tuple[Period, ...]:
    """Give the periods of a calendar."""
    return tuple(
        Period(
            name=str(one["name"]),
            start=time.fromisoformat(str(one["start"])),
            minutes=int(str(one["minutes"])),
        )
        for one in calendar.periods
    )


def rooms_of(calendar: CalendarRow | None) -> tuple[Room, ...]:
    """Give a school's rooms; one as is usual, where it said none."""
    given = () if calendar is None else calendar.rooms
    return tuple(room_from_json(one) for one in given) or (Room(),)


def free_days(calendar: CalendarRow) -> tuple[tuple[date, date], ...]:
    """Give the first and last days of a school's holidays."""
    return tuple(
        (date.fromisoformat(str(one["first"])), date.fromisoformat(str(one["last"])))
        for one in calendar.holidays
    )


def workshop_of(session: Session, school_id: int, class_id: int) -> Workshop:
    """Give what works a class's exercises out: the school's paints and hue words, its pace."""
    paces = paces_of_class(session, class_id)

    def paints_of(ref: str | None) -> PaintSet:
        return builtin_set(USUAL_PAINTS) if ref is None else paint_set(session, school_id, ref)

    return Workshop(
        paints_of=paints_of,
        options_of=options_from_json,
        pace_of=lambda _, wish: paces.get((wish.kind, wish.medium.value), Pace()).factor,
        table=hue_words(session, school_id).table,
    )


def paces_of_class(session: Session, class_id: int) -> dict[tuple[str, str], Pace]:
    """Give what a class's lessons tell of its pace, by kind and medium."""
    said, found = went_of_class(session, class_id), defaultdict[tuple[str, str], list[_Told]](list)
    for of, rows in said.items():
        found[of] += [(_went(row), row.factor) for row in rows]
    known = {row.wish for rows in said.values() for row in rows}
    for of, wish, told in _by_hand_in(session, class_id):
        if wish not in known:  # what somebody said counts more
            found[of].append(told)
    return {of: learned(some) for of, some in found.items()}


_Told = tuple[Went, float]


def _went(row: WentRow) -> Went:
    return Went(planned_min=row.planned_min, over_min=row.over_min, unfinished=row.unfinished)


def _by_hand_in(session: Session, class_id: int) -> Iterator[tuple[tuple[str, str], str, _Told]]:
    """Give what hand-in times tell of each exercise of a class that is due: of what, and which."""
    kept = unit_of_class(session, class_id)
    plan = None if kept is None or kept.plan is None else kept_plan_from_json(kept.plan)
    if plan is None:
        return
    for one in hand_ins_of_class(session, class_id):
        times, work = plan.times.get(one.wish, ()), plan.works.get(one.wish)
        due = times[len(work.pieces)] if work and len(times) > len(work.pieces) else None
        if work is None or due is None or due.date() >= datetime.now(UTC).date():
            continue
        in_time = sum(day <= due.date() for day in one.first_days)
        minutes = work.work.minutes
        went = handed_in(minutes, in_time, len(one.first_days), one.people)
        if went is not None:
            yield (one.kind, one.medium), one.wish, (went, work.pace)


def _frame(
    row: ClassRow, kept: UnitRow | None, calendar: CalendarRow | None, zone: str
) -> SchoolFrame:
    begins = row.unit.starts_on if calendar is None else calendar.begins_on
    ends = begins + timedelta(weeks=row.unit.weeks) - timedelta(days=1)
    frame = SchoolFrame(
        time_zone=zone,
        begins=begins,
        ends=ends if calendar is None else calendar.ends_on,
        holidays=() if calendar is None else free_days(calendar),
        rooms=rooms_of(calendar),
        classes=(),
    )
    own = ClassFrame(id=str(row.id), people=row.students, lessons=())
    if kept is not None:
        own = replace(class_from_json(frame, kept.frame), people=row.students)
    return replace(frame, classes=(own,))
