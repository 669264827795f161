"""What a class shows as a whole, and the hand-out of its commonest points."""

from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, url_for
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions.hold_by_class import answer_for_class
from noema.actions.work_out_exercise import Exercise, exercise_of
from noema.core.colour.names import HueTable
from noema.core.colour.srgb import lab_to_hex
from noema.core.exercises.class_question import ClassAnswer
from noema.core.language import N_
from noema.core.progress.class_patterns import (
    Attempt,
    ClassPattern,
    class_patterns,
    drifts_by_cell,
)
from noema.core.words.class_question import cells_in_question
from noema.formats.judgement_json import judgement_from_json
from noema.store.assignments import AssignmentRow, assignment_of_school
from noema.store.judgements import judgements_of
from noema.store.paints import hue_words
from noema.store.reviews import latest_of_assignment
from noema.web.frame.forms import OneOf, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.patterns.field import DriftField, make_field

patterns = Blueprint("patterns", __name__)

_ON_HAND_OUT = 3


@dataclass(frozen=True, kw_only=True)
class QuestionedCell:
    """A cell as it is expected beside what the class made of it."""

    words: str
    expected: str  # fills
    painted: str


@dataclass(frozen=True, kw_only=True)
class QuestionPanel:
    """What most painted alike in mixes: the paint, or what was taught?"""

    cells: tuple[QuestionedCell, ...]
    answer: ClassAnswer | None


class AnswerForm(Form):
    """Whether it is the paint, or what was taught."""

    answer = OneOf(ClassAnswer, N_("Choose whether it is the paint or what was taught."))


@dataclass(frozen=True, kw_only=True)
class PatternsPage:
    """One exercise as a class painted it."""

    frame: Frame
    row: AssignmentRow
    sheets: int
    patterns: tuple[ClassPattern, ...]
    field: DriftField | None  # None while nothing was read
    names: tuple[tuple[str, str], ...]  # number and name of cells whose names are long
    question: QuestionPanel | None  # what all painted alike


@patterns.get("/exercises/<int:assignment_id>/patterns")
def of_exercise(assignment_id: int) -> str:
    """Show who drifts where, and what most have in common."""
    return render_template("patterns/patterns.html", page=_page(assignment_id))


@patterns.get("/exercises/<int:assignment_id>/hand-out")
def hand_out(assignment_id: int) -> str:
    """Show the commonest points as a page to print."""
    page = _page(assignment_id, most=_ON_HAND_OUT)
    return render_template("patterns/hand_out.html", page=page)


@patterns.post("/exercises/<int:assignment_id>/question")
def answer(assignment_id: int) -> AnyResponse:
    """Settle what the whole class painted alike; the worker judges all work anew."""
    chosen = read_form(AnswerForm).answer.data
    answer_for_class(db(), me().school_id, assignment_id, me().id, chosen)
    return redirect(url_for("patterns.of_exercise", assignment_id=assignment_id), 303)


def _question(exercise: Exercise, table: HueTable) -> QuestionPanel | None:
    question = exercise.question
    if question is None or not question.cells:
        return None
    return QuestionPanel(
        cells=tuple(
            QuestionedCell(words=one.words, expected=expected, painted=painted)
            for one in cells_in_question(question, exercise.asked, table)
            for expected, painted in [lab_to_hex([one.expected, one.painted])]
        ),
        answer=question.answer,
    )


def _page(assignment_id: int, most: int | None = None) -> PatternsPage:
    row = assignment_of_school(db(), me().school_id, assignment_id)
    exercise = exercise_of(db(), row)
    table = hue_words(db(), me().school_id).table
    latest = latest_of_assignment(db(), row.id)
    bodies = judgements_of(db(), [attempt.photograph_id for attempt in latest])
    attempts = [
        Attempt(judgement=judgement_from_json(bodies[a.photograph_id]), review=a.review)
        for a in latest
    ]
    found = class_patterns(attempts, exercise.asked, exercise.paints, table)
    cells = drifts_by_cell(attempts, exercise.asked)
    return PatternsPage(
        frame=frame(Stage.REVIEW),
        row=row,
        sheets=len(attempts),
        patterns=found[:most],
        field=make_field(cells) if attempts else None,
        names=tuple(
            (str(n), cell.label) for n, cell in enumerate(cells, start=1) if len(cell.label) > 3
        ),
        question=_question(exercise, table),
    )
