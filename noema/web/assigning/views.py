"""Assigning any exercise, with what is expected drawn as choices change."""

from dataclasses import dataclass
from random import SystemRandom
from typing import Any

from flask import Blueprint, Response, redirect, render_template, request, url_for
from werkzeug.datastructures import MultiDict
from werkzeug.wrappers import Response as AnyResponse

from noema.actions.assign_exercise import assign_exercise
from noema.actions.frames import frame_of_class
from noema.actions.work_out_exercise import Chosen, work_out
from noema.core.errors import BadExercise, Refused
from noema.core.exercises.levels import Key
from noema.core.language import gettext
from noema.core.sheet.key_sheet import draw_key_sheets
from noema.store.assignments import (
    AssignmentRow,
    assignment_of_school,
    assignments_to_start_from,
)
from noema.store.classes import ClassRow, class_of_school
from noema.web.assigning.choices import (
    AssignFields,
    chosen_of,
    fields_of,
    form_of_assignment,
    set_refs,
)
from noema.web.exercises.key_words import KEY_WORDS
from noema.web.exercises.options import Given
from noema.web.exercises.showing import Shown, show
from noema.web.frame.clock import today
from noema.web.frame.once import do_once
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me
from noema.web.printing.sizes import drawings_pdf

assigning = Blueprint("assigning", __name__)

_MOST_EARLIER = 40

_OF_THE_FORM = ("csrf_token", "once", "wish")


@dataclass(frozen=True, kw_only=True)
class Answer:
    """What the choices come to."""

    shown: Shown | None  # None where they come to nothing
    held: str  # against what, and how closely
    refusal: str = ""


@dataclass(frozen=True, kw_only=True)
class ChoosingPage:
    """The form and what comes of it; the part that is drawn anew at every choice."""

    row: ClassRow
    wish: str  # of the class's unit, that is assigned; empty for none
    fields: AssignFields
    answer: Answer


@dataclass(frozen=True, kw_only=True)
class AssignPage(ChoosingPage):
    """The whole page."""

    frame: Frame
    earlier: tuple[AssignmentRow, ...]
    start_from: int | None
    sentence: str = ""


@assigning.get("/classes/<int:class_id>/assign")
def assign(class_id: int) -> str:
    """Show the form: with usual choices, those of the address, or those of an earlier one."""
    row = class_of_school(db(), me().school_id, class_id)
    earlier = request.args.get("from", type=int)
    form: Given = request.args
    if earlier is not None:
        form = form_of_assignment(assignment_of_school(db(), me().school_id, earlier), set_refs())
    return render_template("assigning/assign.html", page=_page(row, form, earlier))


@assigning.get("/classes/<int:class_id>/assign/preview")
def preview(class_id: int) -> str:
    """Draw the form and what is expected for the choices so far."""
    row = class_of_school(db(), me().school_id, class_id)
    page = ChoosingPage(
        row=row,
        wish=request.args.get("wish", ""),
        fields=_fields(row, request.args),
        answer=_answer(row, request.args),
    )
    return render_template("assigning/choosing.html", page=page)


@assigning.get("/classes/<int:class_id>/assign/key.pdf")
def key_sheet(class_id: int) -> Response:
    """Give the key sheet for the wall, for the choices so far."""
    row = class_of_school(db(), me().school_id, class_id)
    chosen = chosen_of(request.args)
    drawings = draw_key_sheets(work_out(chosen), chosen.paper, row.name)
    return drawings_pdf(drawings, drawings[0].title)


@assigning.post("/classes/<int:class_id>/assign")
def assign_now(class_id: int) -> AnyResponse | tuple[str, int]:
    """Assign it, then go on to printing."""
    row = class_of_school(db(), me().school_id, class_id)
    try:
        do_once()
        assign_exercise(
            db(),
            chosen_of(request.form),
            school_id=me().school_id,
            class_id=class_id,
            teacher_id=me().id,
            due_week=_due_week(request.form, row),
            wish=_wish(request.form, class_id),
            rng=SystemRandom(),
        )
    except Refused as refusal:
        page = _page(row, request.form, None, str(refusal))
        return render_template("assigning/assign.html", page=page), status_of(refusal)
    return redirect(url_for("printing.overview"))


def _due_week(form: Given, row: ClassRow) -> int:
    text = form.get("due_week", str(_usual_week(row)))
    if not text.isdigit() or len(text) > 3:
        raise BadExercise(gettext("The due week isn't on the list: choose it again."))
    return int(text)


def _wish(form: Given, class_id: int) -> str | None:
    """Give the wish of the class's unit that is assigned, if it is one."""
    unit = frame_of_class(db(), me().school_id, class_id).classes[0].unit
    return next((wish.id for wish in unit if wish.id == form.get("wish")), None)


def _usual_week(row: ClassRow) -> int:
    return row.unit.week_within(today())


def _fields(row: ClassRow, form: Given) -> AssignFields:
    try:
        return fields_of(form, row.unit, _usual_week(row))
    except Refused:  # a choice that isn't there is said beside; the form starts afresh
        return fields_of(MultiDict(), row.unit, _usual_week(row))


def _answer(row: ClassRow, form: Given) -> Answer:
    try:
        chosen = chosen_of(form)
        asked = work_out(chosen)
        url = url_for("assigning.key_sheet", class_id=row.id, **_query(form))
        shown = show(asked, chosen.in_medium, chosen.medium, chosen.paper, chosen.table, url)
    except Refused as refusal:
        return Answer(shown=None, held="", refusal=str(refusal))
    return Answer(shown=shown, held=_held(chosen))


def _query(form: Given) -> dict[str, Any]:
    return {name: form.getlist(name) for name in form if name not in _OF_THE_FORM}


def _held(chosen: Chosen) -> str:
    held = gettext(
        "Held against %(key_words)s; a cell holds with %(said)s.",
        key_words=gettext(KEY_WORDS[chosen.key]),
        said=chosen.tolerance.said,
    )
    if chosen.key is Key.TEACHER:
        until = gettext("Until you have painted yours, against what is shown here.")
        return f"{held} {until}"
    return held


def _page(row: ClassRow, form: Given, start_from: int | None, sentence: str = "") -> AssignPage:
    return AssignPage(
        frame=frame(Stage.PLAN),
        row=row,
        wish=form.get("wish", ""),
        fields=_fields(row, form),
        answer=_answer(row, form),
        earlier=assignments_to_start_from(db(), me().school_id, row.id, _MOST_EARLIER),
        start_from=start_from,
        sentence=sentence,
    )
