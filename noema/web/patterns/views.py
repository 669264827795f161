"""What a class shows as a whole, and the hand-out of its commonest points."""

from dataclasses import dataclass

from flask import Blueprint, render_template

from noema.actions.work_out_exercise import exercise_of
from noema.core.progress.class_patterns import (
    Attempt,
    ClassPattern,
    class_patterns,
    drifts_by_cell,
)
from noema.formats.judgement_json import judgement_from_json
from noema.store.assignments import AssignmentRow, assignment_of_school
from noema.store.judgements import judgements_of
from noema.store.paints import hue_words
from noema.store.reviews import attempts_of_class
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.patterns.field import DriftField, make_field

patterns = Blueprint("patterns", __name__)

_ON_HAND_OUT = 3


@dataclass(frozen=True, kw_only=True)
class PatternsPage:
    """One exercise as a class painted it."""

    frame: Frame
    row: AssignmentRow
    sheets: int
    patterns: tuple[ClassPattern, ...]
    field: DriftField | None  # None while nothing was read
    names: tuple[tuple[str, str], ...]  # number and name of cells whose names are long


@patterns.get("/exercises/<int:assignment_id>/patterns")
def of_exercise(assignment_id: int) -> str:
    """Show who drifts where, and what most have in common."""
    return render_template("patterns/patterns.html", page=_page(assignment_id))


@patterns.get("/exercises/<int:assignment_id>/hand-out")
def hand_out(assignment_id: int) -> str:
    """Show the commonest points as a page to print."""
    page = _page(assignment_id, most=_ON_HAND_OUT)
    return render_template("patterns/hand_out.html", page=page)


def _page(assignment_id: int, most: int | None = None) -> PatternsPage:
    row = assignment_of_school(db(), me().school_id, assignment_id)
    exercise = exercise_of(db(), row)
    table = hue_words(db(), me().school_id).table
    latest = [a for a in attempts_of_class(db(), row.class_id) if a.assignment_id == row.id]
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
    )
