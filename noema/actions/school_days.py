"""The days a school plans in, as somebody types them."""

from datetime import date

from noema.core.errors import BadFrame
from noema.core.language import gettext
from noema.core.planning.frame import USUAL_RACK
from noema.store.base import Json
from noema.store.units import CalendarRow

_MOST_HOLIDAYS, _MOST_NAME = 60, 60


def calendar_of_text(begins: str, ends: str, holidays: str, rack: int | None) -> CalendarRow:
    """Read a school's days; refuses what are none."""
    lines = [line.split(maxsplit=2) for line in holidays.splitlines() if line.strip()]
    if len(lines) > _MOST_HOLIDAYS:
        raise BadFrame(gettext("Write at most %(most)s holidays.", most=_MOST_HOLIDAYS))
    return CalendarRow(
        begins_on=day_of(begins),
        ends_on=day_of(ends),
        holidays=tuple(_holiday(words) for words in lines),
        rack=USUAL_RACK if rack is None else rack,
    )


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
