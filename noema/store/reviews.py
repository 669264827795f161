"""Attempts with their judgements, and what teachers decided about them."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import (
    ColumnElement,
    Row,
    ScalarSelect,
    Select,
    Text,
    func,
    literal,
    select,
    true,
    tuple_,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session, aliased

from noema.core.coaching.audience import Audience
from noema.core.errors import NotFound
from noema.core.exercises.media import Medium
from noema.core.judging.review import Review, ReviewState
from noema.core.judging.verdict import Verdict
from noema.core.language import gettext
from noema.core.progress.states import PhotoState
from noema.store.base import Json
from noema.store.tables import (
    RECORD_ONLY,
    Assignment,
    DecisionRow,
    JudgementRow,
    KeyRevision,
    Photograph,
    ReviewRow,
    SchoolClass,
    Sheet,
    Student,
)


@dataclass(frozen=True, kw_only=True)
class AttemptRow:
    """One photograph of a student's sheet, judged, with the teacher's word on it."""

    photograph_id: int
    sheet_id: int
    code: str
    student_id: int
    student: str
    assignment_id: int
    class_id: int
    class_name: str
    received_at: datetime
    tally: Json  # the judgement boiled down
    advice: Json  # what Noema advises, as facts
    audience: Audience  # whom it is said to
    medium: Medium
    attention: float  # how much it needs a look
    holds_plainly: bool
    is_behind: bool  # judged by an earlier key than the one that holds now
    lines: int  # of the record of decisions
    review: Review


def attempt_of_school(session: Session, school_id: int, photograph_id: int) -> AttemptRow:
    """Which attempt is this, if it is one of the school's and has been judged?"""
    return attempts_of_school(session, school_id, [photograph_id])[0]


def attempts_of_school(
    session: Session, school_id: int, photograph_ids: Sequence[int]
) -> tuple[AttemptRow, ...]:
    """Which attempts are these, in this order, if all are the school's and have been judged?"""
    rows = _rows(
        session,
        _attempts().where(
            Photograph.school_id == school_id,
            Photograph.id.in_(photograph_ids),
            Photograph.state == PhotoState.READ.value,
        ),
    )
    found = {row.photograph_id: row for row in rows}
    if set(found) != set(photograph_ids):
        raise NotFound(gettext("There is no such sheet to review in your school."))
    return tuple(found[number] for number in photograph_ids)


def waiting_for_review(
    session: Session,
    school_id: int,
    assignments: Collection[int] | None = None,
    at_most: int | None = None,
) -> tuple[AttemptRow, ...]:
    """Which attempts wait for the teacher, in the order of their class, assignment and sheet?

    Of some assignments, or of every one; of each no more than so many.
    """
    question = _waiting(school_id)
    if assignments is not None:
        question = question.where(Sheet.assignment_id.in_(assignments))
    if at_most is not None:
        place = func.row_number().over(partition_by=Sheet.assignment_id, order_by=_IN_ORDER)
        placed = question.with_only_columns(Photograph.id, place.label("place")).subquery()
        # Asked by themselves: what is shown of a few is found by their numbers alone.
        first = session.scalars(select(placed.c.id).where(placed.c.place <= at_most)).all()
        question = _attempts().where(Photograph.id.in_(first))
    return _rows(session, question.order_by(*_IN_ORDER))


@dataclass(frozen=True, kw_only=True)
class Waits:
    """How many sheets of an assignment wait for the teacher."""

    waiting: int
    holding: int  # that plainly hold, by the key that holds now


def has_waiting(school_id: int) -> ColumnElement[bool]:
    """Assignments of which a sheet waits for the teacher."""
    waiting = (
        select(Sheet.assignment_id)
        .join(Photograph, Photograph.sheet_id == Sheet.id)
        .join(ReviewRow, ReviewRow.photograph_id == Photograph.id)
        .where(*_stands(school_id, ReviewState.OPEN))
    )
    return Assignment.id.in_(waiting)


def has_decided(school_id: int) -> ColumnElement[bool]:
    """Assignments of which a sheet was decided on."""
    decided_on = (
        select(Sheet.assignment_id)
        .join(Photograph, Photograph.sheet_id == Sheet.id)
        .join(ReviewRow, ReviewRow.photograph_id == Photograph.id)
        .where(ReviewRow.state != ReviewState.OPEN.value, ReviewRow.school_id == school_id)
    )
    return Assignment.id.in_(decided_on)


def waiting_by_assignment(
    session: Session, school_id: int, assignments: Collection[int]
) -> dict[int, Waits]:
    """How many sheets of which of some assignments wait for the teacher?"""
    holds = JudgementRow.holds_plainly & (KeyRevision.number == Assignment.revision)
    question = (
        _waiting(school_id)
        .with_only_columns(
            Sheet.assignment_id,
            func.count().label("waiting"),
            func.count().filter(holds).label("holding"),
        )
        .where(Sheet.assignment_id.in_(assignments))
        .group_by(Sheet.assignment_id)
    )
    return {
        row.assignment_id: Waits(waiting=row.waiting, holding=row.holding)
        for row in session.execute(question)
    }


def waiting_attempts(school_id: int) -> Select[int]:
    """Which attempts wait for the teacher, for counting them?"""
    return (
        select(Photograph.id)
        .join(Sheet, Sheet.id == Photograph.sheet_id)
        .join(ReviewRow, ReviewRow.photograph_id == Photograph.id)
        .where(*_stands(school_id, ReviewState.OPEN))
    )


def decided(
    session: Session, school_id: int, state: ReviewState, assignments: Collection[int]
) -> tuple[AttemptRow, ...]:
    """Which latest attempts of some assignments stand accepted, or sent back?"""
    question = _latest(school_id, state).where(Sheet.assignment_id.in_(assignments))
    return _rows(session, question.order_by(*_IN_ORDER))


def sent_back_of_assignment(session: Session, assignment_id: int) -> tuple[AttemptRow, ...]:
    """Which latest attempts of an assignment were sent back?"""
    back = ReviewRow.state == ReviewState.SENT_BACK.value
    of_it = Sheet.assignment_id == assignment_id
    return _rows(session, _attempts().where(of_it, back, *_IS_LATEST))


def latest_of_assignment(session: Session, assignment_id: int) -> tuple[AttemptRow, ...]:
    """What was handed in for an assignment and judged, latest attempts only, without skills?"""
    of_it = Sheet.assignment_id == assignment_id
    return _rows(session, _attempts(_without_skills()).where(of_it, *_IS_LATEST))


@dataclass(frozen=True, kw_only=True)
class QueuePlace:
    """Where a sheet lies among those that wait."""

    number: int | None  # from 1; None where it doesn't wait
    waiting: int  # how many do
    before: int | None  # photograph
    after: int | None
    first: int | None  # that isn't this one


def place_in_queue(session: Session, school_id: int, photograph_id: int) -> QueuePlace:
    """Where does a photograph lie among those that wait for the teacher, and between which?"""
    queue = (
        select(
            Photograph.id,
            *(
                what.over(order_by=_IN_ORDER).label(name)
                for name, what in (
                    ("number", func.row_number()),
                    ("before", func.lag(Photograph.id)),
                    ("after", func.lead(Photograph.id)),
                )
            ),
            func.count().over().label("waiting"),
        )
        .join(Sheet, Sheet.id == Photograph.sheet_id)
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .join(ReviewRow, ReviewRow.photograph_id == Photograph.id)
        .join(JudgementRow, JudgementRow.id == ReviewRow.judgement_id)
        .where(*_stands(school_id, ReviewState.OPEN))
        .subquery()
    )
    near = (queue.c.id == photograph_id) | (queue.c.number <= 2)
    rows = session.execute(select(queue).where(near).order_by(queue.c.number)).all()
    own = next((row for row in rows if row.id == photograph_id), None)
    return QueuePlace(
        number=None if own is None else own.number,
        waiting=rows[0].waiting if rows else 0,
        before=None if own is None else own.before,
        after=None if own is None else own.after,
        first=next((row.id for row in rows if row.id != photograph_id), None),
    )


def attempts_of_class(
    session: Session,
    class_id: int,
    students: Collection[int] | None = None,
    assignments: Collection[int] | None = None,
) -> tuple[AttemptRow, ...]:
    """What did a class, or some of it, hand in that was judged, latest only, without skills?"""
    whose = true() if students is None else Sheet.student_id.in_(students)
    which = true() if assignments is None else Sheet.assignment_id.in_(assignments)
    of_class = (Assignment.class_id == class_id) & whose & which
    return _rows(session, _attempts(_without_skills()).where(of_class, *_IS_LATEST))


@dataclass(frozen=True, kw_only=True)
class Tries:
    """How often somebody tried an exercise."""

    attempts: int  # photographed and read
    sheets: int  # that these were of


def tries_of_class(session: Session, class_id: int) -> dict[tuple[int, int], Tries]:
    """How often did each student of a class try what, by student and assignment?"""
    rows = session.execute(
        select(
            Sheet.student_id,
            Sheet.assignment_id,
            func.count(Photograph.id),
            func.count(Sheet.id.distinct()),
        )
        .join(Photograph, Photograph.sheet_id == Sheet.id)
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .where(
            Assignment.class_id == class_id,
            Sheet.student_id.is_not(None),
            Photograph.state == PhotoState.READ.value,
        )
        .group_by(Sheet.student_id, Sheet.assignment_id)
    )
    return {
        (student, given): Tries(attempts=attempts, sheets=sheets)
        for student, given, attempts, sheets in rows
        if student is not None
    }


def attempts_in_class(session: Session, class_id: int) -> tuple[AttemptRow, ...]:
    """What did a class hand in that was judged, every attempt, oldest first?"""
    read = Photograph.state == PhotoState.READ.value
    return attempts_where(session, Assignment.class_id == class_id, read)


def attempts_where(session: Session, *conditions: ColumnElement[bool]) -> tuple[AttemptRow, ...]:
    """Which judged attempts meet some conditions, by exercise, oldest first?"""
    in_time = (Photograph.received_at, Photograph.id)
    order = (Assignment.due_week, Assignment.id, *in_time)
    return _rows(session, _attempts().where(*conditions).order_by(*order))


_IN_ORDER = (
    SchoolClass.name,
    Assignment.due_week,
    Assignment.id,
    JudgementRow.attention.desc(),
    Sheet.number,
    Photograph.id,
)
"""Class by class and exercise by exercise, in each what needs a teacher's eyes most first."""


def _attempts(tally: ColumnElement[Any] | None = None) -> Select[*tuple[Any, ...]]:
    return (
        select(
            Photograph.id.label("photograph_id"),
            Photograph.received_at,
            Sheet.id.label("sheet_id"),
            Sheet.code,
            Sheet.student_id,
            Student.display_name.label("student"),
            Sheet.assignment_id,
            Assignment.class_id,
            SchoolClass.name.label("class_name"),
            (JudgementRow.tally if tally is None else tally).label("tally"),
            func.coalesce(ReviewRow.advice, JudgementRow.advice).label("advice"),
            func.coalesce(Student.audience, SchoolClass.audience).label("audience"),
            Assignment.medium,
            JudgementRow.attention,
            JudgementRow.holds_plainly,
            (KeyRevision.number != Assignment.revision).label("is_behind"),
            _lines().label("lines"),
            ReviewRow.state,
            ReviewRow.sentence.label("said"),
            ReviewRow.left_out,
            ReviewRow.overruled,
            ReviewRow.standing,
        )
        .join(Sheet, Sheet.id == Photograph.sheet_id)
        .join(Student, Student.id == Sheet.student_id)
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .join(ReviewRow, ReviewRow.photograph_id == Photograph.id)
        .join(JudgementRow, JudgementRow.id == ReviewRow.judgement_id)
        .join(KeyRevision, KeyRevision.id == JudgementRow.revision_id)
    )


def _without_skills() -> ColumnElement[Any]:
    """Give tallies without what is most of them, which tables of hundreds don't show."""
    return JudgementRow.tally.op("-", return_type=JSONB())(literal("skills", Text()))


def _lines() -> ScalarSelect[int]:
    """Count an attempt's lines in the record of decisions."""
    return (
        select(func.count(DecisionRow.id))
        .where(DecisionRow.photograph_id == Photograph.id, DecisionRow.verb.not_in(RECORD_ONLY))
        .correlate(Photograph)
        .scalar_subquery()
    )


def _waiting(school_id: int) -> Select[*tuple[Any, ...]]:
    return _latest(school_id, ReviewState.OPEN)


def _latest(school_id: int, state: ReviewState) -> Select[*tuple[Any, ...]]:
    return _attempts().where(*_stands(school_id, state))


def _stands(school_id: int, state: ReviewState) -> tuple[ColumnElement[bool], ...]:
    """Latest attempts of a school that stand so."""
    return (ReviewRow.school_id == school_id, ReviewRow.state == state.value, *_IS_LATEST)


def _newer_exists() -> ColumnElement[bool]:
    """Whether the same student handed in the same exercise again later, and it was read."""
    newer, its_sheet = aliased(Photograph), aliased(Sheet)
    return (
        select(newer.id)
        .join(its_sheet, its_sheet.id == newer.sheet_id)
        .where(
            its_sheet.assignment_id == Sheet.assignment_id,
            its_sheet.student_id == Sheet.student_id,
            newer.state == PhotoState.READ.value,
            tuple_(newer.received_at, newer.id) > tuple_(Photograph.received_at, Photograph.id),
        )
        .correlate(Sheet, Photograph)
        .exists()
    )


_IS_LATEST = (Photograph.state == PhotoState.READ.value, ~_newer_exists())
"""Attempts read, and none of the same student's at the same exercise after them."""


def _rows(session: Session, question: Select[*tuple[Any, ...]]) -> tuple[AttemptRow, ...]:
    return tuple(
        AttemptRow(
            photograph_id=row.photograph_id,
            sheet_id=row.sheet_id,
            code=row.code,
            student_id=row.student_id,
            student=row.student,
            assignment_id=row.assignment_id,
            class_id=row.class_id,
            class_name=row.class_name,
            received_at=row.received_at,
            tally=row.tally,
            advice=row.advice,
            audience=Audience(row.audience),
            medium=Medium(row.medium),
            attention=row.attention,
            holds_plainly=row.holds_plainly,
            is_behind=row.is_behind,
            lines=row.lines,
            review=_review(row),
        )
        for row in session.execute(question)
    )


def _review(row: Row[*tuple[Any, ...]]) -> Review:
    return Review(
        state=ReviewState(row.state),
        sentence=row.said,
        left_out=frozenset(row.left_out),
        overruled={cell: Verdict(verdict) for cell, verdict in row.overruled.items()},
        standing=row.standing,
    )


def earlier_attempt(session: Session, school_id: int, attempt: AttemptRow) -> AttemptRow | None:
    """Which attempt of the same student at the same exercise came last before this one?"""
    question = (
        _attempts()
        .where(
            Photograph.school_id == school_id,
            Photograph.state == PhotoState.READ.value,
            Sheet.assignment_id == attempt.assignment_id,
            Sheet.student_id == attempt.student_id,
            Photograph.received_at < attempt.received_at,
        )
        .order_by(Photograph.received_at.desc(), Photograph.id.desc())
        .limit(1)
    )
    return next(iter(_rows(session, question)), None)
