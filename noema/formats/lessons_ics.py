"""A class's planned lessons as iCalendar (RFC 5545), with alarms for sheets on the rack."""

from collections.abc import Mapping
from datetime import UTC, datetime, timedelta

from icalendar import Alarm, Calendar, Event

from noema.core.language import gettext
from noema.core.planning.class_plan import ClassPlan
from noema.core.planning.timeline import PlannedLesson


def lessons_calendar(name: str, plan: ClassPlan, titles: Mapping[str, str], now: datetime) -> bytes:
    """Give the calendar: an event for each lesson, one for each time the rack is cleared.

    Times are written in UTC, so that no reader needs to know the school's zone.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Noema//Lessons//EN")
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", name)
    for one in plan.lessons:
        calendar.add_component(_lesson(name, plan.class_id, one, titles, now))
    for time in plan.rack:
        ready = Event()
        ready.add("uid", f"rack-{plan.class_id}-{time.wish}-{time.begins:%Y%m%dT%H%M}@noema")
        ready.add("dtstamp", now.astimezone(UTC))
        ready.add("dtstart", time.ends.astimezone(UTC))
        ready.add("dtend", time.ends.astimezone(UTC) + timedelta(minutes=10))
        words = gettext("%(name)s: take sheets off the rack", name=name)
        ready.add("summary", words)
        ready.add("transp", "TRANSPARENT")
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", words)
        alarm.add("trigger", timedelta(0))
        ready.add_component(alarm)
        calendar.add_component(ready)
    return bytes(calendar.to_ical())


def _lesson(
    name: str, class_id: str, one: PlannedLesson, titles: Mapping[str, str], now: datetime
) -> Event:
    event = Event()
    at = one.lesson.at.astimezone(UTC)
    event.add("uid", f"lesson-{class_id}-{at:%Y%m%dT%H%M}@noema")
    event.add("dtstamp", now.astimezone(UTC))
    event.add("dtstart", at)
    event.add("dtend", one.lesson.ends.astimezone(UTC))
    done = ", ".join(titles.get(wish, wish) for wish in one.wishes)
    event.add("summary", f"{name}: {done}" if done else name)
    event.add(
        "description",
        "\n".join(
            f"{part.begins_min}: {gettext(part.doing.label)}"
            + ("" if part.wish is None else f", {titles.get(part.wish, part.wish)}")
            for part in one.parts
        ),
    )
    return event
