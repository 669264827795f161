"""What is true of the whole school: its time zone."""

from dataclasses import dataclass
from datetime import UTC, datetime

from flask import Blueprint, redirect, render_template, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.set_time_zone import set_time_zone, time_zones
from noema.web.frame.clock import here
from noema.web.frame.forms import TextLine, read_form
from noema.web.frame.page import Frame, Stage, frame
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


class TimeZoneForm(Form):
    """The time zone."""

    time_zone = TextLine()


@school.get("/school")
def of_school() -> str:
    """Show the school's time zone."""
    page = SchoolPage(
        frame=frame(Stage.PLAN),
        name=me().school_name,
        time_zone=me().time_zone,
        zones=time_zones(),
        now=here(datetime.now(UTC)),
    )
    return render_template("school/school.html", page=page)


@school.post("/school")
def keep() -> Response:
    """Choose the school's time zone."""
    set_time_zone(db(), me().school_id, read_form(TimeZoneForm).time_zone.data)
    return redirect(url_for("school.of_school"), 303)
