"""Judgements of readings, and what was said with them."""

from collections.abc import Collection
from dataclasses import asdict, dataclass

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.store.base import Json
from noema.store.tables import (
    JudgementRow,
    Photograph,
    ReadingRow,
    ReviewRow,
)


@dataclass(frozen=True, kw_only=True)
class NewJudgement:
    """A judgement about to be kept."""

    reading_id: int
    judge: str  # the judge's version
    revision_id: int  # of the key it is judged by
    gentler: bool  # a level more gently than the class
    body: Json
    tally: Json
    advice: Json  # what one sentence says of it, as facts
    moves: Json  # the next by cell, as facts
    attention: float  # how much it needs a look
    holds_plainly: bool


def add_judgement(session: Session, new: NewJudgement) -> int:
    """Keep a judgement and give its number; the same one isn't kept twice, whoever comes first."""
    added = insert(JudgementRow).values(**asdict(new)).on_conflict_do_nothing()
    number: int | None = session.scalar(added.returning(JudgementRow.id))
    if number is not None:
        return number
    same = select(JudgementRow.id).where(
        JudgementRow.reading_id == new.reading_id,
        JudgementRow.judge == new.judge,
        JudgementRow.revision_id == new.revision_id,
        JudgementRow.gentler == new.gentler,
    )
    return session.scalars(same).one()


def open_review(session: Session, photograph_id: int, judgement_id: int) -> None:
    """Put an attempt before the teacher, or a new judgement under a review that stands."""
    row = session.get(ReviewRow, photograph_id)
    if row is None:
        school = select(Photograph.school_id).where(Photograph.id == photograph_id)
        row = ReviewRow(
            photograph_id=photograph_id,
            school_id=session.scalars(school).one(),
            left_out=[],
            overruled={},
            standing=0,
        )
        session.add(row)
    row.judgement_id = judgement_id
    session.flush()


def is_judged(session: Session, photograph_id: int) -> bool:
    """Does an attempt stand before the teacher?"""
    return session.get(ReviewRow, photograph_id) is not None


def moves_of(session: Session, photograph_ids: Collection[int]) -> dict[int, Json]:
    """What should be done next with the cells of some attempts, by cell?"""
    question = (
        select(ReviewRow.photograph_id, JudgementRow.moves)
        .join(JudgementRow, JudgementRow.id == ReviewRow.judgement_id)
        .where(ReviewRow.photograph_id.in_(photograph_ids))
    )
    return {row.photograph_id: row.moves for row in session.execute(question)}


def judgements_of(session: Session, photograph_ids: Collection[int]) -> dict[int, Json]:
    """What are the whole current judgements of some attempts?"""
    question = (
        select(ReviewRow.photograph_id, JudgementRow.body)
        .join(JudgementRow, JudgementRow.id == ReviewRow.judgement_id)
        .where(ReviewRow.photograph_id.in_(photograph_ids))
    )
    return {row.photograph_id: row.body for row in session.execute(question)}


def reading_behind(session: Session, photograph_id: int) -> Json:
    """What reading does an attempt's judgement rest on?"""
    body = session.scalar(
        select(ReadingRow.body)
        .join(JudgementRow, JudgementRow.reading_id == ReadingRow.id)
        .join(ReviewRow, ReviewRow.judgement_id == JudgementRow.id)
        .where(ReviewRow.photograph_id == photograph_id)
    )
    return {} if body is None else body
