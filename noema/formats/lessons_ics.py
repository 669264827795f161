"""Planned lessons as iCalendar (RFC 5545), with alarms for sheets on the rack."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from icalendar import Alarm, Calendar, Event

from noema.core.language import gettext
from noema.core.planning.class_plan import ClassPlan, RackTime
from noema.core.planning.timeline import PlannedLesson


@dataclass(frozen=True, kw_only=True)
class ClassLessons:
    """A class's planned lessons."""

    name: str
    plan: ClassPlan
    titles: Mapping[str, str]  # of exercises, by wish


def lessons_calendar(
    name: str,
    classes: Iterable[ClassLessons],
    holidays: Iterable[tuple[date, date, str]],
    now: datetime,
) -> bytes:
    """Give a calendar: an event for each lesson, one for each time a rack is cleared, holidays.

    Times are written in UTC, so that no reader needs to know the school's zone. Holidays are their
    first and last days and their names.
    """
    calendar = Calendar()
    calendar.add("prodid", "-//Noema//Lessons//EN")
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", name)
    for first, last, words in holidays:
        calendar.add_component(_holiday(first, last, words, now))
    for one in classes:
        for lesson in one.plan.lessons:
            calendar.add_component(_lesson(one.name, one.plan.class_id, lesson, one.titles, now))
        for time in one.plan.rack:
            calendar.add_component(_rack(one.name, time, now))
    return bytes(calendar.to_ical())


def _holiday(first: date, last: date, words: str, now: datetime) -> Event:
    event = Event()
    event.add("uid", f"holiday-{first:%Y%m%d}-{last:%Y%m%d}@noema")
    event.add("dtstamp", now.astimezone(UTC))
    event.add("dtstart", first)
    event.add("dtend", last + timedelta(days=1))
    event.add("summary", words or gettext("Holiday"))
    event.add("transp", "TRANSPARENT")
    return event


def _rack(name: str, time: RackTime, now: datetime) -> Event:
    ready = Event()
    ready.add("uid", f"rack-{time.class_id}-{time.wish}-{time.begins:%Y%m%dT%H%M}@noema")
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
    return ready


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
