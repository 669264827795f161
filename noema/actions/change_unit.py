"""What a class is to do in time is changed, and planned anew by a job."""

from dataclasses import replace
from datetime import date

from sqlalchemy.orm import Session

from noema.actions.frames import frame_of_class, free_days, rooms_of, workshop_of
from noema.core.errors import NotFound, Refused
from noema.core.language import gettext
from noema.core.planning.changes import Change
from noema.core.planning.frame import SchoolFrame, Wish
from noema.formats.kept_plan_json import class_to_json, kept_plan_from_json
from noema.store.classes import class_of_school, lock_class
from noema.store.people import time_zone_of
from noema.store.queue import queue_planning
from noema.store.units import (
    CalendarRow,
    ask_for_plans,
    bring_frame_back,
    calendar_of_school,
    keep_calendar,
    keep_frame_of_class,
    unit_of_class,
)


def change_unit(session: Session, school_id: int, class_id: int, change: Change) -> None:
    """Change a class's lessons or unit, and have it planned anew; refuses what can't be planned."""
    class_of_school(session, school_id, class_id)
    lock_class(session, class_id)
    frame = frame_of_class(session, school_id, class_id)
    changed = replace(frame, classes=(change(frame.classes[0]),))
    shop, known = workshop_of(session, school_id, class_id), frame.classes[0].unit
    for wish in changed.classes[0].unit:
        if not any(_asks_alike(wish, other) for other in known):
            shop.asked(wish)  # refuses what nobody could paint
    keep_frame_of_class(session, class_id, class_to_json(changed, str(class_id)))
    queue_planning(session, class_id)


def _asks_alike(one: Wish, other: Wish) -> bool:
    """Whether two wishes are worked out to the same exercise, so that one was looked at before."""
    asks = [(wish.kind, wish.options, wish.set_ref, wish.medium) for wish in (one, other)]
    return asks[0] == asks[1]


def undo_change(session: Session, school_id: int, class_id: int) -> None:
    """Take the last change back, and have the unit planned anew."""
    class_of_school(session, school_id, class_id)
    if not bring_frame_back(session, class_id):
        raise Refused(gettext("There is no change of this unit to take back."))
    queue_planning(session, class_id)


def keep_days(session: Session, school_id: int, calendar: CalendarRow) -> None:
    """Keep the days a school plans in; every unit is planned anew."""
    SchoolFrame(
        time_zone=time_zone_of(session, school_id),
        begins=calendar.begins_on,
        ends=calendar.ends_on,
        holidays=free_days(calendar),
        rooms=rooms_of(calendar),
        classes=(),
    )
    keep_calendar(session, school_id, calendar)
    for class_id in ask_for_plans(session, school_id):
        queue_planning(session, class_id)


def take_way(session: Session, school_id: int, class_id: int, wish: str, number: int) -> None:
    """Change the unit, or the school's days, as a way out of what isn't met says."""
    class_of_school(session, school_id, class_id)
    row = unit_of_class(session, class_id)
    plan = None if row is None or row.plan is None else kept_plan_from_json(row.plan)
    unmet = next((one for one in plan.unmet if one.wish == wish), None) if plan else None
    if unmet is None or not 0 <= number < len(unmet.ways):
        raise NotFound(gettext("This way isn't offered any more: look at the unit again."))
    frame, now = unmet.ways[number].frame, frame_of_class(session, school_id, class_id)
    change_unit(session, school_id, class_id, lambda _: frame.classes[0])
    if frame.ends != now.ends:
        _end_later(session, school_id, now, frame.ends)


def _end_later(session: Session, school_id: int, now: SchoolFrame, ends: date) -> None:
    kept = calendar_of_school(session, school_id)
    calendar = kept or CalendarRow(begins_on=now.begins, ends_on=ends, holidays=(), rooms=())
    keep_days(session, school_id, replace(calendar, ends_on=ends))
