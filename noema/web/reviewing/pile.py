"""The pile: every sheet that waits, and what was just decided."""

from dataclasses import dataclass
from itertools import groupby

from noema.actions.accept_holding import Accepted, holding
from noema.core.judging.review import ReviewState
from noema.formats.judgement_json import tally_from_json
from noema.store.assignments import AssignmentRow, assignment_of_school, assignments_of_school
from noema.store.reviews import AttemptRow, attempt_of_school, waiting_for_review
from noema.web.drawings.strip import TinyStrip, make_tiny_strips
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me


@dataclass(frozen=True, kw_only=True)
class Waits:
    """One sheet in the pile to review."""

    attempt: AttemptRow
    strip: TinyStrip


@dataclass(frozen=True, kw_only=True)
class Heap:
    """The sheets of one exercise that wait, what needs a teacher most first."""

    row: AssignmentRow
    waiting: tuple[Waits, ...]
    holding: int  # that plainly hold


@dataclass(frozen=True, kw_only=True)
class Done:
    """The sheet just decided, so that it can be undone."""

    photograph_id: int
    student: str
    words: str
    lines: int


@dataclass(frozen=True, kw_only=True)
class PilePage:
    """Every sheet that waits."""

    frame: Frame
    heaps: tuple[Heap, ...]
    waiting: int
    done: Done | None


@dataclass(frozen=True, kw_only=True)
class HoldingPage:
    """The sheets of one exercise that plainly hold, side by side."""

    frame: Frame
    row: AssignmentRow
    waiting: tuple[Waits, ...]


def pile_page(done: int | None) -> PilePage:
    """Collect the sheets that wait."""
    attempts = waiting_for_review(db(), me().school_id)
    rows = {row.id: row for row in assignments_of_school(db(), me().school_id)}
    return PilePage(
        frame=frame(Stage.REVIEW),
        heaps=tuple(
            _heap(rows[assignment_id], tuple(group))
            for assignment_id, group in groupby(
                _waits(attempts), lambda one: one.attempt.assignment_id
            )
        ),
        waiting=len(attempts),
        done=done_of(done),
    )


def holding_page(assignment_id: int) -> HoldingPage:
    """Collect what plainly holds of one exercise."""
    row = assignment_of_school(db(), me().school_id, assignment_id)
    return HoldingPage(
        frame=frame(Stage.REVIEW),
        row=row,
        waiting=_waits(holding(db(), me().school_id, assignment_id)),
    )


def done_of(photograph_id: int | None) -> Done | None:
    """Say what was just decided about a sheet."""
    if photograph_id is None:
        return None
    attempt = attempt_of_school(db(), me().school_id, photograph_id)
    words = {
        ReviewState.ACCEPTED: "is accepted",
        ReviewState.SENT_BACK: "goes back with your sentence",
    }
    return Done(
        photograph_id=photograph_id,
        student=attempt.student,
        words=words.get(attempt.review.state, "waits again"),
        lines=attempt.lines,
    )


def _heap(row: AssignmentRow, waiting: tuple[Waits, ...]) -> Heap:
    return Heap(row=row, waiting=waiting, holding=sum(one.attempt.holds_plainly for one in waiting))


def _waits(attempts: tuple[AttemptRow, ...]) -> tuple[Waits, ...]:
    strips = make_tiny_strips([tally_from_json(attempt.tally) for attempt in attempts])
    return tuple(
        Waits(attempt=attempt, strip=strip) for attempt, strip in zip(attempts, strips, strict=True)
    )


@dataclass(frozen=True, kw_only=True)
class AcceptedPage:
    """What became of accepting all that hold."""

    frame: Frame
    row: AssignmentRow
    photograph_ids: tuple[int, ...]
    changed: tuple[str, ...]


def accepted_page(assignment_id: int, accepted: Accepted) -> AcceptedPage:
    """Say how many were accepted, and who wasn't."""
    return AcceptedPage(
        frame=frame(Stage.REVIEW),
        row=assignment_of_school(db(), me().school_id, assignment_id),
        photograph_ids=accepted.photograph_ids,
        changed=accepted.changed,
    )
