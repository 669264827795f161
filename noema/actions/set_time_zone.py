"""A school says in which time zone it is."""

from functools import cache
from zoneinfo import available_timezones

from sqlalchemy.orm import Session

from noema.core.errors import Refused
from noema.core.language import gettext
from noema.store.people import keep_time_zone


@cache
def time_zones() -> tuple[str, ...]:
    """Give the names in the IANA time zone database, in order; many files are looked into."""
    return tuple(sorted(available_timezones()))


def checked_time_zone(name: str) -> str:
    """Give a time zone's name without blanks round it; refuses what is none."""
    if name.strip() not in time_zones():
        raise Refused(
            gettext("“%(name)s” is no time zone: give one such as Europe/London.", name=name)
        )
    return name.strip()


def set_time_zone(session: Session, school_id: int, name: str) -> None:
    """Show a school's days and times in a time zone."""
    keep_time_zone(session, school_id, checked_time_zone(name))
