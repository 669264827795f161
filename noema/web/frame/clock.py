"""Days and times as the school of whoever asks counts them."""

from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

from babel.dates import format_date, format_datetime
from flask_login import current_user

from noema.web.language.catalogues import locale_of_page


def here(moment: datetime) -> datetime:
    """Give a moment in the school's time zone."""
    return moment.astimezone(ZoneInfo(current_user.time_zone))


def today() -> date:
    """Give the day it is at the school."""
    return here(datetime.now(UTC)).date()


def day(moment: date) -> str:
    """Write a day, such as 5 October 2026."""
    return str(format_date(moment, "d MMMM y", locale=locale_of_page()))


def day_of_year(moment: date) -> str:
    """Write a day of this year, such as 5 October."""
    return str(format_date(moment, "d MMMM", locale=locale_of_page()))


def short_day(moment: date) -> str:
    """Write the same shortly, such as 5 Oct."""
    return str(format_date(moment, "d MMM", locale=locale_of_page()))


def lesson_address(at: datetime) -> str:
    """Give a lesson's time as it stands in an address."""
    return f"{at:%Y-%m-%dT%H%M}"


def moment(when: datetime) -> str:
    """Write a day and a time, such as Monday, 5 October, 09:12."""
    return str(format_datetime(when, "EEEE, d MMMM, HH:mm", locale=locale_of_page()))


def short_moment(moment: datetime) -> str:
    """Write the same shortly, such as 5 Oct 09:12."""
    return str(format_datetime(moment, "d MMM HH:mm", locale=locale_of_page()))
