"""What is laid out for a lesson, ticked off on a phone."""

from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.lay_out import OfLesson, add_thing, leave_thing_out, tick_thing, usual_things
from noema.actions.lesson_facts import lesson_facts, lesson_key
from noema.core.errors import NotFound, Refused
from noema.core.language import gettext
from noema.core.planning.lay_out import Thing
from noema.core.planning.lesson_sheet import LessonSheet, lesson_sheet
from noema.formats.days import day
from noema.store.classes import ClassRow
from noema.web.frame.forms import Said, TextLine, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me
from noema.web.unit.finding import find_lesson

lay_out = Blueprint("lay_out", __name__)


@dataclass(frozen=True, kw_only=True)
class LayOutPage:
    """A lesson's list."""

    frame: Frame
    row: ClassRow
    when: str
    named: str  # as it stands in an address
    sheet: LessonSheet
    left_out: tuple[str, ...]  # names of things
    done: int
    sentence: str = ""

    @property
    def parts(self) -> tuple[tuple[str, tuple[Thing, ...]], ...]:
        """Give what lies once, and what lies on every table, each with its heading."""
        once = tuple(one for one in self.sheet.lay_out if not one.each_table)
        tables = tuple(one for one in self.sheet.lay_out if one.each_table)
        on_each = gettext("On each of %(count)s tables", count=self.sheet.tables)
        return tuple(
            (words, some) for words, some in ((gettext("Once"), once), (on_each, tables)) if some
        )


class ThingForm(Form):
    """A thing, and what becomes of it."""

    thing = TextLine()
    act = TextLine()
    always = Said("always", name="always")


@lay_out.get("/classes/<int:class_id>/lessons/<at>/lay-out")
def of_lesson(class_id: int, at: str) -> str:
    """Show the list."""
    return render_template("unit/lay_out.html", page=_page(class_id, at))


@lay_out.post("/classes/<int:class_id>/lessons/<at>/lay-out")
def change(class_id: int, at: str) -> Response | tuple[str, int]:
    """Tick a thing, take the tick back, add a line, or leave one out."""
    _, plan, place = find_lesson(class_id, at)
    given, school_id = read_form(ThingForm), me().school_id
    where = OfLesson(school_id=school_id, class_id=class_id, lesson=lesson_key(plan.lessons[place]))
    thing, always = given.thing.data, given.always.data
    try:
        if given.act.data in ("done", "not-done"):
            tick_thing(db(), where, thing, is_done=given.act.data == "done")
        elif given.act.data == "add":
            add_thing(db(), where, thing, always=always)
        elif given.act.data == "leave-out":
            leave_thing_out(db(), where, thing, always=always)
        elif given.act.data == "usual":
            changed = lesson_facts(db(), school_id, class_id, plan, place).changed
            usual_things(db(), where, tuple(changed.left_out))
        else:
            raise NotFound(gettext("There is nothing of that name to do with a list."))
    except Refused as refusal:
        page = _page(class_id, at, str(refusal))
        return render_template("unit/lay_out.html", page=page), status_of(refusal)
    return redirect(url_for("lay_out.of_lesson", class_id=class_id, at=at), 303)


def _page(class_id: int, at: str, sentence: str = "") -> LayOutPage:
    row, plan, place = find_lesson(class_id, at)
    facts = lesson_facts(db(), me().school_id, class_id, plan, place)
    sheet = lesson_sheet(plan.lessons[place], facts)
    begins = plan.lessons[place].lesson.at
    return LayOutPage(
        frame=frame(Stage.PLAN),
        row=row,
        when=f"{day(begins.date())}, {begins:%H:%M}",
        named=at,
        sheet=sheet,
        left_out=tuple(sorted(facts.changed.left_out)),
        done=sum(one.is_done for one in sheet.lay_out),
        sentence=sentence,
    )
