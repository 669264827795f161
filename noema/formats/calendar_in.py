"""Events of an iCalendar file (RFC 5545) between two days, repeated ones laid out.

Times are given at a school's clock. Of rules only those by the day or longer are followed: nobody
has a lesson every minute.
"""

from collections.abc import Iterator
from dataclasses import dataclass
from datetime import date, datetime, time, timedelta
from itertools import islice
from typing import Any
from zoneinfo import ZoneInfo

from dateutil.rrule import rrule, rrulestr
from icalendar import Calendar

from noema.core.errors import BadFile
from noema.core.language import gettext

MOST_BYTES = 1024 * 1024
_MOST_EVENTS, _MOST_TIMES, _OLDEST_YEARS = 5000, 20_000, 10
_FREQUENCIES = ("DAILY", "WEEKLY", "MONTHLY", "YEARLY")


@dataclass(frozen=True, kw_only=True)
class FoundEvent:
    """Something in a calendar."""

    name: str
    at: datetime  # at the school's clock
    ends: datetime
    is_whole_day: bool  # then it ends at the beginning of the day after its last

    @property
    def minutes(self) -> int:
        """How long it is."""
        return round((self.ends - self.at).total_seconds() / 60)


def events_from_ics(
    content: bytes, zone: ZoneInfo, begins: date, ends: date
) -> tuple[FoundEvent, ...]:
    """Read what lies between two days, both held, in time; refuses what is no calendar."""
    if len(content) > MOST_BYTES:
        raise BadFile(gettext("The calendar is too large: give one of at most 1 MB."))
    try:
        events = Calendar.from_ical(content).walk("VEVENT")
        changed = {_changed(one, zone) for one in events if "RECURRENCE-ID" in one}
        found = [
            event
            for one in events[:_MOST_EVENTS]
            for event in _times(one, zone, begins, ends, changed)
        ]
    except (ValueError, KeyError, IndexError, TypeError, AttributeError, OverflowError) as wrong:
        raise BadFile(
            gettext("This is no calendar that can be read: give an iCalendar file (.ics).")
        ) from wrong
    return tuple(sorted(found[:_MOST_TIMES], key=lambda one: (one.at, one.name)))


_Changed = tuple[str, datetime]


def _changed(event: Any, zone: ZoneInfo) -> _Changed:
    """Say which time of which event another stands for."""
    return (str(event.get("UID")), _local(event["RECURRENCE-ID"].dt, zone))


def _times(
    event: Any, zone: ZoneInfo, begins: date, ends: date, changed: set[_Changed]
) -> Iterator[FoundEvent]:
    first = event["DTSTART"].dt
    start, whole_day = _local(first, zone), not isinstance(first, datetime)
    long = _length(event, start, zone, whole_day)
    low, high = datetime.combine(begins, time()), datetime.combine(ends, time.max)
    if str(event.get("STATUS")) == "CANCELLED" or start.year < begins.year - _OLDEST_YEARS:
        return
    own = "RECURRENCE-ID" in event
    for at in (start,) if own else _repeated(event, start, zone, high):
        gone = not own and (str(event.get("UID")), at) in changed
        if low - long < at <= high and not gone:
            yield FoundEvent(
                name=str(event.get("SUMMARY", "")), at=at, ends=at + long, is_whole_day=whole_day
            )


def _repeated(event: Any, start: datetime, zone: ZoneInfo, high: datetime) -> Iterator[datetime]:
    """Give every time an event begins, up to a day, at the school's clock."""
    found = {start}
    rule = event.get("RRULE")
    if rule is not None and rule.get("FREQ", [""])[0] in _FREQUENCIES:
        until = min([high, *(_local(one, zone) for one in rule.pop("UNTIL", []))])
        count = min(_MOST_TIMES, *rule.pop("COUNT", [_MOST_TIMES]))
        laid_out = rrulestr(rule.to_ical().decode(), dtstart=start)
        if isinstance(laid_out, rrule):
            found |= set(islice(laid_out.replace(until=until), count))
    found |= set(_listed(event, "RDATE", zone))
    yield from sorted(found - set(_listed(event, "EXDATE", zone)))


def _listed(event: Any, name: str, zone: ZoneInfo) -> Iterator[datetime]:
    given = event.get(name, [])
    for some in given if isinstance(given, list) else [given]:
        for one in some.dts:
            yield _local(one.dt, zone)


def _length(event: Any, start: datetime, zone: ZoneInfo, whole_day: bool) -> timedelta:
    if "DTEND" in event:
        return _local(event["DTEND"].dt, zone) - start
    if "DURATION" in event:
        long: timedelta = event["DURATION"].dt
        return long
    return timedelta(days=1) if whole_day else timedelta()


def _local(moment: date, zone: ZoneInfo) -> datetime:
    """Give a day's beginning, or a time at the school's clock; one without a zone is there."""
    if not isinstance(moment, datetime):
        return datetime.combine(moment, time())
    return moment if moment.tzinfo is None else moment.astimezone(zone).replace(tzinfo=None)
