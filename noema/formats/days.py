"""Days and times written as a language writes them (Unicode CLDR), by Babel."""

from datetime import date, datetime

from babel.dates import format_date, format_skeleton

from noema.core.language import ENGLISH, LANGUAGES, current_language

_BRITISH = "en_GB"  # a day stands before its month


def day(moment: date) -> str:
    """Write a day, such as 5 October 2026."""
    return _written(moment, "yMMMMd")


def day_of_year(moment: date) -> str:
    """Write a day of this year, such as 5 October."""
    return _written(moment, "MMMMd")


def short_day(moment: date) -> str:
    """Write the same shortly, such as 5 Oct."""
    return _written(moment, "MMMd")


def weekday(moment: date) -> str:
    """Name a day of the week, such as Monday."""
    return str(format_date(moment, "EEEE", locale=_locale()))


def clock_time(moment: datetime) -> str:
    """Write a time of day, such as 09:12."""
    return f"{moment:%H:%M}"


def _written(moment: date, skeleton: str) -> str:
    return str(format_skeleton(skeleton, moment, locale=_locale()))


def _locale() -> str:
    spoken = current_language()
    return spoken if spoken in LANGUAGES and spoken != ENGLISH else _BRITISH
