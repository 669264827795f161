"""What the review desk shows."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import cast

from noema.actions.work_out_exercise import exercise_of
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.painted_keys import as_painted
from noema.core.exercises.value_scale import KIND
from noema.core.judging.judgement import CellJudgement, Judgement, past_room
from noema.core.judging.review import Review, ReviewState, Verb
from noema.core.judging.verdict import Verdict
from noema.core.judging.words import cell_words, opening
from noema.core.photo.hints import hints
from noema.core.photo.knowledge import Knowledge, knowledge_sentence
from noema.core.photo.reading import SheetFlag
from noema.formats.judgement_json import judgement_from_json, tally_from_json
from noema.formats.layout_json import layout_from_json
from noema.store.assignments import AssignmentRow, assignment_of_school
from noema.store.decisions import RecordLine, record_of
from noema.store.paints import hue_words
from noema.store.reviews import (
    AttemptRow,
    attempt_of_school,
    judgements_of,
    notes_of,
    review_queue,
    waiting_for_review,
)
from noema.store.sheets import layouts_of_sheets
from noema.web.drawings.asked_plot import AskedPlot, make_asked_plot
from noema.web.drawings.stair import Stair, make_stair
from noema.web.drawings.strip import Strip, TinyStrip, make_strip, make_tiny_strips
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

VIEWS = {
    "straight": "Straightened",
    "photograph": "Photograph",
    "greyscale": "Greyscale",
    "squint": "Squint",
    "isolated": "Isolated",
}
"""Ways of looking, each with a number key from 1."""


@dataclass(frozen=True, kw_only=True)
class Waits:
    """One sheet in the pile to review."""

    attempt: AttemptRow
    strip: TinyStrip


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
    waiting: tuple[Waits, ...]
    done: Done | None


@dataclass(frozen=True, kw_only=True)
class Outline:
    """A cell on the straightened sheet."""

    id: str
    points: str  # SVG polygon, mm
    said: str


@dataclass(frozen=True, kw_only=True)
class DeskPage:
    """One sheet on the desk."""

    frame: Frame
    attempt: AttemptRow
    assignment: AssignmentRow
    judgement: Judgement
    review: Review
    strip: Strip
    stair: Stair | None  # of a value scale; the other kinds have a plot of their own
    plot: AskedPlot | None
    outlines: tuple[Outline, ...]
    size_mm: tuple[float, float]
    hints: tuple[str, ...]  # about the photograph, and what its reading went by
    place: str  # such as 3 of 24
    before: int | None  # photograph to go back to
    after: int | None
    selected: str
    cell: CellJudgement
    cell_verdict: str  # the word that counts
    cell_before: str
    cell_after: str
    view: str
    views: dict[str, str]
    record: tuple[str, ...]  # lines for people, newest first
    lines: int
    done: Done | None
    suggestion: str  # what to write when sending back


def pile_page(done: int | None) -> PilePage:
    """Collect the sheets that wait."""
    attempts = waiting_for_review(db(), me().school_id)
    strips = make_tiny_strips([tally_from_json(attempt.tally) for attempt in attempts])
    return PilePage(
        frame=frame(Stage.REVIEW),
        waiting=tuple(
            Waits(attempt=attempt, strip=strip)
            for attempt, strip in zip(attempts, strips, strict=True)
        ),
        done=_done(done),
    )


def desk_page(photograph_id: int, *, cell: str | None, view: str, done: int | None) -> DeskPage:
    """Collect everything about one sheet."""
    attempt = attempt_of_school(db(), me().school_id, photograph_id)
    body = judgements_of(db(), [photograph_id])[photograph_id]
    judgement = judgement_from_json(body)
    layout = layout_from_json(layouts_of_sheets(db(), [attempt.sheet_id])[attempt.sheet_id])
    assignment = assignment_of_school(db(), me().school_id, attempt.assignment_id)
    is_scale = judgement.exercise == KIND
    queue = review_queue(db(), me().school_id)
    lines = record_of(db(), photograph_id)
    ids = [one.id for one in judgement.cells]
    names = {one.id: one.label for one in judgement.cells}
    selected = cell if cell in ids else _most_telling(judgement)
    place = ids.index(selected)
    verdict = attempt.review.overruled.get(selected, judgement.cells[place].verdict)
    return DeskPage(
        frame=frame(Stage.REVIEW),
        attempt=attempt,
        assignment=assignment,
        judgement=judgement,
        review=attempt.review,
        strip=make_strip(judgement, attempt.review),
        stair=make_stair(judgement) if is_scale else None,
        plot=None if is_scale else _plot(assignment, judgement),
        outlines=tuple(
            Outline(
                id=one.id,
                points=" ".join(f"{x:.2f},{y:.2f}" for x, y in one.polygon_mm),
                said=opening(cell_words(names.get(one.id, one.label))),
            )
            for one in layout.cells
        ),
        size_mm=(layout.width_mm, layout.height_mm),
        hints=_hints(photograph_id),
        place=_place(queue, photograph_id),
        before=_neighbour(queue, photograph_id, -1),
        after=_neighbour(queue, photograph_id, 1),
        selected=selected,
        cell=judgement.cells[place],
        cell_verdict=verdict.value,
        cell_before=ids[max(place - 1, 0)],
        cell_after=ids[min(place + 1, len(ids) - 1)],
        view=view if view in VIEWS else "straight",
        views=VIEWS,
        record=tuple(_said(line, names) for line in reversed(lines)),
        lines=len(lines),
        done=_done(done),
        suggestion=attempt.review.sentence or attempt.sentence,
    )


def next_in_queue(photograph_id: int) -> int | None:
    """Give the sheet that comes after one, round to the first."""
    queue = review_queue(db(), me().school_id)
    after = _neighbour(queue, photograph_id, 1)
    if after is None:
        after = next((one for one in queue if one != photograph_id), None)
    return after


def _most_telling(judgement: Judgement) -> str:
    """Begin at the cell that strays most."""
    return max(judgement.cells, key=past_room).id


def _plot(assignment: AssignmentRow, judgement: Judgement) -> AskedPlot:
    """Draw the exercise's own plot: expected as judged, joined to what was painted."""
    asked = as_painted(
        exercise_of(db(), assignment).asked,
        {cell.id: cell.expected_lab for cell in judgement.cells},
    )
    painted = {cell.id: cell.painted_lab for cell in judgement.cells}
    table = hue_words(db(), me().school_id).table
    return make_asked_plot(asked, kind_of(asked.kind).plot, table, painted)


def _hints(photograph_id: int) -> tuple[str, ...]:
    flags, knowledge = notes_of(db(), photograph_id)
    said = knowledge_sentence([Knowledge(one) for one in knowledge])
    return (*hints([SheetFlag(flag) for flag in flags]), *([said] if said else []))


def _place(queue: tuple[int, ...], photograph_id: int) -> str:
    if photograph_id not in queue:
        return "decided"
    return f"{queue.index(photograph_id) + 1} of {len(queue)}"


def _neighbour(queue: tuple[int, ...], photograph_id: int, step: int) -> int | None:
    if photograph_id not in queue:
        return queue[0] if queue and step > 0 else None
    place = queue.index(photograph_id) + step
    return queue[place] if 0 <= place < len(queue) else None


def _done(photograph_id: int | None) -> Done | None:
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
        lines=len(record_of(db(), photograph_id)),
    )


def _said(line: RecordLine, names: Mapping[str, str]) -> str:
    decision = line.decision
    step = cell_words(names.get(decision.cell or "", ""))
    what = {
        Verb.ACCEPT: "accepted the sheet",
        Verb.SEND_BACK: f"sent it back: “{decision.sentence}”",
        Verb.LEAVE_OUT: f"left {step} out",
        Verb.COUNT: f"counted {step} again",
        Verb.OVERRULE: f"said {step} {cast(Verdict, decision.verdict or Verdict.LOOK).value}",
        Verb.UNDO: "undid the decision before",
    }[decision.verb]
    return f"{line.teacher} {what}, {line.made_at:%d %b %H:%M} UTC"
