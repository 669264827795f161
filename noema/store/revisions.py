"""Revisions of an assignment's key: what it was held against, and since when."""

from collections.abc import Collection, Mapping
from dataclasses import asdict, dataclass
from typing import Any

from sqlalchemy import Row, Select, func, select, update
from sqlalchemy.orm import Session

from noema.core.exercises.levels import Key, Level
from noema.core.exercises.tolerance import Tolerance
from noema.core.progress.states import PhotoState
from noema.store.base import Json
from noema.store.tables import (
    Assignment,
    JudgementRow,
    KeyRevision,
    Photograph,
    ReviewRow,
    Sheet,
    Student,
)

HELD_NOW = (KeyRevision.assignment_id == Assignment.id) & (
    KeyRevision.number == Assignment.revision
)
"""Joins an assignment with the revision it is held against."""

HELD = (
    KeyRevision.id.label("revision_id"),
    KeyRevision.set_ref,
    KeyRevision.level,
    KeyRevision.key,
    KeyRevision.hue_tolerance,
    KeyRevision.value_tolerance,
    KeyRevision.chroma_tolerance,
)
"""What lists show of a revision."""


@dataclass(frozen=True, kw_only=True)
class NewRevision:
    """What an assignment is to be held against."""

    key: Key
    level: Level
    tolerance: Tolerance
    set_ref: str | None  # the set it was chosen from
    paints: Json | None  # format noema-set/1
    asked: Json | None  # None: a plain value scale, worked out from its steps and medium
    tubes: Json | None = None  # what was learned of them, where paints and asked follow it
    question: Json | None = None  # what the whole class painted alike, and what was answered
    key_photograph_id: int | None = None  # of the teacher's sheet, once approved
    key_labs: Json | None = None  # its Lab by cell
    made_by: int | None = None


@dataclass(frozen=True, kw_only=True)
class RevisionRow(NewRevision):
    """A revision as it is kept."""

    id: int
    number: int


@dataclass(frozen=True, kw_only=True)
class Progress:
    """How far a new revision has come."""

    judged: int  # sheets that show its judgement
    read: int  # sheets that were read

    @property
    def is_done(self) -> bool:
        """Whether every sheet is judged by it."""
        return self.judged >= self.read


def tolerance_of(row: Row[*tuple[Any, ...]]) -> Tolerance:
    """Give the tolerances in a row with their three columns."""
    return Tolerance(hue=row.hue_tolerance, value=row.value_tolerance, chroma=row.chroma_tolerance)


def revision_of(session: Session, assignment_id: int) -> RevisionRow:
    """What is an assignment held against now?"""
    columns = (column for column in KeyRevision.__table__.columns)
    row = session.execute(
        select(*columns).join(Assignment, HELD_NOW).where(Assignment.id == assignment_id)
    ).one()
    return _revision(row)


def plain_revision_of(session: Session, assignment_id: int) -> RevisionRow:
    """What was an assignment held against when nothing was learned of its tubes?"""
    columns = (column for column in KeyRevision.__table__.columns)
    row = session.execute(
        select(*columns)
        .where(KeyRevision.assignment_id == assignment_id, KeyRevision.tubes.is_(None))
        .order_by(KeyRevision.number.desc())
        .limit(1)
    ).one()
    return _revision(row)


def _revision(row: Row[*tuple[Any, ...]]) -> RevisionRow:
    return RevisionRow(
        id=row.id,
        number=row.number,
        key=Key(row.key),
        level=Level(row.level),
        tolerance=tolerance_of(row),
        set_ref=row.set_ref,
        paints=row.paints,
        asked=row.asked,
        tubes=row.tubes,
        question=row.question,
        key_photograph_id=row.key_photograph_id,
        key_labs=row.key_labs,
        made_by=row.made_by,
    )


def add_revision(session: Session, assignment_id: int, new: NewRevision) -> int:
    """Hold an assignment against something else from now on; gives the revision's number.

    The assignment must be locked, so that no two are written at once.
    """
    numbers = select(func.max(KeyRevision.number)).where(KeyRevision.assignment_id == assignment_id)
    number = (session.scalar(numbers) or 0) + 1
    tolerance = asdict(new.tolerance)
    values = {name: value for name, value in vars(new).items() if name != "tolerance"}
    session.add(
        KeyRevision(
            **values
            | {
                "assignment_id": assignment_id,
                "number": number,
                "key": new.key.value,
                "level": new.level.value,
                **{f"{name}_tolerance": step for name, step in tolerance.items()},
            }
        )
    )
    session.flush()
    session.execute(
        update(Assignment).where(Assignment.id == assignment_id).values(revision=number)
    )
    return number


def difficulties_of(session: Session, assignment_ids: Collection[int]) -> dict[int, Json]:
    """What do some assignments ask of a hand, as far as that was worked out?"""
    question = (
        select(Assignment.id, KeyRevision.difficulty)
        .join(KeyRevision, HELD_NOW)
        .where(Assignment.id.in_(assignment_ids), KeyRevision.difficulty.is_not(None))
    )
    return {row.id: row.difficulty for row in session.execute(question)}


def set_difficulty(session: Session, revision_id: int, difficulty: Mapping[str, Any]) -> None:
    """Keep what an assignment asks of a hand, held so."""
    session.execute(
        update(KeyRevision).where(KeyRevision.id == revision_id).values(difficulty=difficulty)
    )


def behind(session: Session, assignment_id: int, judge: str) -> tuple[int, ...]:
    """Which photographs are still judged by another revision, or by an earlier judge?"""
    question = (
        _judged(assignment_id)
        .where(
            (KeyRevision.number != Assignment.revision)
            | (JudgementRow.judge != judge)
            | (JudgementRow.gentler != Student.gentler)
        )
        .with_only_columns(ReviewRow.photograph_id)
        .order_by(ReviewRow.photograph_id)
    )
    return tuple(session.scalars(question))


def progress_of(session: Session, assignment_id: int) -> Progress:
    """How many of an assignment's sheets are judged by the revision it is held against?"""
    by_newest = func.count().filter(KeyRevision.number == Assignment.revision)
    row = session.execute(
        _judged(assignment_id).with_only_columns(func.count().label("read"), by_newest.label("now"))
    ).one()
    return Progress(judged=row.now, read=row.read)


def assignments_behind(session: Session, judge: str) -> tuple[int, ...]:
    """Which assignments have sheets that an earlier judge judged?"""
    question = (
        select(Sheet.assignment_id)
        .join(Photograph, Photograph.sheet_id == Sheet.id)
        .join(ReviewRow, ReviewRow.photograph_id == Photograph.id)
        .join(JudgementRow, JudgementRow.id == ReviewRow.judgement_id)
        .where(Photograph.state == PhotoState.READ.value, JudgementRow.judge != judge)
        .distinct()
    )
    return tuple(session.scalars(question))


def _judged(assignment_id: int) -> Select[int]:
    return (
        select(ReviewRow.photograph_id)
        .join(Photograph, Photograph.id == ReviewRow.photograph_id)
        .join(Sheet, Sheet.id == Photograph.sheet_id)
        .join(Student, Student.id == Sheet.student_id)
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .join(JudgementRow, JudgementRow.id == ReviewRow.judgement_id)
        .join(KeyRevision, KeyRevision.id == JudgementRow.revision_id)
        .where(
            Sheet.assignment_id == assignment_id,
            Photograph.state == PhotoState.READ.value,
        )
    )
