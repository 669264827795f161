"""Returning: what goes back to students, and new worksheets for another go."""

from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, url_for
from werkzeug.wrappers import Response

from noema.actions.print_sheets import print_for_sent_back
from noema.core.judging.review import ReviewState
from noema.formats.judgement_json import tally_from_json
from noema.store.assignments import AssignmentRow, assignments_of_school
from noema.store.reviews import AttemptRow, decided
from noema.store.waiting import sent_back_without_sheet
from noema.web.drawings.strip import TinyStrip, make_tiny_strips
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

returning = Blueprint("returning", __name__)


@dataclass(frozen=True, kw_only=True)
class Slip:
    """What one student gets back."""

    attempt: AttemptRow
    strip: TinyStrip
    sentence: str
    state: str
    needs_sheet: bool


@dataclass(frozen=True, kw_only=True)
class Bundle:
    """The slips of one assignment."""

    row: AssignmentRow
    slips: tuple[Slip, ...]
    needing: int  # slips that need a new worksheet


@dataclass(frozen=True, kw_only=True)
class ReturnPage:
    """Everything decided and not yet repeated."""

    frame: Frame
    bundles: tuple[Bundle, ...]


@returning.get("/return")
def overview() -> str:
    """Show what goes back, by class and assignment."""
    back = decided(db(), me().school_id, ReviewState.SENT_BACK)
    accepted = decided(db(), me().school_id, ReviewState.ACCEPTED)
    needing = set(sent_back_without_sheet(db(), me().school_id))
    slips = _slips((*back, *accepted), needing)
    bundles = tuple(
        Bundle(row=row, slips=mine, needing=sum(slip.needs_sheet for slip in mine))
        for row in assignments_of_school(db(), me().school_id)
        if (mine := tuple(s for s in slips if s.attempt.assignment_id == row.id))
    )
    page = ReturnPage(
        frame=frame(Stage.RETURN),
        bundles=tuple(sorted(bundles, key=lambda bundle: not bundle.needing)),
    )
    return render_template("returning/overview.html", page=page)


@returning.post("/assignments/<int:assignment_id>/again")
def again(assignment_id: int) -> Response:
    """Make new sheets for those whose work went back, then give the PDF of just those."""
    sheets = print_for_sent_back(db(), me().school_id, assignment_id)
    ids = [sheet.id for sheet in sheets]
    return redirect(url_for("printing.pdf", assignment_id=assignment_id, sheet=ids), 303)


def _slips(attempts: tuple[AttemptRow, ...], needing: set[int]) -> list[Slip]:
    strips = make_tiny_strips([tally_from_json(one.tally) for one in attempts])
    return [
        Slip(
            attempt=attempt,
            strip=strip,
            sentence=attempt.review.sentence or attempt.sentence,
            state=attempt.review.state.value,
            needs_sheet=attempt.photograph_id in needing,
        )
        for attempt, strip in zip(attempts, strips, strict=True)
    ]
