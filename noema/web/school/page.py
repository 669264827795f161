"""What the page of the school shows."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, datetime

from noema.actions.frames import periods_of, rooms_of
from noema.actions.school_days import holidays_text
from noema.actions.set_time_zone import time_zones
from noema.core.language import LANGUAGES, Language
from noema.core.planning.frame import Room
from noema.core.planning.timetable import periods_text
from noema.store.feeds import has_feed
from noema.store.units import CalendarRow, calendar_of_school, units_being_planned
from noema.web.frame.clock import here
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me


@dataclass(frozen=True, kw_only=True)
class SchoolPage:
    """The school and the time there."""

    frame: Frame
    name: str
    time_zone: str
    zones: tuple[str, ...]
    language: str  # its code
    languages: Mapping[str, Language]
    now: datetime
    calendar: CalendarRow | None
    holidays: str  # a line each
    periods: str  # a line each
    rooms: tuple[Room, ...]
    waits: int  # units being planned
    units: int
    has_feed: bool
    feed: str = ""  # a private address just made, shown this once
    sentence: str = ""


def school_page(sentence: str = "", feed: str = "") -> SchoolPage:
    """Collect what is true of the whole school."""
    calendar = calendar_of_school(db(), me().school_id)
    waits, units = units_being_planned(db(), me().school_id)
    return SchoolPage(
        frame=frame(Stage.PLAN),
        name=me().school_name,
        time_zone=me().time_zone,
        zones=time_zones(),
        language=me().school_language,
        languages=LANGUAGES,
        now=here(datetime.now(UTC)),
        calendar=calendar,
        holidays="" if calendar is None else holidays_text(calendar),
        periods="" if calendar is None else periods_text(periods_of(calendar)),
        rooms=rooms_of(calendar),
        waits=waits,
        units=units,
        has_feed=has_feed(db(), me().id),
        feed=feed,
        sentence=sentence,
    )
