"""What a class is to do in time is changed, and planned anew by a job."""

from collections.abc import Callable
from dataclasses import replace
from datetime import date, datetime, timedelta

from sqlalchemy.orm import Session

from noema.core.errors import BadFrame, NotFound, Refused
from noema.core.language import gettext
from noema.core.pigments.shelf import PaintSet, builtin_set
from noema.core.planning.asking import Workshop
from noema.core.planning.frame import USUAL_RACK, ClassFrame, SchoolFrame, Wish
from noema.core.planning.pace import Pace, Went, learned
from noema.formats.kept_plan_json import class_from_json, class_to_json, kept_plan_from_json
from noema.formats.options_json import options_from_json
from noema.store.classes import class_of_school, lock_class
from noema.store.lessons_went import WentRow, went_of_class
from noema.store.paints import hue_words, paint_set
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

USUAL_SET = "split-six+black"

Change = Callable[[ClassFrame], ClassFrame]


def frame_of_class(session: Session, school_id: int, class_id: int) -> SchoolFrame:
    """Give the frame a class is planned in, with the class alone; refuses another school's."""
    row = class_of_school(session, school_id, class_id)
    calendar = calendar_of_school(session, school_id)
    begins = row.unit.starts_on if calendar is None else calendar.begins_on
    ends = begins + timedelta(weeks=row.unit.weeks) - timedelta(days=1)
    frame = SchoolFrame(
        time_zone=time_zone_of(session, school_id),
        begins=begins,
        ends=ends if calendar is None else calendar.ends_on,
        holidays=() if calendar is None else _free_days(calendar),
        rack=USUAL_RACK if calendar is None else calendar.rack,
        classes=(),
    )
    kept = unit_of_class(session, class_id)
    own = ClassFrame(id=str(class_id), people=row.students, lessons=())
    if kept is not None:
        own = replace(class_from_json(frame, kept.frame), people=row.students)
    return replace(frame, classes=(own,))


def workshop_of(session: Session, school_id: int, class_id: int) -> Workshop:
    """Give what works a class's exercises out, at its pace."""
    paces = paces_of_class(session, class_id)

    def paints_of(ref: str | None) -> PaintSet:
        return builtin_set(USUAL_SET) if ref is None else paint_set(session, school_id, ref)

    return Workshop(
        paints_of=paints_of,
        options_of=options_from_json,
        pace_of=lambda _, wish: paces.get((wish.kind, wish.medium.value), Pace()).factor,
        table=hue_words(session, school_id).table,
    )


def paces_of_class(session: Session, class_id: int) -> dict[tuple[str, str], Pace]:
    """Give what a class's lessons tell of its pace, by kind and medium."""
    return {
        of: learned((_went(row), row.factor) for row in rows)
        for of, rows in went_of_class(session, class_id).items()
    }


def _went(row: WentRow) -> Went:
    return Went(planned_min=row.planned_min, over_min=row.over_min, unfinished=row.unfinished)


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
        holidays=_free_days(calendar),
        rack=calendar.rack,
        classes=(),
    )
    if not 1 <= calendar.rack <= _LARGEST_RACK:
        raise BadFrame(
            gettext("A rack has 1 to %(most)s places: count those of yours.", most=_LARGEST_RACK)
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
    calendar = kept or CalendarRow(begins_on=now.begins, ends_on=ends, holidays=(), rack=now.rack)
    keep_days(session, school_id, replace(calendar, ends_on=ends))


def pinned(wish_id: str, day: date | None) -> Change:
    """Let a wish begin on a day, or whenever it fits."""
    return _wishes(lambda wish: replace(wish, pinned=day) if wish.id == wish_id else wish)


def redone(wish_id: str, *, redo: bool) -> Change:
    """Keep room for painting a wish again, or not."""
    return _wishes(lambda wish: replace(wish, redo=redo) if wish.id == wish_id else wish)


def without(wish_id: str) -> Change:
    """Leave a wish out; what came after it comes after what it came after."""

    def change(one: ClassFrame) -> ClassFrame:
        gone = next((wish for wish in one.unit if wish.id == wish_id), None)
        before = () if gone is None else gone.after
        unit = tuple(
            replace(
                wish,
                after=tuple(
                    dict.fromkeys(
                        name for a in wish.after for name in (before if a == wish_id else (a,))
                    )
                ),
            )
            for wish in one.unit
            if wish.id != wish_id
        )
        return replace(one, unit=unit)

    return change


def moved(wish_id: str, by: int) -> Change:
    """Move a wish up or down; each comes after the one before it."""

    def change(one: ClassFrame) -> ClassFrame:
        unit = list(one.unit)
        place = next((n for n, wish in enumerate(unit) if wish.id == wish_id), None)
        if place is None or not 0 <= place + by < len(unit):
            return one
        unit.insert(place + by, unit.pop(place))
        return replace(one, unit=in_order(unit))

    return change


def with_wish(wish: Wish) -> Change:
    """Add a wish after the last one; it is numbered where its name is taken."""

    def change(one: ClassFrame) -> ClassFrame:
        taken = {other.id for other in one.unit}
        names = (wish.id, *(f"{wish.id}-{n}" for n in range(2, len(taken) + 3)))
        own = next(name for name in names if name not in taken)
        return replace(one, unit=in_order([*one.unit, replace(wish, id=own)]))

    return change


def in_order(unit: list[Wish]) -> tuple[Wish, ...]:
    """Let each wish come after the one before it."""
    before = [(), *((wish.id,) for wish in unit)]
    return tuple(replace(wish, after=after) for wish, after in zip(unit, before, strict=False))


def cancelled(at: datetime, *, is_held: bool) -> Change:
    """Let a lesson be held after all, or not."""

    def change(one: ClassFrame) -> ClassFrame:
        others = tuple(other for other in one.cancelled if other != at)
        return replace(one, cancelled=others if is_held else (*others, at))

    return change


def _wishes(change: Callable[[Wish], Wish]) -> Change:
    return lambda one: replace(one, unit=tuple(change(wish) for wish in one.unit))


def _free_days(calendar: CalendarRow) -> tuple[tuple[date, date], ...]:
    return tuple(
        (date.fromisoformat(str(one["first"])), date.fromisoformat(str(one["last"])))
        for one in calendar.holidays
    )


_LARGEST_RACK = 1000
