"""The unit in time: a class's lessons, what it is to do, and what can't be met."""

from dataclasses import replace
from datetime import UTC, datetime

from flask import Blueprint, redirect, render_template, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions import change_unit as actions
from noema.actions.frames import periods_of_school
from noema.actions.move_piece import WhichPiece, move_piece, pin_piece, split_piece
from noema.actions.school_days import day_of
from noema.core.errors import BadFrame, NotFound, Refused
from noema.core.exercises.media import Medium
from noema.core.language import N_, gettext
from noema.core.planning import changes
from noema.core.planning.frame import Wish
from noema.core.planning.timetable import checked_minutes, weekly_of
from noema.web.frame.forms import Exactly, OneOf, Said, TextLine, Whole, read_form
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me
from noema.web.unit.page import unit_page

unit = Blueprint("unit", __name__)


class TimetableForm(Form):
    """Lessons in the week, a line each, and their room."""

    lessons = Exactly()
    room = TextLine()


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


class BesidesForm(Form):
    """A lesson besides those of the timetable."""

    at = TextLine()
    minutes = Whole()


class FreeWeekForm(Form):
    """A week kept for a test, or not any more."""

    day = TextLine()
    is_kept = Said("keep", name="do")


class PieceForm(Form):
    """What is painted in a lesson, and what becomes of it."""

    wish = TextLine()
    number = Whole()
    act = TextLine()
    to = TextLine()


class WayForm(Form):
    """One of the ways out of what isn't met."""

    wish = TextLine()
    way = Whole()


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
        given = read_form(TimetableForm)
        lessons = weekly_of(given.lessons.data, periods_of_school(db(), me().school_id))
        room = given.room.data
        return _changed(class_id, lambda one: replace(one, lessons=lessons, room=room))
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
        return _changed(class_id, changes.with_wish(wish))
    except Refused as refusal:
        return _refused(class_id, refusal)


@unit.post("/classes/<int:class_id>/unit/wishes/<wish_id>")
def change(class_id: int, wish_id: str) -> Response | tuple[str, int]:
    """Move a wish, pin it to a day, keep room for a redo, or leave it out."""
    given = read_form(ActForm)
    acts = {
        "up": changes.moved(wish_id, -1),
        "down": changes.moved(wish_id, 1),
        "redo": changes.redone(wish_id, redo=True),
        "no-redo": changes.redone(wish_id, redo=False),
        "unpin": changes.pinned(wish_id, None),
        "leave-out": changes.without(wish_id),
    }
    try:
        if given.act.data == "pin":
            return _changed(class_id, changes.pinned(wish_id, day_of(given.day.data)))
        if given.act.data not in acts:
            raise NotFound(gettext("There is nothing of that name to do with an exercise."))
        return _changed(class_id, acts[given.act.data])
    except Refused as refusal:
        return _refused(class_id, refusal)


@unit.post("/classes/<int:class_id>/unit/lessons")
def hold(class_id: int) -> Response:
    """Say that a lesson isn't held, or is after all."""
    given = read_form(LessonForm)
    return _changed(class_id, changes.cancelled(_moment(given.at.data), is_held=given.is_held.data))


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


@unit.post("/classes/<int:class_id>/unit/besides")
def besides(class_id: int) -> Response | tuple[str, int]:
    """Hold a lesson besides those of the timetable."""
    given = read_form(BesidesForm)
    try:
        minutes = checked_minutes(given.minutes.data or 0)
        return _changed(class_id, changes.besides(_moment(given.at.data), minutes))
    except Refused as refusal:
        return _refused(class_id, refusal)


@unit.post("/classes/<int:class_id>/unit/tests")
def keep_week(class_id: int) -> Response | tuple[str, int]:
    """Keep a week free for a test, or not any more."""
    given = read_form(FreeWeekForm)
    try:
        change = changes.with_test(day_of(given.day.data), is_kept=given.is_kept.data)
        return _changed(class_id, change)
    except Refused as refusal:
        return _refused(class_id, refusal)


@unit.post("/classes/<int:class_id>/unit/order")
def order(class_id: int) -> Response:
    """Put the unit in the order the craft builds on."""
    return _changed(class_id, changes.ordered)


@unit.post("/classes/<int:class_id>/unit/pieces")
def move(class_id: int) -> Response | tuple[str, int]:
    """Move, pin or split what is painted in a lesson to come."""
    given, now = read_form(PieceForm), datetime.now(UTC)
    number = -1 if given.number.data is None else given.number.data
    which = WhichPiece(
        school_id=me().school_id, class_id=class_id, wish=given.wish.data, number=number
    )
    try:
        if given.act.data == "pin":
            pin_piece(db(), which, now)
        elif given.act.data == "split":
            split_piece(db(), which, now)
        elif given.act.data in _MOVES:
            move_piece(db(), which, now, by=_MOVES[given.act.data])
        elif given.act.data == "move":
            move_piece(db(), which, now, to=_moment(given.to.data))
        else:
            raise NotFound(gettext("There is nothing of that name to do with an exercise."))
    except Refused as refusal:
        return _refused(class_id, refusal)
    return redirect(url_for("unit.of_class", class_id=class_id), 303)


_MOVES = {"earlier": -1, "later": 1}


def _changed(class_id: int, how: changes.Change) -> Response:
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
