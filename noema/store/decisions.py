"""The record of decisions, and the review it folds to."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from noema.core.judging.review import Decision, Review, Verb
from noema.core.judging.verdict import Verdict
from noema.store.base import Json
from noema.store.tables import RECORD_ONLY, DecisionRow, ReviewRow, Teacher


@dataclass(frozen=True, kw_only=True)
class RecordLine:
    """One line of the record, for people."""

    teacher: str
    made_at: datetime
    decision: Decision


def record_of(session: Session, photograph_id: int) -> tuple[RecordLine, ...]:
    """Who decided what about an attempt, oldest first?"""
    question = (
        select(DecisionRow, Teacher.display_name)
        .join(Teacher, Teacher.id == DecisionRow.teacher_id)
        .where(DecisionRow.photograph_id == photograph_id, DecisionRow.verb.not_in(RECORD_ONLY))
        .order_by(DecisionRow.id)
    )
    return tuple(
        RecordLine(teacher=name, made_at=row.made_at, decision=_decision(row))
        for row, name in session.execute(question)
    )


def lock_review(session: Session, photograph_id: int) -> None:
    """Hold an attempt's review, so that two teachers decide one after the other."""
    session.execute(
        select(ReviewRow.photograph_id)
        .where(ReviewRow.photograph_id == photograph_id)
        .with_for_update()
    )


def record(
    session: Session, photograph_id: int, teacher_id: int, verb: str, decision: Decision | None
) -> None:
    """Add a line to the record."""
    session.add(
        DecisionRow(
            photograph_id=photograph_id,
            teacher_id=teacher_id,
            verb=verb,
            cell=decision.cell if decision else None,
            verdict=decision.verdict.value if decision and decision.verdict else None,
            sentence=decision.sentence if decision else None,
        )
    )
    session.flush()


def keep_review(session: Session, photograph_id: int, review: Review) -> None:
    """Keep the state a record folds to."""
    row = session.get_one(ReviewRow, photograph_id)
    row.state = review.state.value
    row.sentence = review.sentence
    row.left_out = sorted(review.left_out)
    row.overruled = {cell: verdict.value for cell, verdict in review.overruled.items()}
    row.standing = review.standing
    session.flush()


def keep_advice(session: Session, photograph_id: int, advice: Json | None) -> None:
    """Keep what is said of a sheet where the teacher's word changes it; None where it doesn't."""
    session.get_one(ReviewRow, photograph_id).advice = advice
    session.flush()


def decisions(lines: Iterable[RecordLine]) -> list[Decision]:
    """Give the bare decisions of a record."""
    return [line.decision for line in lines]


def _decision(row: DecisionRow) -> Decision:
    return Decision(
        verb=Verb(row.verb),
        cell=row.cell,
        verdict=None if row.verdict is None else Verdict(row.verdict),
        sentence=row.sentence,
    )
