"""Beginning a unit: from a ready one, a kept one, another class's, or a calendar's lessons."""

from dataclasses import replace
from zoneinfo import ZoneInfo

from flask import Blueprint, redirect, render_template, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.change_unit import change_unit
from noema.actions.frames import frame_of_class
from noema.actions.keep_unit_pattern import forget_unit, keep_unit, kept_unit
from noema.core.errors import BadFile, NotFound, Refused
from noema.core.language import gettext
from noema.core.planning.frame import Wish
from noema.core.planning.ready import READY
from noema.core.planning.weekly_pattern import with_lessons
from noema.formats.calendar_in import MOST_BYTES, events_from_ics
from noema.store.classes import class_of_school
from noema.web.frame.forms import SentFile, TextLine, read_form
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me
from noema.web.unit.page import OF_CLASS, OF_PATTERN, unit_page

starting = Blueprint("starting", __name__)

_MOST_DIGITS = 10  # of a class's or a kept unit's number
_MOST_NAMES = 6  # of events, said where none is called as asked


class ReadyForm(Form):
    """A unit to start from."""

    unit = TextLine()


class PatternForm(Form):
    """What a unit is kept as."""

    name = TextLine(most=80)


class LessonsFileForm(Form):
    """A calendar with a class's lessons."""

    calendar = SentFile(MOST_BYTES)
    named = TextLine(most=80)


@starting.post("/classes/<int:class_id>/unit/ready")
def start_from(class_id: int) -> Response:
    """Start from a unit."""
    unit = _unit_named(read_form(ReadyForm).unit.data)
    change_unit(db(), me().school_id, class_id, lambda one: replace(one, unit=unit))
    return _back(class_id)


@starting.post("/classes/<int:class_id>/unit/patterns")
def keep(class_id: int) -> Response | tuple[str, int]:
    """Keep a class's unit, to be given to others."""
    try:
        keep_unit(db(), me().school_id, class_id, read_form(PatternForm).name.data)
    except Refused as refusal:
        return _refused(class_id, refusal)
    return _back(class_id)


@starting.post("/classes/<int:class_id>/unit/patterns/<int:pattern_id>/forget")
def forget(class_id: int, pattern_id: int) -> Response:
    """Forget a kept unit."""
    class_of_school(db(), me().school_id, class_id)
    forget_unit(db(), me().school_id, pattern_id)
    return _back(class_id)


@starting.post("/classes/<int:class_id>/unit/lessons.ics")
def lessons_in(class_id: int) -> Response | tuple[str, int]:
    """Take a class's lessons from a calendar."""
    given = read_form(LessonsFileForm)
    frame = frame_of_class(db(), me().school_id, class_id)
    try:
        zone = ZoneInfo(frame.time_zone)
        events = events_from_ics(given.calendar.bytes, zone, frame.begins, frame.ends)
        timed = [one for one in events if not one.is_whole_day]
        wanted = given.named.data.casefold()
        lessons = [one for one in timed if wanted in one.name.casefold()]
        if not lessons:
            names = sorted({one.name for one in timed if one.name})[:_MOST_NAMES]
            raise BadFile(_no_lessons(given.named.data, names))
        change_unit(
            db(),
            me().school_id,
            class_id,
            lambda one: with_lessons(frame, one, [(event.at, event.minutes) for event in lessons]),
        )
    except Refused as refusal:
        return _refused(class_id, refusal)
    return _back(class_id)


def _no_lessons(wanted: str, names: list[str]) -> str:
    if not names:
        return gettext("There are no lessons in the calendar within these days.")
    return gettext(
        "No event within these days is called “%(wanted)s”; there are: %(names)s.",
        wanted=wanted,
        names=", ".join(names),
    )


def _unit_named(name: str) -> tuple[Wish, ...]:
    """Give a ready unit, a kept one, or that of another class; its days are left out."""
    if name in READY:
        return READY[name].wishes
    for before, found in ((OF_CLASS, _of_class), (OF_PATTERN, _of_pattern)):
        number = name.removeprefix(before)
        if name.startswith(before) and number.isdecimal() and len(number) < _MOST_DIGITS:
            return tuple(replace(wish, pinned=None, pins={}) for wish in found(int(number)))
    raise NotFound(gettext("There is no such unit to start from: choose one of the list."))


def _of_class(number: int) -> tuple[Wish, ...]:
    return frame_of_class(db(), me().school_id, number).classes[0].unit


def _of_pattern(number: int) -> tuple[Wish, ...]:
    return kept_unit(db(), me().school_id, number)


def _back(class_id: int) -> Response:
    return redirect(url_for("unit.of_class", class_id=class_id), 303)


def _refused(class_id: int, refusal: Refused) -> tuple[str, int]:
    page = unit_page(class_id, str(refusal))
    return render_template("unit/unit.html", page=page), status_of(refusal)
