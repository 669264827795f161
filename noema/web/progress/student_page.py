"""What a student's page shows: attempts in time, how close the values came, what improved."""

from dataclasses import dataclass
from itertools import groupby

from noema.core.judging.judgement import Judgement
from noema.core.progress.value_accuracy import Accuracy, accuracy_of, change_words, gained
from noema.formats.judgement_json import judgement_from_json, tally_from_json
from noema.store.assignments import AssignmentRow, assignments_of_class
from noema.store.classes import ClassRow, StudentRow, class_of_school, student_of_class
from noema.store.judgements import judgements_of
from noema.store.reviews import AttemptRow, attempts_of_student
from noema.web.drawings.strip import BRACKET_SIGMAS, Strip, TinyStrip, make_strip, make_tiny_strips
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

WIDTH, HEIGHT, LEFT, BOTTOM = 620.0, 200.0, 40.0, 30.0
_MOST_DRIFT = 1.6  # value steps at the plot's foot


@dataclass(frozen=True, kw_only=True)
class Dot:
    """One attempt on the plot of accuracy."""

    x: float
    y: float
    high: float
    low: float
    label: str
    said: str


@dataclass(frozen=True, kw_only=True)
class AttemptView:
    """One attempt in words and picture."""

    attempt: AttemptRow
    number: int
    week: str  # of the unit, in which it was handed in
    strip: TinyStrip
    change: str
    gains: tuple[str, ...]
    state: str
    sentence: str


@dataclass(frozen=True, kw_only=True)
class Work:
    """All attempts at one assignment."""

    row: AssignmentRow
    attempts: tuple[AttemptView, ...]


@dataclass(frozen=True, kw_only=True)
class StudentPage:
    """A student in a class."""

    frame: Frame
    row: ClassRow
    student: StudentRow
    works: tuple[Work, ...]
    dots: tuple[Dot, ...]
    line: str  # SVG path through the dots
    latest: Strip | None
    ticks: tuple[tuple[str, float], ...]
    width: float = WIDTH
    height: float = HEIGHT
    left: float = LEFT


def student_page(class_id: int, student_id: int) -> StudentPage:
    """Collect a student's attempts."""
    row = class_of_school(db(), me().school_id, class_id)
    student = student_of_class(db(), class_id, student_id)
    attempts = attempts_of_student(db(), class_id, student_id)
    bodies = judgements_of(db(), [attempt.photograph_id for attempt in attempts])
    judgements = {photo: judgement_from_json(body) for photo, body in bodies.items()}
    given = {a.id: a for a in assignments_of_class(db(), class_id)}
    works = tuple(
        Work(row=given[assignment_id], attempts=_attempt_views(row, list(group), judgements))
        for assignment_id, group in groupby(attempts, key=lambda a: a.assignment_id)
    )
    in_time = sorted(attempts, key=lambda a: (a.received_at, a.photograph_id))
    dots = _dots(in_time)
    last = in_time[-1] if in_time else None
    return StudentPage(
        frame=frame(Stage.PROGRESS),
        row=row,
        student=student,
        works=works,
        dots=dots,
        line="M" + "L".join(f"{dot.x} {dot.y}" for dot in dots) if len(dots) > 1 else "",
        latest=make_strip(judgements[last.photograph_id], last.review) if last else None,
        ticks=tuple((f"{drift:.1f}", _y(drift)) for drift in (0.0, 0.5, 1.0, 1.5)),
    )


def _attempt_views(
    row: ClassRow, attempts: list[AttemptRow], judgements: dict[int, Judgement]
) -> tuple[AttemptView, ...]:
    tallies = [tally_from_json(attempt.tally) for attempt in attempts]
    strips = make_tiny_strips(tallies)
    views, before, troubles = [], None, None
    for number, (attempt, strip) in enumerate(zip(attempts, strips, strict=True), start=1):
        judgement = judgements[attempt.photograph_id]
        accuracy = accuracy_of(tallies[number - 1], attempt.review)
        kinds = [finding.kind for finding in judgement.findings]
        views.append(
            AttemptView(
                attempt=attempt,
                number=number,
                week=f"week {row.week_on(attempt.received_at.date())}",
                strip=strip,
                change=change_words(before, accuracy),
                gains=() if troubles is None else tuple(gained(troubles, kinds)),
                state=attempt.review.state.value,
                sentence=attempt.review.sentence or attempt.sentence,
            )
        )
        before, troubles = accuracy or before, kinds
    return tuple(views)


def _dots(attempts: list[AttemptRow]) -> tuple[Dot, ...]:
    seen: list[Accuracy] = [
        accuracy
        for attempt in attempts
        if (accuracy := accuracy_of(tally_from_json(attempt.tally), attempt.review))
    ]
    stride = (WIDTH - LEFT) / max(len(seen), 1)
    return tuple(
        Dot(
            x=round(LEFT + (n + 0.5) * stride, 1),
            y=_y(accuracy.mean_drift),
            high=_y(accuracy.mean_drift - BRACKET_SIGMAS * accuracy.sigma),
            low=_y(accuracy.mean_drift + BRACKET_SIGMAS * accuracy.sigma),
            label=str(n + 1),
            said=f"Attempt {n + 1}: {accuracy.mean_drift:.2f} of a value from its steps, "
            f"{accuracy.holds} of {accuracy.counted} hold",
        )
        for n, accuracy in enumerate(seen)
    )


def _y(drift: float) -> float:
    """No drift stands at the top: rising is getting closer."""
    room = HEIGHT - BOTTOM - 12.0
    return round(12.0 + room * max(0.0, min(drift, _MOST_DRIFT)) / _MOST_DRIFT, 1)
