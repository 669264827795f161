"""Returning: what goes back to students, and new worksheets for another go."""

from collections.abc import Collection
from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.print_sheets import print_for_sent_back
from noema.actions.say_to import sent_back
from noema.core.judging.judgement import Judgement
from noema.core.judging.review import ReviewState
from noema.core.language import gettext
from noema.formats.judgement_json import judgement_from_json, tally_from_json
from noema.store.assignments import (
    AssignmentRow,
    assignment_of_school,
    assignments_found,
    assignments_of_school,
)
from noema.store.base import Json
from noema.store.judgements import judgements_of, moves_of
from noema.store.reviews import AttemptRow, attempt_of_school, decided, has_decided
from noema.store.waiting import sent_back_without_sheet
from noema.web.drawings.strip import Strip, TinyStrip, make_strip, make_tiny_strips
from noema.web.frame.forms import Said, read_form
from noema.web.frame.leaf import LeafPlace, leaf_place, wanted_leaf
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.returning.slip import how_again, moves_said

returning = Blueprint("returning", __name__)

_MOST_BUNDLES = 3


@dataclass(frozen=True, kw_only=True)
class Back:
    """What one student gets back, in a line."""

    attempt: AttemptRow
    strip: TinyStrip
    sentence: str
    state: str
    needs_sheet: bool


@dataclass(frozen=True, kw_only=True)
class Bundle:
    """What goes back of one assignment."""

    row: AssignmentRow
    slips: tuple[Back, ...]
    needing: int  # that need a new worksheet


@dataclass(frozen=True, kw_only=True)
class ReturnPage:
    """Everything decided and not yet repeated."""

    frame: Frame
    bundles: tuple[Bundle, ...]
    leaf: LeafPlace


@dataclass(frozen=True, kw_only=True)
class Slip:
    """What one student gets back, on paper: joint by joint, one sentence, what to do next."""

    attempt: AttemptRow
    row: AssignmentRow
    strip: Strip
    state: str  # what became of it, in a word
    sentence: str
    moves: tuple[tuple[str, str], ...]  # cell and move
    accepted: bool
    how: tuple[str, ...]  # to try again


@dataclass(frozen=True, kw_only=True)
class SlipsPage:
    """Slips to print."""

    frame: Frame
    slips: tuple[Slip, ...]


class NewSheetsForm(Form):
    """Which cells new sheets have."""

    only_needed = Said("needed", name="cells")


@returning.get("/return")
def overview() -> str:
    """Show what goes back, by class and assignment."""
    wanted = wanted_leaf(_MOST_BUNDLES)
    leaf = assignments_found(db(), me().school_id, wanted, has_decided(me().school_id))
    numbers = [row.id for row in leaf.shown]
    needing = set(sent_back_without_sheet(db(), me().school_id, numbers))
    slips = _backs(_decided(numbers), needing)
    bundles = tuple(
        Bundle(row=row, slips=mine, needing=sum(slip.needs_sheet for slip in mine))
        for row in leaf.shown
        if (mine := tuple(s for s in slips if s.attempt.assignment_id == row.id))
    )
    page = ReturnPage(
        frame=frame(Stage.RETURN),
        bundles=tuple(sorted(bundles, key=lambda one: (not one.needing, one.row.class_id))),
        leaf=leaf_place(wanted, leaf),
    )
    return render_template("returning/overview.html", page=page)


@returning.post("/assignments/<int:assignment_id>/again")
def again(assignment_id: int) -> Response:
    """Make new sheets for those whose work went back, then give the PDF of just those."""
    sheets = print_for_sent_back(
        db(), me().school_id, assignment_id, only_needed=read_form(NewSheetsForm).only_needed.data
    )
    ids = [sheet.id for sheet in sheets]
    return redirect(url_for("printing.pdf", assignment_id=assignment_id, sheet=ids), 303)


@returning.get("/return/<int:photograph_id>/slip")
def slip(photograph_id: int) -> str:
    """Show one student's slip."""
    return _slips((attempt_of_school(db(), me().school_id, photograph_id),))


@returning.get("/return/assignments/<int:assignment_id>/slips")
def slips(assignment_id: int) -> str:
    """Show the slips of everybody whose work on an exercise was decided on."""
    assignment_of_school(db(), me().school_id, assignment_id)
    return _slips(_decided([assignment_id]))


def _decided(assignments: Collection[int]) -> tuple[AttemptRow, ...]:
    """Give what was decided of some assignments, what went back first."""
    states = (ReviewState.SENT_BACK, ReviewState.ACCEPTED)
    found = (decided(db(), me().school_id, state, assignments) for state in states)
    return tuple(one for some in found for one in some)


def _slips(attempts: tuple[AttemptRow, ...]) -> str:
    numbers = [attempt.photograph_id for attempt in attempts]
    bodies, moves = judgements_of(db(), numbers), moves_of(db(), numbers)
    rows = assignments_of_school(db(), me().school_id, {one.assignment_id for one in attempts})
    made = tuple(
        _slip(
            attempt,
            rows[attempt.assignment_id],
            judgement_from_json(bodies[attempt.photograph_id]),
            moves[attempt.photograph_id],
        )
        for attempt in attempts
    )
    page = SlipsPage(frame=frame(Stage.RETURN), slips=made)
    return render_template("returning/slips.html", page=page)


def _slip(attempt: AttemptRow, row: AssignmentRow, judgement: Judgement, moves: Json) -> Slip:
    accepted = attempt.review.state is ReviewState.ACCEPTED
    state, sentence = sent_back(attempt)
    return Slip(
        attempt=attempt,
        row=row,
        strip=make_strip(judgement, attempt.review),
        state=state,
        sentence=sentence,
        moves=() if accepted else moves_said(judgement, attempt.review, row.medium, moves),
        accepted=accepted,
        how=how_again(row.medium),
    )


def _backs(attempts: tuple[AttemptRow, ...], needing: set[int]) -> list[Back]:
    strips = make_tiny_strips([tally_from_json(one.tally) for one in attempts])
    return [
        Back(
            attempt=attempt,
            strip=strip,
            sentence=sent_back(attempt)[1],
            state=gettext(attempt.review.state.value),
            needs_sheet=attempt.photograph_id in needing,
        )
        for attempt, strip in zip(attempts, strips, strict=True)
    ]
