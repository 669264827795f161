"""Due dates as an iCalendar file (RFC 5545): an all-day event for each exercise."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from icalendar import Calendar, Event


@dataclass(frozen=True, kw_only=True)
class Due:
    """An exercise and the day it is due."""

    uid: str  # the same for the same exercise, so that a calendar changes it in place
    title: str
    words: str
    day: date


def calendar_of(name: str, dues: Sequence[Due], now: datetime) -> bytes:
    """Give the calendar; `now` is UTC."""
    calendar = Calendar()
    calendar.add("prodid", "-//Noema//Due dates//EN")
    calendar.add("version", "2.0")
    calendar.add("method", "PUBLISH")
    calendar.add("x-wr-calname", name)
    for due in dues:
        event = Event()
        event.add("uid", due.uid)
        event.add("dtstamp", now)
        event.add("dtstart", due.day)
        event.add("dtend", due.day + timedelta(days=1))
        event.add("summary", due.title)
        event.add("description", due.words)
        event.add("transp", "TRANSPARENT")
        calendar.add_component(event)
    return bytes(calendar.to_ical())
