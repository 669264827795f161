"""The days a school plans in, as somebody types them."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from zoneinfo import ZoneInfo

from sqlalchemy.orm import Session

from noema.actions.change_unit import keep_days
from noema.core.errors import BadFrame, Refused
from noema.core.language import gettext
from noema.core.planning.frame import Room
from noema.core.planning.timetable import periods_of
from noema.formats.calendar_in import events_from_ics
from noema.formats.frame_json import room_to_json
from noema.store.base import Json
from noema.store.people import time_zone_of
from noema.store.units import CalendarRow, calendar_of_school

_MOST_HOLIDAYS, _MOST_NAME, _MOST_ROOMS, _MOST_DIGITS = 60, 60, 12, 5


@dataclass(frozen=True, kw_only=True)
class TypedDays:
    """A school's days, periods and rooms as somebody typed them."""

    begins: str
    ends: str
    holidays: str = ""
    periods: str = ""
    rooms: Sequence[Mapping[str, str]] = ()  # each the counts of a room by their names in a frame


def calendar_of_text(typed: TypedDays) -> CalendarRow:
    """Read a school's days; refuses what are none."""
    lines = [line.split(maxsplit=2) for line in typed.holidays.splitlines() if line.strip()]
    if len(lines) > _MOST_HOLIDAYS or len(typed.rooms) > _MOST_ROOMS:
        raise BadFrame(
            gettext(
                "Write at most %(most)s holidays, and %(rooms)s rooms.",
                most=_MOST_HOLIDAYS,
                rooms=_MOST_ROOMS,
            )
        )
    rooms = [room for given in typed.rooms if (room := _room(given)) is not None]
    return CalendarRow(
        begins_on=day_of(typed.begins),
        ends_on=day_of(typed.ends),
        holidays=tuple(_holiday(words) for words in lines),
        rooms=tuple(room_to_json(room) for room in rooms),
        periods=tuple(
            {"name": one.name, "start": f"{one.start:%H:%M}", "minutes": one.minutes}
            for one in periods_of(typed.periods)
        ),
    )


def _room(given: Mapping[str, str]) -> Room | None:
    """Read a room; None where nothing was written of it."""
    counts = {name: _count(text) for name, text in given.items() if name != "name"}
    if not given["name"] and not any(counts.values()):
        return None
    usual = Room()
    return Room(
        name=given["name"].strip()[:_MOST_NAME],
        rack=counts["rack"] or usual.rack,
        sinks=counts["sinks"] or usual.sinks,
        brushes=counts["brushes"],
        palettes=counts["palettes"],
        jars=counts["jars"],
    )


def _count(text: str) -> int | None:
    if not text.strip():
        return None
    if not text.strip().isdecimal() or len(text) > _MOST_DIGITS:
        raise BadFrame(
            gettext("“%(given)s” is no whole number: write one such as 6.", given=text[:20])
        )
    return int(text)


def take_holidays(session: Session, school_id: int, content: bytes) -> None:
    """Take holidays from a calendar: what lasts whole days within the school's days."""
    kept = calendar_of_school(session, school_id)
    if kept is None:
        raise Refused(gettext("Keep the school’s days first: holidays are taken within them."))
    zone = ZoneInfo(time_zone_of(session, school_id))
    events = events_from_ics(content, zone, kept.begins_on, kept.ends_on)
    found = {
        (str(one["first"]), str(one["last"])): str(one.get("name", "")) for one in kept.holidays
    }
    whole = [one for one in events if one.is_whole_day]
    if not whole:
        raise BadFrame(gettext("The calendar has no whole days off within the school’s days."))
    for one in whole:
        last = one.ends.date() - timedelta(days=1)
        key = (one.at.date().isoformat(), max(last, one.at.date()).isoformat())
        found.setdefault(key, one.name[:_MOST_NAME])
    if len(found) > _MOST_HOLIDAYS:
        raise BadFrame(gettext("Write at most %(most)s holidays.", most=_MOST_HOLIDAYS))
    holidays: tuple[Json, ...] = tuple(
        {"first": first, "last": last, "name": name}
        for (first, last), name in sorted(found.items())
    )
    keep_days(session, school_id, replace(kept, holidays=holidays))


def holidays_text(calendar: CalendarRow) -> str:
    """Write holidays so that they can be read again."""
    return "\n".join(
        f"{one['first']} {one['last']} {one.get('name', '')}".rstrip() for one in calendar.holidays
    )


def _holiday(words: list[str]) -> Json:
    first = day_of(words[0])
    has_last = len(words) > 1 and words[1][:1].isdigit()
    last = day_of(words[1]) if has_last else first
    if last < first:
        raise BadFrame(
            gettext("The holiday from %(first)s ends before it begins.", first=first.isoformat())
        )
    name = " ".join(words[2 if has_last else 1 :])[:_MOST_NAME]
    return {"first": first.isoformat(), "last": last.isoformat(), "name": name}


def day_of(text: str) -> date:
    """Read a day; refuses what is none."""
    try:
        return date.fromisoformat(text.strip())
    except ValueError as wrong:
        raise BadFrame(
            gettext("“%(text)s” is no day: write one such as 2027-01-31.", text=text[:20])
        ) from wrong
