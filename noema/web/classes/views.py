"""Planning: classes, their rosters and what they are given."""

from dataclasses import dataclass
from datetime import date

from flask import Blueprint, redirect, render_template, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions import make_class as actions
from noema.core.errors import Refused
from noema.core.language import N_, gettext
from noema.core.planning.unit import monday_of
from noema.formats.roster import HEADERS, Roster, RosterOrder, roster_text
from noema.store.assignments import AssignmentRow, assignments_of_class, assignments_of_classes
from noema.store.classes import (
    ClassRow,
    StudentName,
    class_of_school,
    classes_found,
    students_found,
)
from noema.web.drawings.minutes import MinuteSheet
from noema.web.frame.clock import today
from noema.web.frame.forms import Exactly, OneOrNone, SentFile, read_form
from noema.web.frame.leaf import LeafPlace, leaf_place, wanted_leaf
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me
from noema.web.frame.weeks import week_words
from noema.web.unit.drawn import drawn_units

classes = Blueprint("classes", __name__)

_USUAL_WEEKS = 12
_MOST_CARDS, _MOST_NAMES = 12, 60


@dataclass(frozen=True, kw_only=True)
class ClassCard:
    """A class in the plan."""

    row: ClassRow
    week: str
    sheet: MinuteSheet | None  # its lessons, once they are planned
    assignments: tuple[AssignmentRow, ...]


@dataclass(frozen=True, kw_only=True)
class PlanPage:
    """Classes and their weeks."""

    frame: Frame
    cards: tuple[ClassCard, ...]
    leaf: LeafPlace


@dataclass(frozen=True, kw_only=True)
class NewClassPage:
    """The form of a new class."""

    frame: Frame
    name: str = ""
    starts_on: str = ""
    weeks: str = str(_USUAL_WEEKS)
    sentence: str = ""


@dataclass(frozen=True, kw_only=True)
class ClassPage:
    """A class: who is in it and what it is given."""

    frame: Frame
    row: ClassRow
    week: str
    students: tuple[StudentName, ...]  # on this leaf of the roster
    leaf: LeafPlace
    assignments: tuple[AssignmentRow, ...]
    headers: tuple[str, ...]  # that a list may carry
    orders: tuple[RosterOrder, ...]  # in which a name may stand in columns without
    roster: Roster | None = None  # looked at, not yet taken
    text: str = ""
    sentence: str = ""


_MOST_ROSTER_BYTES = 2 * 2**20


class ClassForm(Form):
    """A class that begins."""

    name_ = Exactly(name="name")
    starts_on = Exactly()
    weeks = Exactly()


class RosterForm(Form):
    """A list of students, typed or in a file."""

    text = Exactly()
    file = SentFile(_MOST_ROSTER_BYTES)
    order = OneOrNone(RosterOrder, N_("That order isn’t on the list: choose it again."))


@classes.get("/plan")
def plan() -> str:
    """Show every class with its assignments."""
    wanted = wanted_leaf(_MOST_CARDS)
    leaf = classes_found(db(), me().school_id, wanted)
    ids = [row.id for row in leaf.shown]
    given, sheets = assignments_of_classes(db(), ids), drawn_units(ids)
    cards = tuple(
        ClassCard(
            row=row,
            week=week_words(row),
            sheet=sheets.get(row.id),
            assignments=tuple(a for a in given if a.class_id == row.id),
        )
        for row in leaf.shown
    )
    page = PlanPage(frame=frame(Stage.PLAN), cards=cards, leaf=leaf_place(wanted, leaf))
    return render_template("classes/plan.html", page=page)


@classes.get("/classes/new")
def new_class() -> str:
    """Show the form of a new class, beginning this week."""
    page = NewClassPage(frame=frame(Stage.PLAN), starts_on=monday_of(today()).isoformat())
    return render_template("classes/new.html", page=page)


@classes.post("/classes/new")
def make() -> Response | tuple[str, int]:
    """Make the class, then ask for its roster."""
    given = read_form(ClassForm)
    name, starts_on, weeks = given.name_.data, given.starts_on.data, given.weeks.data
    try:
        class_id = actions.make_class(
            db(),
            me().school_id,
            name,
            _day(starts_on),
            int(weeks) if weeks.isdigit() else 0,
            taught_by=me().id,
        )
    except Refused as refusal:
        page = NewClassPage(
            frame=frame(Stage.PLAN),
            name=name,
            starts_on=starts_on,
            weeks=weeks,
            sentence=str(refusal),
        )
        return render_template("classes/new.html", page=page), status_of(refusal)
    return redirect(url_for("classes.of_class", class_id=class_id))


@classes.get("/classes/<int:class_id>")
def of_class(class_id: int) -> str:
    """Show a class."""
    return render_template("classes/class.html", page=_class_page(class_id))


@classes.post("/classes/<int:class_id>/roster/look")
def look_at_roster(class_id: int) -> str | tuple[str, int]:
    """Say line by line what a list would bring in, without saving anything."""
    given = read_form(RosterForm)
    text = given.text.data
    try:
        if given.file.file_name:
            text = roster_text(given.file.bytes)
        order = given.order.data
        roster = actions.preview_roster(db(), me().school_id, class_id, text, order)
        page = _class_page(class_id, roster=roster, text=text)
    except Refused as refusal:
        page = _class_page(class_id, text=text, sentence=str(refusal))
        return render_template("classes/class.html", page=page), status_of(refusal)
    return render_template("classes/class.html", page=page)


@classes.post("/classes/<int:class_id>/roster")
def take_roster(class_id: int) -> Response | tuple[str, int]:
    """Bring the students in."""
    given = read_form(RosterForm)
    text, order = given.text.data, given.order.data
    try:
        actions.enrol_students(db(), me().school_id, class_id, text, order)
    except Refused as refusal:
        page = _class_page(class_id, text=text, sentence=str(refusal))
        return render_template("classes/class.html", page=page), status_of(refusal)
    return redirect(url_for("classes.of_class", class_id=class_id))


def _class_page(
    class_id: int, roster: Roster | None = None, text: str = "", sentence: str = ""
) -> ClassPage:
    row = class_of_school(db(), me().school_id, class_id)
    wanted = wanted_leaf(_MOST_NAMES)
    leaf = students_found(db(), class_id, wanted)
    return ClassPage(
        frame=frame(Stage.PLAN),
        row=row,
        week=week_words(row),
        students=leaf.shown,
        leaf=leaf_place(wanted, leaf),
        assignments=assignments_of_class(db(), class_id),
        headers=HEADERS,
        orders=tuple(RosterOrder),
        roster=roster,
        text=text,
        sentence=sentence,
    )


def _day(text: str) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError as wrong:
        raise Refused(gettext("Choose the day the unit begins, such as 2026-09-07.")) from wrong
