"""What waits for a teacher at each stage of the work."""

from collections.abc import Collection
from dataclasses import dataclass

from sqlalchemy import ColumnElement, Select, func, literal, select
from sqlalchemy.orm import Session, aliased

from noema.core.exercises.levels import Key
from noema.core.judging.review import ReviewState
from noema.core.progress.states import PhotoState
from noema.store.reviews import waiting_attempts
from noema.store.revisions import HELD_NOW
from noema.store.tables import (
    Assignment,
    Enrolment,
    KeyRevision,
    Photograph,
    ReviewRow,
    SchoolClass,
    Sheet,
)
from noema.store.terms import is_excused

MOST_COUNTED = 99
"""Nothing is counted beyond: pages that only say what waits mustn't read a whole school."""


@dataclass(frozen=True, kw_only=True)
class Waiting:
    """How many things wait, by stage; one over `MOST_COUNTED` stands for that many or more."""

    to_print: int  # sheets of assignments not yet printed
    reading: int  # photographs stored and not yet read
    in_tray: int  # photographs nobody could match or read
    to_review: int  # attempts without a decision
    to_return: int  # sheets sent back for which no new sheet was printed
    questions: int  # about whole classes, not answered


def waiting_for_teacher(session: Session, school_id: int) -> Waiting:
    """What waits at each stage in a school?"""
    things = {
        "to_print": _to_print(school_id),
        "reading": _photos(school_id, PhotoState.READING),
        "in_tray": _photos(school_id, PhotoState.UNMATCHED, PhotoState.UNREADABLE),
        "to_review": waiting_attempts(school_id),
        "to_return": _sent_back(school_id),
        "questions": _questions(school_id),
    }
    counts = (
        select(func.count())
        .select_from(_as_far_as_counted(question).subquery())
        .scalar_subquery()
        .label(name)
        for name, question in things.items()
    )
    return Waiting(**session.execute(select(*counts)).one()._asdict())


def _as_far_as_counted(question: Select[int]) -> Select[int]:
    found = question.with_only_columns(literal(1), maintain_column_froms=True)
    return found.limit(MOST_COUNTED + 1)


def sent_back_without_sheet(
    session: Session, school_id: int, assignments: Collection[int]
) -> tuple[int, ...]:
    """Which photographs of some assignments were sent back whose student has no newer sheet yet?"""
    question = _sent_back(school_id).where(Sheet.assignment_id.in_(assignments))
    return tuple(session.scalars(question))


def first_question(session: Session, school_id: int) -> int | None:
    """Which assignment has the oldest question about a whole class that isn't answered?"""
    return session.scalar(_questions(school_id).order_by(Assignment.id).limit(1))


def _questions(school_id: int) -> Select[int]:
    return (
        select(Assignment.id)
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .join(KeyRevision, HELD_NOW)
        .where(
            SchoolClass.school_id == school_id,
            KeyRevision.key == Key.PAINTS.value,
            KeyRevision.question.is_not(None),
            KeyRevision.question["answer"].astext.is_(None),
        )
    )


def _sent_back(school_id: int) -> Select[int]:
    newer = aliased(Sheet)
    has_newer = select(newer.id).where(
        newer.assignment_id == Sheet.assignment_id,
        newer.student_id == Sheet.student_id,
        newer.attempt > Sheet.attempt,
    )
    return (
        select(Photograph.id)
        .join(Sheet, Sheet.id == Photograph.sheet_id)
        .join(ReviewRow, ReviewRow.photograph_id == Photograph.id)
        .where(
            ReviewRow.school_id == school_id,
            ~has_newer.exists(),
            ReviewRow.state == ReviewState.SENT_BACK.value,
            ~_newer_photo_of_sheet(),
        )
    )


def _newer_photo_of_sheet() -> ColumnElement[bool]:
    newer = aliased(Photograph)
    return (
        select(newer.id)
        .where(
            newer.sheet_id == Photograph.sheet_id,
            newer.id > Photograph.id,
            newer.state != PhotoState.TOGETHER.value,
        )
        .correlate(Photograph)
        .exists()
    )


def _to_print(school_id: int) -> Select[int]:
    printed = (
        select(Sheet.id)
        .where(Sheet.assignment_id == Assignment.id, Sheet.student_id == Enrolment.student_id)
        .exists()
    )
    return (
        select(Assignment.id)
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .join(Enrolment, Enrolment.class_id == SchoolClass.id)
        .where(
            SchoolClass.school_id == school_id,
            Assignment.withdrawn_at.is_(None),
            ~printed,
            ~is_excused(),
        )
    )


def _photos(school_id: int, *states: PhotoState) -> Select[int]:
    return select(Photograph.id).where(
        Photograph.school_id == school_id, Photograph.state.in_([s.value for s in states])
    )
