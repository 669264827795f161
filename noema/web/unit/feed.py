"""Lessons under a private address, which calendars ask for by themselves, and as files."""

from collections.abc import Collection
from datetime import UTC, date, datetime

from flask import Blueprint, Response, redirect, render_template, url_for
from werkzeug.wrappers import Response as AnyResponse

from noema.actions.frames import frames_of_school
from noema.actions.give_feed import (
    give_feed,
    give_feed_to_teacher,
    owner_of,
    take_feed_back,
    take_feed_from_teacher,
)
from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.core.planning.kept import as_kept
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.formats.lessons_ics import ClassLessons, lessons_calendar
from noema.store.classes import class_of_school
from noema.store.units import calendar_of_school
from noema.web.frame.request import address_of, db, me
from noema.web.school.page import school_page
from noema.web.unit.page import unit_page

feed = Blueprint("feed", __name__)


@feed.get("/calendars/<word>.ics")
def calendar(word: str) -> Response:
    """Give the lessons to whoever knows the address."""
    owner = owner_of(db(), word)
    return _lessons(owner.school_id, owner.class_ids, is_own=len(owner.class_ids or ()) == 1)


@feed.get("/classes/<int:class_id>/lessons.ics")
def file(class_id: int) -> Response:
    """Give a class's lessons as a file."""
    class_of_school(db(), me().school_id, class_id)
    return _lessons(me().school_id, (class_id,), is_own=True)


@feed.get("/school/lessons.ics")
def of_school() -> Response:
    """Give the lessons of all classes and the holidays as a file."""
    return _lessons(me().school_id, None, is_own=False)


@feed.post("/classes/<int:class_id>/unit/feed")
def give(class_id: int) -> str:
    """Make a private address; it is shown this once."""
    word = give_feed(db(), me().school_id, class_id)
    return render_template("unit/unit.html", page=unit_page(class_id, feed=_address(word)))


@feed.post("/classes/<int:class_id>/unit/feed/end")
def end(class_id: int) -> AnyResponse:
    """End the private address."""
    take_feed_back(db(), me().school_id, class_id)
    return redirect(url_for("unit.of_class", class_id=class_id), 303)


@feed.post("/school/feed")
def give_mine() -> str:
    """Make a private address for all classes; it is shown this once."""
    word = give_feed_to_teacher(db(), me().id)
    return render_template("school/school.html", page=school_page(feed=_address(word)))


@feed.post("/school/feed/end")
def end_mine() -> AnyResponse:
    """End the private address for all classes."""
    take_feed_from_teacher(db(), me().id)
    return redirect(url_for("school.of_school"), 303)


def _address(word: str) -> str:
    return address_of(url_for("feed.calendar", word=word))


def _lessons(school_id: int, class_ids: Collection[int] | None, *, is_own: bool) -> Response:
    """Give the lessons of some classes, or of all that go on."""
    found = [
        ClassLessons(
            name=row.name,
            plan=as_kept(frame, plan := kept_plan_from_json(kept.plan)),
            titles={wish: work.title for wish, work in plan.works.items()},
        )
        for row, kept, frame in frames_of_school(db(), school_id, class_ids)
        if kept.plan is not None
    ]
    if not found:
        raise NotFound(gettext("Nothing is planned for this class yet: give it lessons first."))
    name = found[0].name if is_own else gettext("Lessons")
    data = lessons_calendar(name, found, _holidays(school_id), datetime.now(UTC))
    named = {"Content-Disposition": 'attachment; filename="lessons.ics"'}
    return Response(data, mimetype="text/calendar", headers=named)


def _holidays(school_id: int) -> list[tuple[date, date, str]]:
    kept = calendar_of_school(db(), school_id)
    return [
        (
            date.fromisoformat(str(one["first"])),
            date.fromisoformat(str(one["last"])),
            str(one.get("name", "")),
        )
        for one in (kept.holidays if kept is not None else ())
    ]
