"""What is true of the whole school: its time zone, its days, periods and rooms."""

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.change_unit import keep_days as keep_school_days
from noema.actions.choose_language import choose_school_language
from noema.actions.school_days import TypedDays, calendar_of_text, take_holidays
from noema.actions.set_time_zone import set_time_zone
from noema.core.errors import Refused
from noema.formats.calendar_in import MOST_BYTES
from noema.web.frame.forms import Exactly, Many, SentFile, TextLine, read_form
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me
from noema.web.school.page import school_page

school = Blueprint("school", __name__)

_IN_A_ROOM = ("rack", "sinks", "brushes", "palettes", "jars")


class TimeZoneForm(Form):
    """The time zone."""

    time_zone = TextLine()


class SchoolLanguageForm(Form):
    """The language the school is spoken to in."""

    language = TextLine()


class DaysForm(Form):
    """The days the school plans in, its periods, and its rooms in as many fields as it has."""

    begins = TextLine()
    ends = TextLine()
    holidays = Exactly()
    periods = Exactly()
    room = Many()


class HolidaysForm(Form):
    """A calendar with holidays."""

    calendar = SentFile(MOST_BYTES)


@school.get("/school")
def of_school() -> str:
    """Show the school's time zone and days."""
    return render_template("school/school.html", page=school_page())


@school.get("/school/planned")
def planned() -> str:
    """Say how far planning is; asked for until it is done."""
    return render_template("school/planned.html", page=school_page())


@school.post("/school/days")
def keep_days() -> Response | tuple[str, int]:
    """Choose the days the school plans in; every unit is planned anew."""
    given = read_form(DaysForm)
    try:
        typed = TypedDays(
            begins=given.begins.data,
            ends=given.ends.data,
            holidays=given.holidays.data,
            periods=given.periods.data,
            rooms=[
                {"name": name, **dict(zip(_IN_A_ROOM, counts, strict=True))}
                for name, *counts in zip(
                    given.room.data, *map(request.form.getlist, _IN_A_ROOM), strict=False
                )
            ],
        )
        keep_school_days(db(), me().school_id, calendar_of_text(typed))
    except Refused as refusal:
        return _refused(refusal)
    return redirect(url_for("school.of_school"), 303)


@school.post("/school/holidays.ics")
def holidays_in() -> Response | tuple[str, int]:
    """Take holidays from a calendar."""
    try:
        take_holidays(db(), me().school_id, read_form(HolidaysForm).calendar.bytes)
    except Refused as refusal:
        return _refused(refusal)
    return redirect(url_for("school.of_school"), 303)


@school.post("/school")
def keep() -> Response:
    """Choose the school's time zone."""
    set_time_zone(db(), me().school_id, read_form(TimeZoneForm).time_zone.data)
    return redirect(url_for("school.of_school"), 303)


@school.post("/school/language")
def keep_language() -> Response:
    """Choose the school's language."""
    choose_school_language(db(), me().school_id, read_form(SchoolLanguageForm).language.data)
    return redirect(url_for("school.of_school"), 303)


def _refused(refusal: Refused) -> tuple[str, int]:
    return render_template("school/school.html", page=school_page(str(refusal))), status_of(refusal)
