"""A class's lessons under a private address, which calendars ask for by themselves."""

from datetime import UTC, datetime

from flask import Blueprint, Response, redirect, render_template, url_for
from werkzeug.wrappers import Response as AnyResponse

from noema.actions.change_unit import frame_of_class
from noema.actions.give_feed import give_feed, school_and_class_of_feed, take_feed_back
from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.core.planning.kept import as_kept
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.formats.lessons_ics import lessons_calendar
from noema.store.classes import class_of_school
from noema.store.units import unit_of_class
from noema.web.frame.request import address_of, db, me
from noema.web.unit.page import unit_page

feed = Blueprint("feed", __name__)


@feed.get("/calendars/<word>.ics")
def calendar(word: str) -> Response:
    """Give the lessons to whoever knows the address."""
    school_id, class_id = school_and_class_of_feed(db(), word)
    return lessons_of(school_id, class_id)


@feed.get("/classes/<int:class_id>/lessons.ics")
def file(class_id: int) -> Response:
    """Give the lessons as a file."""
    return lessons_of(me().school_id, class_id)


@feed.post("/classes/<int:class_id>/unit/feed")
def give(class_id: int) -> str:
    """Make a private address; it is shown this once."""
    word = give_feed(db(), me().school_id, class_id)
    address = address_of(url_for("feed.calendar", word=word))
    return render_template("unit/unit.html", page=unit_page(class_id, feed=address))


@feed.post("/classes/<int:class_id>/unit/feed/end")
def end(class_id: int) -> AnyResponse:
    """End the private address."""
    take_feed_back(db(), me().school_id, class_id)
    return redirect(url_for("unit.of_class", class_id=class_id), 303)


def lessons_of(school_id: int, class_id: int) -> Response:
    """Give a class's lessons as iCalendar."""
    row, kept = class_of_school(db(), school_id, class_id), unit_of_class(db(), class_id)
    if kept is None or kept.plan is None:
        raise NotFound(gettext("Nothing is planned for this class yet: give it lessons first."))
    plan = kept_plan_from_json(kept.plan)
    found = as_kept(frame_of_class(db(), school_id, class_id), plan)
    titles = {wish: work.title for wish, work in plan.works.items()}
    data = lessons_calendar(row.name, found, titles, datetime.now(UTC))
    named = {"Content-Disposition": 'attachment; filename="lessons.ics"'}
    return Response(data, mimetype="text/calendar", headers=named)
