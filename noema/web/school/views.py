"""What is true of the whole school: its time zone, its days and its drying rack."""

from dataclasses import dataclass
from datetime import UTC, datetime

from flask import Blueprint, redirect, render_template, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions import change_unit as actions
from noema.actions.school_days import calendar_of_text, holidays_text
from noema.actions.set_time_zone import set_time_zone, time_zones
from noema.core.errors import Refused
from noema.store.units import CalendarRow, calendar_of_school
from noema.web.frame.clock import here
from noema.web.frame.forms import Exactly, TextLine, Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me

school = Blueprint("school", __name__)


@dataclass(frozen=True, kw_only=True)
class SchoolPage:
    """The school and the time there."""

    frame: Frame
    name: str
    time_zone: str
    zones: tuple[str, ...]
    now: datetime
    calendar: CalendarRow | None
    holidays: str  # a line each
    sentence: str = ""


class TimeZoneForm(Form):
    """The time zone."""

    time_zone = TextLine()


class DaysForm(Form):
    """The days the school plans in."""

    begins = TextLine()
    ends = TextLine()
    holidays = Exactly()
    rack = Whole()


@school.get("/school")
def of_school() -> str:
    """Show the school's time zone and days."""
    return render_template("school/school.html", page=_page())


@school.post("/school/days")
def keep_days() -> Response | tuple[str, int]:
    """Choose the days the school plans in; every unit is planned anew."""
    given = read_form(DaysForm)
    try:
        calendar = calendar_of_text(
            given.begins.data, given.ends.data, given.holidays.data, given.rack.data
        )
        actions.keep_days(db(), me().school_id, calendar)
    except Refused as refusal:
        page = _page(str(refusal))
        return render_template("school/school.html", page=page), status_of(refusal)
    return redirect(url_for("school.of_school"), 303)


def _page(sentence: str = "") -> SchoolPage:
    calendar = calendar_of_school(db(), me().school_id)
    return SchoolPage(
        frame=frame(Stage.PLAN),
        name=me().school_name,
        time_zone=me().time_zone,
        zones=time_zones(),
        now=here(datetime.now(UTC)),
        calendar=calendar,
        holidays="" if calendar is None else holidays_text(calendar),
        sentence=sentence,
    )


@school.post("/school")
def keep() -> Response:
    """Choose the school's time zone."""
    set_time_zone(db(), me().school_id, read_form(TimeZoneForm).time_zone.data)
    return redirect(url_for("school.of_school"), 303)
