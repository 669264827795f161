"""Days and times as the school of whoever asks counts them."""

from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

from flask_login import current_user

from noema.formats.days import clock_time, day_of_year, short_day, weekday


def here(moment: datetime) -> datetime:
    """Give a moment in the school's time zone."""
    return moment.astimezone(ZoneInfo(current_user.time_zone))


def today() -> date:
    """Give the day it is at the school."""
    return here(datetime.now(UTC)).date()


def lesson_address(at: datetime) -> str:
    """Give a lesson's time as it stands in an address."""
    return f"{at:%Y-%m-%dT%H%M}"


def moment(when: datetime) -> str:
    """Write a day and a time, such as Monday, 5 October, 09:12."""
    return f"{weekday(when)}, {day_of_year(when)}, {clock_time(when)}"


def short_moment(moment: datetime) -> str:
    """Write the same shortly, such as 5 Oct 09:12."""
    return f"{short_day(moment)} {clock_time(moment)}"
