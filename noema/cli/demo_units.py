"""The demo's units in time: the school's days, each class's lessons, one of them missed.

A lesson is said to have gone over, two students were away from it, and the cupboard lacks white.
"""

from collections import defaultdict
from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta
from functools import partial

from sqlalchemy.orm import Session

from noema.actions.change_unit import change_unit, keep_days
from noema.actions.cupboard import cupboard_of, put_in
from noema.actions.frames import frame_of_class
from noema.actions.mark_student import mark_student
from noema.actions.plan_unit import plan_unit
from noema.actions.say_how_it_went import say_how_it_went
from noema.core.exercises.media import Medium
from noema.core.pigments.tube import Role
from noema.core.planning.changes import cancelled
from noema.core.planning.frame import ClassFrame, Room, WeeklyLesson, Wish
from noema.core.planning.kept import as_kept
from noema.core.planning.orders import containers
from noema.core.planning.paint_uses import TubeInMedium
from noema.core.planning.ready import READY
from noema.core.planning.register import RegisterMark
from noema.core.planning.timeline import Doing
from noema.core.planning.timetable import periods_of, weekly_of
from noema.core.planning.unit import monday_of
from noema.formats.frame_json import room_to_json
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.stand_ins.saltmarsh import UNIT_WEEKS, WEEK, DemoClass
from noema.store.classes import students_of_class
from noema.store.cupboard import containers_of, count_container
from noema.store.paints import all_tubes
from noema.store.units import CalendarRow, unit_of_class

_RACK = 26  # nearly full when the largest class has painted
_ROOM = "Room 12"
_PERIODS = ("1 08:50 09:40", "2 09:40 10:30", "3 11:00 11:50", "4 11:50 12:40", "5 13:10 14:25")
_WEEKS_MORE = 5  # after the unit


def _given(
    lessons: tuple[WeeklyLesson, ...], unit: tuple[Wish, ...], one: ClassFrame
) -> ClassFrame:
    return replace(one, lessons=lessons, unit=unit)


def say_the_days(session: Session, school_id: int, today: date) -> None:
    """Say the school's days, its periods and its room."""
    monday = _begun(today)
    free = monday + timedelta(weeks=WEEK + 1)
    calendar = CalendarRow(
        begins_on=monday,
        ends_on=monday + timedelta(weeks=UNIT_WEEKS + _WEEKS_MORE),
        holidays=(
            {"first": free.isoformat(), "last": (free + timedelta(days=4)).isoformat(),
             "name": "half term"},
        ),
        rooms=(room_to_json(Room(name=_ROOM, rack=_RACK, sinks=2)),),
        periods=tuple(
            {"name": one.name, "start": f"{one.start:%H:%M}", "minutes": one.minutes}
            for one in periods_of("\n".join(_PERIODS))
        ),
    )  # fmt: skip
    keep_days(session, school_id, calendar)


def fill_unit(
    session: Session, school_id: int, class_id: int, told: DemoClass, today: date
) -> None:
    """Plan a class from its first week, perhaps miss a lesson, and plan what is to come."""
    monday = _begun(today)
    change = partial(_given, weekly_of(told.lessons), READY[told.unit].wishes)
    change_unit(session, school_id, class_id, change)
    plan_unit(session, class_id, datetime.combine(monday, time(0), UTC))
    if told.missed is not None:
        missed = datetime.combine(monday + timedelta(weeks=WEEK - 2, days=1), told.missed)
        change_unit(session, school_id, class_id, cancelled(missed, is_held=False))
        plan_unit(session, class_id, missed.replace(tzinfo=UTC))
    _tell_last_lesson(session, school_id, class_id)
    plan_unit(session, class_id, datetime.now(UTC))


def _begun(today: date) -> date:
    return monday_of(today) - timedelta(weeks=WEEK - 1)


def _tell_last_lesson(session: Session, school_id: int, class_id: int) -> None:
    """Say how the last lesson that was painted in went, and who wasn't there."""
    frame, kept = frame_of_class(session, school_id, class_id), unit_of_class(session, class_id)
    if kept is None or kept.plan is None:
        return
    lessons = as_kept(frame, kept_plan_from_json(kept.plan)).lessons
    painted = [
        one
        for one in lessons
        if one.lesson.ends <= datetime.now(UTC) and any(p.doing is Doing.PAINT for p in one.parts)
    ]
    if not painted:
        return
    at = painted[-1].lesson.at.replace(tzinfo=None)
    say_how_it_went(session, school_id, class_id, at, over_min=10, unfinished=0)
    for student in students_of_class(session, class_id)[1:4:2]:
        key = at.isoformat(timespec="minutes")
        mark_student(session, school_id, class_id, key, student.id, RegisterMark.AWAY)


def fill_cupboard(session: Session, school_id: int, today: date) -> None:
    """Put in what all units take, as it was counted when they began, but too little white."""
    begun = datetime.combine(_begun(today), time(0), UTC)
    found = cupboard_of(session, school_id)
    needed: dict[TubeInMedium, float] = defaultdict(float)
    for one in found.takes:
        needed[one.paint] += one.ml.much
    known = all_tubes(session, school_id)
    for paint, ml in sorted(needed.items(), key=lambda one: (one[0].tube, one[0].medium.value)):
        is_short = known[paint.tube].role is Role.WHITE and paint.medium is Medium.GOUACHE
        for size_ml in (_SHORT_ML,) if is_short else containers(ml):
            put_in(session, school_id, paint.tube, paint.medium, size_ml, 1)
    for row in containers_of(session, school_id):
        if row.size_ml == _SHORT_ML:
            count_container(session, row.id, _LEFT_ML, begun.date(), datetime.now(UTC))
        else:
            count_container(session, row.id, row.left_ml, None, begun)


_SHORT_ML, _LEFT_ML = 300.0, 25.0  # the size of the white that runs short, and what is left of it
