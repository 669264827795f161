"""Assigning a value scale, with the expected strip drawn as choices change."""

from dataclasses import dataclass
from random import SystemRandom

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.datastructures import MultiDict
from werkzeug.wrappers import Response

from noema.actions.assign_exercise import assign_exercise
from noema.core.colour.value import value_to_lab
from noema.core.errors import BadExercise, Refused
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium, cautions
from noema.core.exercises.value_scale import (
    FEWEST_STEPS,
    MOST_STEPS,
    ValueScale,
    fixed_values,
)
from noema.core.sheet.paper import Paper
from noema.store.classes import ClassRow, class_of_school
from noema.web.drawings.stair import HEIGHT, WIDTH, even_path
from noema.web.drawings.strip import expected_strip
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me
from noema.web.frame.weeks import this_week

assigning = Blueprint("assigning", __name__)


@dataclass(frozen=True, kw_only=True)
class Choices:
    """What the form says, checked."""

    scale: ValueScale
    level: Level
    key: Key
    paper: Paper
    due_week: int


@dataclass(frozen=True, kw_only=True)
class Preview:
    """The exercise as it would be expected."""

    title: str
    steps: tuple[tuple[str, str], ...]  # fill, value in words
    even: str  # SVG path of the stair
    tolerance: str
    key_words: str
    cautions: tuple[str, ...]
    width: float = WIDTH
    height: float = HEIGHT


@dataclass(frozen=True, kw_only=True)
class AssignPage:
    """The form and what comes of it."""

    frame: Frame
    row: ClassRow
    choices: Choices
    preview: Preview
    sentence: str = ""
    step_choices: tuple[int, ...] = tuple(range(FEWEST_STEPS, MOST_STEPS + 1))
    media: tuple[Medium, ...] = tuple(Medium)
    levels: tuple[Level, ...] = tuple(Level)
    keys: tuple[Key, ...] = tuple(Key)
    papers: tuple[Paper, ...] = tuple(Paper)


@dataclass(frozen=True, kw_only=True)
class PreviewPage:
    """The fragment alone."""

    preview: Preview


_KEY_WORDS = {
    Key.EVEN: "equal steps between the ends usual for this medium",
    Key.OWN_ENDS: "equal steps between each student's own darkest and lightest",
}


@assigning.get("/classes/<int:class_id>/assign")
def assign(class_id: int) -> str:
    """Show the form with usual choices."""
    row = class_of_school(db(), me().school_id, class_id)
    return render_template("assigning/assign.html", page=_page(row, choices_of(request.args, row)))


@assigning.get("/classes/<int:class_id>/assign/preview")
def preview(class_id: int) -> str:
    """Draw what is expected for the choices so far."""
    row = class_of_school(db(), me().school_id, class_id)
    page = PreviewPage(preview=make_preview(choices_of(request.args, row)))
    return render_template("assigning/preview.html", page=page)


@assigning.post("/classes/<int:class_id>/assign")
def assign_now(class_id: int) -> Response | tuple[str, int]:
    """Assign it, then go on to printing."""
    row = class_of_school(db(), me().school_id, class_id)
    choices = choices_of(MultiDict(), row)
    try:
        choices = choices_of(request.form, row)
        assign_exercise(
            db(),
            school_id=me().school_id,
            class_id=class_id,
            teacher_id=me().id,
            scale=choices.scale,
            level=choices.level,
            key=choices.key,
            paper=choices.paper,
            due_week=choices.due_week,
            rng=SystemRandom(),
        )
    except Refused as refusal:
        page = _page(row, choices, str(refusal))
        return render_template("assigning/assign.html", page=page), status_of(refusal)
    return redirect(url_for("printing.overview"))


def choices_of(form: MultiDict[str, str], row: ClassRow) -> Choices:
    """Read the form; what isn't given takes the usual choice."""
    try:
        return Choices(
            scale=ValueScale(
                steps=int(form.get("steps", "9")), medium=Medium(form.get("medium", "acrylic"))
            ),
            level=Level(form.get("level", "beginner")),
            key=Key(form.get("key", "even")),
            paper=Paper(form.get("paper", "a4")),
            due_week=int(form.get("due_week", str(_usual_week(row)))),
        )
    except ValueError as wrong:
        raise BadExercise("One of the choices isn't on the list: choose it again.") from wrong


def _usual_week(row: ClassRow) -> int:
    return max(1, min(row.unit_weeks, this_week(row)))


def make_preview(choices: Choices) -> Preview:
    """Draw the expected strip and stair."""
    values = fixed_values(choices.scale)
    fills = expected_strip([tuple(value_to_lab(value)) for value in values])
    return Preview(
        title=choices.scale.title,
        steps=tuple((fill, f"{value:.1f}") for fill, value in zip(fills, values, strict=True)),
        even=even_path(list(values)),
        tolerance=f"{choices.level.value_tolerance:.1f}",
        key_words=_KEY_WORDS[choices.key],
        cautions=cautions(choices.scale.medium),
    )


def _page(row: ClassRow, choices: Choices, sentence: str = "") -> AssignPage:
    return AssignPage(
        frame=frame(Stage.PLAN),
        row=row,
        choices=choices,
        preview=make_preview(choices),
        sentence=sentence,
    )
