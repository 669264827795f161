"""A lesson on one page, on screen and on paper."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, datetime

from flask import Blueprint, Response, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions.lesson_facts import lesson_facts, lesson_key
from noema.actions.say_how_it_went import say_how_it_went
from noema.actions.say_paint_used import say_paint_used
from noema.core.errors import Refused
from noema.core.language import gettext, ngettext
from noema.core.planning.class_plan import ClassPlan
from noema.core.planning.lesson_sheet import LessonSheet, PaintOfLesson, lesson_sheet
from noema.core.planning.register import RegisterMark
from noema.core.planning.timeline import PlannedLesson
from noema.formats.days import day
from noema.formats.lesson_pdf import lesson_pdf
from noema.store.classes import ClassRow
from noema.store.cupboard import lesson_paint_of_class
from noema.store.lessons_went import went_of_class
from noema.web.frame.clock import lesson_address
from noema.web.frame.forms import Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.unit.finding import find_lesson
from noema.web.unit.register import RegisterLine, register_of

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
    register: tuple[RegisterLine, ...]
    marks: tuple[RegisterMark, ...]
    paints: tuple[PaintOfLesson, ...]  # each once
    used: Mapping[tuple[str, str], str]  # ml, by tube and medium, where somebody said
    before: str  # as it stands in an address; empty for the first
    after: str


@lesson.get("/classes/<int:class_id>/lessons/<at>")
def of_class(class_id: int, at: str) -> str:
    """Show a lesson."""
    row, plan, place = find_lesson(class_id, at)
    lessons = plan.lessons
    sheet = _sheet(row, plan, place)
    page = LessonPage(
        frame=frame(Stage.PLAN),
        row=row,
        when=_when(lessons[place]),
        sheet=sheet,
        register=register_of(class_id, lessons[place]),
        marks=tuple(RegisterMark),
        paints=_paints(sheet),
        used=_used(class_id, lessons[place]),
        named=at,
        has_begun=lessons[place].lesson.at <= datetime.now(UTC),
        said=_said(row.id, lessons[place]),
        before=lesson_address(lessons[place - 1].lesson.at) if place else "",
        after=lesson_address(lessons[place + 1].lesson.at) if place + 1 < len(lessons) else "",
    )
    return render_template("unit/lesson.html", page=page)


@lesson.get("/classes/<int:class_id>/lessons/<at>.pdf")
def on_paper(class_id: int, at: str) -> Response:
    """Give a lesson as a page of paper."""
    row, plan, place = find_lesson(class_id, at)
    data = lesson_pdf(_sheet(row, plan, place), row.name, _when(plan.lessons[place]))
    return Response(data, mimetype="application/pdf")


@lesson.post("/classes/<int:class_id>/lessons/<at>/went")
def went(class_id: int, at: str) -> AnyResponse:
    """Say how a lesson went."""
    given = read_form(WentForm)
    _, plan, place = find_lesson(class_id, at)
    say_how_it_went(
        db(),
        me().school_id,
        class_id,
        plan.lessons[place].lesson.at.replace(tzinfo=None),
        over_min=given.over.data or 0,
        unfinished=given.unfinished.data or 0,
    )
    return redirect(url_for("lesson.of_class", class_id=class_id, at=at), 303)


def _said(class_id: int, one: PlannedLesson) -> str:
    """Say what was said of a lesson; empty where nothing was."""
    at = lesson_key(one)
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


@lesson.post("/classes/<int:class_id>/lessons/<at>/paint")
def paint_used(class_id: int, at: str) -> AnyResponse:
    """Say how much paint a lesson really used."""
    _, plan, place = find_lesson(class_id, at)
    used = {}
    for name, given in request.form.items():
        tube, _, medium = name.removeprefix(_USED).rpartition(" ")
        if name.startswith(_USED) and given.strip():
            used[tube, medium] = _ml(given)
    lesson_at = plan.lessons[place].lesson.at.replace(tzinfo=None)
    say_paint_used(db(), me().school_id, class_id, lesson_at, used)
    return redirect(url_for("lesson.of_class", class_id=class_id, at=at), 303)


_USED = "used "


def _ml(given: str) -> float:
    try:
        return float(given.strip().replace(",", "."))
    except ValueError as wrong:
        raise Refused(
            gettext("“%(given)s” is no amount: write millilitres such as 40.", given=given[:20])
        ) from wrong


def _paints(sheet: LessonSheet) -> tuple[PaintOfLesson, ...]:
    known = {(need.tube, need.medium): need for one in sheet.shown for need in one.paint}
    return tuple(known.values())


def _used(class_id: int, one: PlannedLesson) -> dict[tuple[str, str], str]:
    at = lesson_key(one)
    return {
        (row.tube, row.medium): f"{row.used_ml:g}"
        for row in lesson_paint_of_class(db(), class_id)
        if row.lesson == at and row.used_ml is not None
    }


def _sheet(row: ClassRow, plan: ClassPlan, place: int) -> LessonSheet:
    facts = lesson_facts(db(), me().school_id, row.id, plan, place)
    return lesson_sheet(plan.lessons[place], facts)


def _when(one: PlannedLesson) -> str:
    when, clock = day(one.lesson.at.date()), f"{one.lesson.at:%H:%M}"
    return gettext(
        "%(day)s, %(time)s, %(minutes)s minutes",
        day=when,
        time=clock,
        minutes=one.lesson.minutes,
    )
