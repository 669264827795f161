"""A class's settings on one page, and what is said of one of its students."""

from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions import change_class as actions
from noema.actions.change_assignment import help_student
from noema.actions.choose_audience import choose_audience
from noema.actions.share_class import share_with
from noema.core.coaching.audience import Audience
from noema.core.coaching.needs import Needs
from noema.core.errors import Refused
from noema.core.joining.deeds import Deed
from noema.core.language import N_, gettext
from noema.store.class_teachers import ColleagueName, colleagues_of, teachers_of_class
from noema.store.classes import ClassRow, class_of_school
from noema.store.students import JoinRow, join_of_class
from noema.web.frame.forms import Day, Exactly, OneOf, OneOrNone, Said, Whole, read_form
from noema.web.frame.noted import note
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.frame.weeks import week_words

class_settings = Blueprint("class_settings", __name__)

AUDIENCES = (
    (Audience.CHILD, N_("children of about twelve")),
    (Audience.TEENAGER, N_("teenagers")),
    (Audience.ADULT, N_("adult beginners")),
)


@dataclass(frozen=True, kw_only=True)
class SettingsPage:
    """What holds for a class."""

    frame: Frame
    row: ClassRow
    joining: JoinRow
    week: str
    audiences: tuple[tuple[Audience, str], ...]  # whom sentences may be for, in words
    teachers: tuple[ColleagueName, ...]  # who teaches or helps in it
    colleagues: tuple[ColleagueName, ...]  # with whom it could be shared


class UnitForm(Form):
    """What a class is called, and the days of its unit."""

    name_ = Exactly(name="name")
    starts_on = Day()
    weeks = Whole()


class CellsForm(Form):
    """How large cells are on its sheets."""

    larger = Said("yes", name="larger_cells")


class AudienceForm(Form):
    """Whom sentences are for."""

    audience = OneOf(Audience, N_("Choose whom the sentences are for."))


class ShareForm(Form):
    """Somebody a class is shared with, or isn't any more."""

    teacher = Whole()
    shares = Said("share", name="do")


class StudentNameForm(Form):
    """What a student is called."""

    name_ = Exactly(name="name")


class NeedsForm(Form):
    """What helps a student."""

    larger_cells = Said("yes")
    fewer_steps = Said("yes")
    gentler = Said("yes")
    audience = OneOrNone(Audience, N_("Choose whom the sentences are for."))


@class_settings.get("/classes/<int:class_id>/settings")
def of_settings(class_id: int) -> str:
    """Show what holds for a class."""
    row = class_of_school(db(), me().school_id, class_id)
    taught = teachers_of_class(db(), class_id)
    page = SettingsPage(
        frame=frame(Stage.PLAN),
        row=row,
        joining=join_of_class(db(), class_id),
        week=week_words(row),
        audiences=AUDIENCES,
        teachers=taught,
        colleagues=tuple(one for one in colleagues_of(db(), me().school_id) if one not in taught),
    )
    return render_template("classes/settings.html", page=page)


@class_settings.post("/classes/<int:class_id>/unit-days")
def change(class_id: int) -> Response:
    """Rename a class, or give its unit other days."""
    given = read_form(UnitForm)
    starts_on, weeks = given.starts_on.data, given.weeks.data or 0
    if starts_on is None:
        raise Refused(gettext("Choose the day the unit begins, such as 2026-09-07."))
    actions.change_class(db(), me().school_id, class_id, given.name_.data, starts_on, weeks)
    return _back(class_id)


@class_settings.post("/classes/<int:class_id>/cells")
def size_cells(class_id: int) -> Response:
    """Say how large cells are on its sheets."""
    larger = read_form(CellsForm).larger.data
    actions.size_cells(db(), me().school_id, class_id, larger=larger)
    return _back(class_id)


@class_settings.post("/classes/<int:class_id>/audience")
def speak(class_id: int) -> Response:
    """Say whom the class's sentences are for."""
    choose_audience(db(), me().school_id, class_id, read_form(AudienceForm).audience.data)
    return _back(class_id)


@class_settings.post("/classes/<int:class_id>/teachers")
def share(class_id: int) -> Response:
    """Share a class with a colleague, or no longer; whoever leaves it hands it over."""
    given = read_form(ShareForm)
    share_with(db(), me(), class_id, given.teacher.data or 0, shares=given.shares.data)
    row = class_of_school(db(), me().school_id, class_id)
    note(Deed.CLASS_SHARED if given.shares.data else Deed.CLASS_UNSHARED, row.name)
    may_go_on = me().role.sees_all_classes or given.shares.data or given.teacher.data != me().id
    return _back(class_id) if may_go_on else redirect(url_for("classes.plan"), 303)


@class_settings.post("/classes/<int:class_id>/students/<int:student_id>/name")
def name_student(class_id: int, student_id: int) -> Response:
    """Call a student otherwise."""
    name = read_form(StudentNameForm).name_.data
    actions.name_student(db(), me().school_id, class_id, student_id, name)
    return _to_student(class_id, student_id)


@class_settings.post("/classes/<int:class_id>/students/<int:student_id>/needs")
def help_one(class_id: int, student_id: int) -> Response:
    """Say what helps a student."""
    given = read_form(NeedsForm)
    needs = Needs(
        larger_cells=given.larger_cells.data,
        fewer_steps=given.fewer_steps.data,
        gentler=given.gentler.data,
        audience=given.audience.data,
    )
    help_student(db(), me().school_id, class_id, student_id, needs)
    return _to_student(class_id, student_id)


def _back(class_id: int) -> Response:
    return redirect(url_for("class_settings.of_settings", class_id=class_id), 303)


def _to_student(class_id: int, student_id: int) -> Response:
    address = url_for("progress.of_student", class_id=class_id, student_id=student_id)
    return redirect(f"{address}#helps", 303)
