"""A lesson on one page, on screen and on paper."""

from dataclasses import dataclass

from flask import Blueprint, Response, render_template

from noema.actions.change_unit import frame_of_class, workshop_of
from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.core.planning.kept import as_kept
from noema.core.planning.lesson_sheet import LessonSheet, lesson_sheet
from noema.core.planning.timeline import PlannedLesson
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.formats.lesson_pdf import lesson_pdf
from noema.store.classes import ClassRow, class_of_school
from noema.store.units import unit_of_class
from noema.web.frame.clock import day
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

lesson = Blueprint("lesson", __name__)


@dataclass(frozen=True, kw_only=True)
class LessonPage:
    """A lesson, with those before and after it."""

    frame: Frame
    row: ClassRow
    when: str
    sheet: LessonSheet
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
    shop = workshop_of(db(), me().school_id)
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
