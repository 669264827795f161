"""A school says in which time zone it is."""

from zoneinfo import available_timezones

from sqlalchemy.orm import Session

from noema.core.errors import Refused
from noema.store.people import keep_time_zone


def set_time_zone(session: Session, school_id: int, name: str) -> None:
    """Show a school's days and times in a zone of the IANA time zone database."""
    if name not in available_timezones():
        raise Refused(f"“{name}” is no time zone: choose one from the list, as Europe/London.")
    keep_time_zone(session, school_id, name)
