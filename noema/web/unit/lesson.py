"""A lesson on one page, on screen and on paper."""

from dataclasses import dataclass
from datetime import UTC, datetime

from flask import Blueprint, Response, redirect, render_template, url_for
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions.change_unit import frame_of_class, workshop_of
from noema.actions.say_how_it_went import say_how_it_went
from noema.core.errors import NotFound
from noema.core.language import gettext, ngettext
from noema.core.planning.kept import as_kept
from noema.core.planning.lesson_sheet import LessonSheet, lesson_sheet
from noema.core.planning.timeline import PlannedLesson
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.formats.lesson_pdf import lesson_pdf
from noema.formats.lessons_ics import lessons_calendar
from noema.store.classes import ClassRow, class_of_school
from noema.store.lessons_went import went_of_class
from noema.store.units import unit_of_class
from noema.web.frame.clock import day
from noema.web.frame.forms import Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

lesson = Blueprint("lesson", __name__)


class WentForm(Form):
    """How a lesson went."""

    over = Whole()
    unfinished = Whole()


@dataclass(frozen=True, kw_only=True)
class LessonPage:
    """A lesson, with those before and after it."""

    frame: Frame
    row: ClassRow
    when: str
    sheet: LessonSheet
    named: str  # as it stands in an address
    has_begun: bool  # so that it can be said how it went
    said: str  # how it went, as somebody said
    before: str  # as it stands in an address; empty for the first
    after: str


@lesson.get("/classes/<int:class_id>/lessons/<at>")
def of_class(class_id: int, at: str) -> str:
    """Show a lesson."""
    row, lessons, place = _found(class_id, at)
    page = LessonPage(
        frame=frame(Stage.PLAN),
        row=row,
        when=_when(lessons[place]),
        sheet=_sheet(row, lessons[place]),
        named=at,
        has_begun=lessons[place].lesson.at <= datetime.now(UTC),
        said=_said(row.id, lessons[place]),
        before=_named(lessons[place - 1]) if place else "",
        after=_named(lessons[place + 1]) if place + 1 < len(lessons) else "",
    )
    return render_template("unit/lesson.html", page=page)


@lesson.get("/classes/<int:class_id>/lessons/<at>.pdf")
def on_paper(class_id: int, at: str) -> Response:
    """Give a lesson as a page of paper."""
    row, lessons, place = _found(class_id, at)
    data = lesson_pdf(_sheet(row, lessons[place]), row.name, _when(lessons[place]))
    return Response(data, mimetype="application/pdf")


@lesson.get("/classes/<int:class_id>/lessons.ics")
def calendar(class_id: int) -> Response:
    """Give all lessons as a calendar file."""
    row = class_of_school(db(), me().school_id, class_id)
    kept = unit_of_class(db(), class_id)
    if kept is None or kept.plan is None:
        raise NotFound(gettext("Nothing is planned for this class yet: give it lessons first."))
    plan = kept_plan_from_json(kept.plan)
    found = as_kept(frame_of_class(db(), me().school_id, class_id), plan)
    titles = {wish: work.title for wish, work in plan.works.items()}
    data = lessons_calendar(row.name, found, titles, datetime.now(UTC))
    named = {"Content-Disposition": 'attachment; filename="lessons.ics"'}
    return Response(data, mimetype="text/calendar", headers=named)


@lesson.post("/classes/<int:class_id>/lessons/<at>/went")
def went(class_id: int, at: str) -> AnyResponse:
    """Say how a lesson went."""
    given = read_form(WentForm)
    _, lessons, place = _found(class_id, at)
    say_how_it_went(
        db(),
        me().school_id,
        class_id,
        lessons[place].lesson.at.replace(tzinfo=None),
        over_min=given.over.data or 0,
        unfinished=given.unfinished.data or 0,
    )
    return redirect(url_for("lesson.of_class", class_id=class_id, at=at), 303)


def _said(class_id: int, one: PlannedLesson) -> str:
    """Say what was said of a lesson; empty where nothing was."""
    at = one.lesson.at.replace(tzinfo=None).isoformat(timespec="minutes")
    rows = [r for some in went_of_class(db(), class_id).values() for r in some if r.lesson == at]
    if not rows:
        return ""
    over = round(sum(row.over_min for row in rows))
    share = max(row.unfinished for row in rows)
    if share:
        percent = round(100 * share)
        return gettext("%(percent)s in 100 sheets weren't finished.", percent=percent)
    if over > 0:
        return ngettext("It took %(count)s minute more.", "It took %(count)s minutes more.", over)
    if over < 0:
        return ngettext("It took %(count)s minute less.", "It took %(count)s minutes less.", -over)
    return gettext("It was done in time.")


def _found(class_id: int, at: str) -> tuple[ClassRow, tuple[PlannedLesson, ...], int]:
    row = class_of_school(db(), me().school_id, class_id)
    kept = unit_of_class(db(), class_id)
    if kept is not None and kept.plan is not None:
        school = frame_of_class(db(), me().school_id, class_id)
        lessons = as_kept(school, kept_plan_from_json(kept.plan)).lessons
        names = [_named(one) for one in lessons]
        if at in names:
            return row, lessons, names.index(at)
    raise NotFound(gettext("This class has no such lesson: choose one from its unit."))


def _sheet(row: ClassRow, planned: PlannedLesson) -> LessonSheet:
    school = frame_of_class(db(), me().school_id, row.id)
    wishes = {wish.id: wish for wish in school.classes[0].unit}
    shop = workshop_of(db(), me().school_id, row.id)
    asked = {name: shop.asked(wishes[name]) for name in planned.wishes}
    return lesson_sheet(planned, wishes, asked, row.students)


def _named(one: PlannedLesson) -> str:
    return f"{one.lesson.at:%Y-%m-%dT%H%M}"


def _when(one: PlannedLesson) -> str:
    when, clock = day(one.lesson.at.date()), f"{one.lesson.at:%H:%M}"
    return gettext(
        "%(day)s, %(time)s, %(minutes)s minutes",
        day=when,
        time=clock,
        minutes=one.lesson.minutes,
    )
