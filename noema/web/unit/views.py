"""The unit in time: a class's lessons and wishes, planned anew at every change."""

from dataclasses import replace
from datetime import datetime

from flask import Blueprint, redirect, render_template, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions import change_unit as actions
from noema.actions.school_days import day_of
from noema.core.errors import BadFrame, NotFound, Refused
from noema.core.exercises.media import Medium
from noema.core.language import N_, gettext
from noema.core.planning.frame import Wish
from noema.core.planning.ready import READY
from noema.core.planning.timetable import weekly_of
from noema.web.frame.forms import Exactly, OneOf, Said, TextLine, Whole, read_form
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me
from noema.web.unit.page import OF_CLASS, unit_page

unit = Blueprint("unit", __name__)

_MOST_DIGITS = 10  # of a class's number


class TimetableForm(Form):
    """Lessons in the week, a line each."""

    lessons = Exactly()


class WishForm(Form):
    """An exercise to be added."""

    kind = TextLine()
    set_ = TextLine(name="set")
    medium = OneOf(Medium, N_("Choose a medium."), usual=Medium.ACRYLIC)
    redo = Said("redo", name="redo")


class ActForm(Form):
    """What becomes of a wish."""

    act = TextLine()
    day = TextLine()


class LessonForm(Form):
    """A lesson, and whether it is held."""

    at = TextLine()
    is_held = Said("held", name="do")


class WayForm(Form):
    """One of the ways out of what isn't met."""

    wish = TextLine()
    way = Whole()


class ReadyForm(Form):
    """A unit to start from."""

    unit = TextLine()


@unit.get("/classes/<int:class_id>/unit")
def of_class(class_id: int) -> str:
    """Show the unit in time."""
    return render_template("unit/unit.html", page=unit_page(class_id))


@unit.get("/classes/<int:class_id>/unit/planned")
def planned(class_id: int) -> str:
    """Show what is planned; asked for until it is."""
    return render_template("unit/planned.html", page=unit_page(class_id))


@unit.post("/classes/<int:class_id>/unit/timetable")
def timetable(class_id: int) -> Response | tuple[str, int]:
    """Say when a class has lessons."""
    try:
        lessons = weekly_of(read_form(TimetableForm).lessons.data)
        return _changed(class_id, lambda one: replace(one, lessons=lessons))
    except Refused as refusal:
        return _refused(class_id, refusal)


@unit.post("/classes/<int:class_id>/unit/wishes")
def add(class_id: int) -> Response | tuple[str, int]:
    """Add an exercise at the end."""
    given = read_form(WishForm)
    wish = Wish(
        id=given.kind.data,
        kind=given.kind.data,
        medium=given.medium.data,
        set_ref=given.set_.data or None,
        redo=given.redo.data,
    )
    try:
        return _changed(class_id, actions.with_wish(wish))
    except Refused as refusal:
        return _refused(class_id, refusal)


@unit.post("/classes/<int:class_id>/unit/wishes/<wish_id>")
def change(class_id: int, wish_id: str) -> Response | tuple[str, int]:
    """Move a wish, pin it to a day, keep room for a redo, or leave it out."""
    given = read_form(ActForm)
    acts = {
        "up": actions.moved(wish_id, -1),
        "down": actions.moved(wish_id, 1),
        "redo": actions.redone(wish_id, redo=True),
        "no-redo": actions.redone(wish_id, redo=False),
        "unpin": actions.pinned(wish_id, None),
        "leave-out": actions.without(wish_id),
    }
    try:
        if given.act.data == "pin":
            return _changed(class_id, actions.pinned(wish_id, day_of(given.day.data)))
        if given.act.data not in acts:
            raise NotFound(gettext("There is nothing of that name to do with an exercise."))
        return _changed(class_id, acts[given.act.data])
    except Refused as refusal:
        return _refused(class_id, refusal)


@unit.post("/classes/<int:class_id>/unit/lessons")
def hold(class_id: int) -> Response:
    """Say that a lesson isn't held, or is after all."""
    given = read_form(LessonForm)
    return _changed(class_id, actions.cancelled(_moment(given.at.data), is_held=given.is_held.data))


@unit.post("/classes/<int:class_id>/unit/ways")
def take(class_id: int) -> Response:
    """Take a way out of what isn't met."""
    given = read_form(WayForm)
    number = -1 if given.way.data is None else given.way.data
    actions.take_way(db(), me().school_id, class_id, given.wish.data, number)
    return redirect(url_for("unit.of_class", class_id=class_id), 303)


@unit.post("/classes/<int:class_id>/unit/undo")
def undo(class_id: int) -> Response:
    """Take the last change back."""
    actions.undo_change(db(), me().school_id, class_id)
    return redirect(url_for("unit.of_class", class_id=class_id), 303)


@unit.post("/classes/<int:class_id>/unit/ready")
def start_from(class_id: int) -> Response:
    """Start from a ready unit."""
    unit = _unit_named(read_form(ReadyForm).unit.data)
    return _changed(class_id, lambda one: replace(one, unit=unit))


def _unit_named(name: str) -> tuple[Wish, ...]:
    """Give a ready unit, or that of another class of the school; its days are left out."""
    if name in READY:
        return READY[name].wishes
    number = name.removeprefix(OF_CLASS)
    if name.startswith(OF_CLASS) and number.isdecimal() and len(number) < _MOST_DIGITS:
        other = actions.frame_of_class(db(), me().school_id, int(number)).classes[0]
        return tuple(replace(wish, pinned=None) for wish in other.unit)
    raise NotFound(gettext("There is no such unit to start from: choose one of the list."))


def _changed(class_id: int, how: actions.Change) -> Response:
    actions.change_unit(db(), me().school_id, class_id, how)
    return redirect(url_for("unit.of_class", class_id=class_id), 303)


def _refused(class_id: int, refusal: Refused) -> tuple[str, int]:
    page = unit_page(class_id, str(refusal))
    return render_template("unit/unit.html", page=page), status_of(refusal)


def _moment(text: str) -> datetime:
    try:
        return datetime.fromisoformat(text).replace(tzinfo=None)
    except ValueError as wrong:
        raise BadFrame(
            gettext("“%(text)s” is no lesson's time: choose one of the list.", text=text[:20])
        ) from wrong
