"""The queue: every sheet that waits, and what was just decided."""

from dataclasses import dataclass
from itertools import groupby

from noema.actions.accept_holding import Accepted, holding
from noema.actions.say_to import sentence_of
from noema.core.judging.review import ReviewState
from noema.core.language import gettext
from noema.formats.judgement_json import tally_from_json
from noema.store.assignments import AssignmentRow, assignment_of_school, assignments_found
from noema.store.reviews import (
    AttemptRow,
    Waits,
    attempt_of_school,
    has_waiting,
    waiting_by_assignment,
    waiting_for_review,
)
from noema.web.drawings.strip import TinyStrip, make_tiny_strips
from noema.web.frame.leaf import LeafPlace, leaf_place, wanted_leaf
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

_MOST_SHOWN = 24  # sheets of an exercise; the desk leads through all
_MOST_HEAPS = 8  # exercises on a page
_MOST_LINES = 96  # sheets on a page


@dataclass(frozen=True, kw_only=True)
class QueueLine:
    """One sheet in the queue for review."""

    attempt: AttemptRow
    strip: TinyStrip
    sentence: str  # what Noema advises


@dataclass(frozen=True, kw_only=True)
class Heap:
    """The sheets of one exercise that wait, what needs a teacher most first."""

    row: AssignmentRow
    shown: tuple[QueueLine, ...]  # the first of them
    waiting: int
    holding: int  # that plainly hold


@dataclass(frozen=True, kw_only=True)
class Done:
    """The sheet just decided, so that it can be undone."""

    photograph_id: int
    student: str
    words: str
    lines: int


@dataclass(frozen=True, kw_only=True)
class QueuePage:
    """Every sheet that waits."""

    frame: Frame
    heaps: tuple[Heap, ...]
    leaf: LeafPlace
    waiting: int  # in the whole school, as far as is counted
    done: Done | None


@dataclass(frozen=True, kw_only=True)
class HoldingPage:
    """The sheets of one exercise that plainly hold, side by side."""

    frame: Frame
    row: AssignmentRow
    waiting: tuple[QueueLine, ...]


def queue_page(done: int | None) -> QueuePage:
    """Collect the sheets that wait, of a leaf of the exercises."""
    school_id, wanted, around = me().school_id, wanted_leaf(_MOST_HEAPS), frame(Stage.REVIEW)
    leaf = assignments_found(db(), school_id, wanted, has_waiting(school_id))
    rows = {row.id: row for row in leaf.shown}
    counts = waiting_by_assignment(db(), school_id, rows)
    at_most = min(_MOST_SHOWN, _MOST_LINES // max(len(rows), 1))
    attempts = waiting_for_review(db(), school_id, rows, at_most=at_most)
    return QueuePage(
        frame=around,
        heaps=tuple(
            _heap(rows[assignment_id], tuple(group), counts[assignment_id])
            for assignment_id, group in groupby(
                _shown(attempts), lambda one: one.attempt.assignment_id
            )
        ),
        leaf=leaf_place(wanted, leaf),
        waiting=around.waiting.to_review,
        done=done_of(done),
    )


def holding_page(assignment_id: int) -> HoldingPage:
    """Collect what plainly holds of one exercise."""
    row = assignment_of_school(db(), me().school_id, assignment_id)
    return HoldingPage(
        frame=frame(Stage.REVIEW),
        row=row,
        waiting=_shown(holding(db(), me().school_id, assignment_id)),
    )


def done_of(photograph_id: int | None) -> Done | None:
    """Say what was just decided about a sheet."""
    if photograph_id is None:
        return None
    return decided_just_now(attempt_of_school(db(), me().school_id, photograph_id))


def decided_just_now(attempt: AttemptRow) -> Done:
    """Say what was decided about an attempt."""
    words = {
        ReviewState.ACCEPTED: gettext("is accepted"),
        ReviewState.SENT_BACK: gettext("goes back with your sentence"),
    }
    return Done(
        photograph_id=attempt.photograph_id,
        student=attempt.student,
        words=words.get(attempt.review.state, gettext("waits again")),
        lines=attempt.lines,
    )


def _heap(row: AssignmentRow, shown: tuple[QueueLine, ...], count: Waits) -> Heap:
    return Heap(row=row, shown=shown, waiting=count.waiting, holding=count.holding)


def _shown(attempts: tuple[AttemptRow, ...]) -> tuple[QueueLine, ...]:
    strips = make_tiny_strips([tally_from_json(attempt.tally) for attempt in attempts])
    return tuple(
        QueueLine(attempt=attempt, strip=strip, sentence=sentence_of(attempt))
        for attempt, strip in zip(attempts, strips, strict=True)
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
