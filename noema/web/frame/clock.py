"""Days and times as the school of whoever asks counts them."""

from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

from flask_login import current_user


def here(moment: datetime) -> datetime:
    """Give a moment in the school's time zone."""
    return moment.astimezone(ZoneInfo(current_user.time_zone))


def today() -> date:
    """Give the day it is at the school."""
    return here(datetime.now(UTC)).date()
