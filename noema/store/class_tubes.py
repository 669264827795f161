"""What a class's sheets tell of its tubes, set by set, and whether its keys follow it."""

from dataclasses import dataclass, replace
from typing import cast

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session

from noema.core.progress.states import PhotoState
from noema.store.base import Json
from noema.store.revisions import HELD_NOW
from noema.store.tables import Assignment, KeyRevision, Photograph, ReadingRow, SchoolClass, Sheet

_MOST = 240  # sheets, the newest


@dataclass(frozen=True, kw_only=True)
class TubesOfSet:
    """What was learned of one set of a class's."""

    learned: Json | None = None  # None while nothing is
    counted: int = 0  # sheets it was learned from
    refused: bool = False  # by a teacher: keys stay as the paints are written


@dataclass(frozen=True, kw_only=True)
class SheetOfSet:
    """A read sheet painted with a set."""

    assignment_id: int
    cells: tuple[str, ...] | None  # the only ones on it; None: all
    body: Json


def set_of_assignment(session: Session, assignment_id: int) -> tuple[int, str] | None:
    """Which class and which set is an assignment of? None where it is of no set."""
    row = session.execute(
        select(Assignment.class_id, KeyRevision.set_ref)
        .join(KeyRevision, HELD_NOW)
        .where(Assignment.id == assignment_id, KeyRevision.paints.is_not(None))
    ).one_or_none()
    return None if row is None or row.set_ref is None else (row.class_id, row.set_ref)


def assignments_of_set(session: Session, class_id: int, set_ref: str) -> tuple[int, ...]:
    """Which of a class's assignments are of a set?"""
    question = (
        select(Assignment.id)
        .join(KeyRevision, HELD_NOW)
        .where(Assignment.class_id == class_id, KeyRevision.set_ref == set_ref)
        .order_by(Assignment.id)
    )
    return tuple(session.scalars(question))


def sheets_counted(session: Session, class_id: int, set_ref: str) -> int:
    """How many read sheets of students are painted with a set?"""
    question = (
        select(func.count(Photograph.id.distinct()))
        .select_from(Assignment)
        .join(KeyRevision, HELD_NOW)
        .join(Sheet, Sheet.assignment_id == Assignment.id)
        .join(Photograph, Photograph.sheet_id == Sheet.id)
        .where(
            Assignment.class_id == class_id,
            KeyRevision.set_ref == set_ref,
            Photograph.state == PhotoState.READ.value,
        )
    )
    return session.scalar(question) or 0


def sheets_of_set(session: Session, class_id: int, set_ref: str) -> tuple[SheetOfSet, ...]:
    """What was last read of each sheet painted with a set, the newest first?"""
    question = (
        select(Assignment.id, Sheet.cells, ReadingRow.body)
        .ext(distinct_on(Photograph.id))
        .join(KeyRevision, HELD_NOW)
        .join(Sheet, Sheet.assignment_id == Assignment.id)
        .join(Photograph, Photograph.sheet_id == Sheet.id)
        .join(
            ReadingRow,
            (ReadingRow.photograph_id == Photograph.id) & (ReadingRow.sheet_id == Sheet.id),
        )
        .where(
            Assignment.class_id == class_id,
            KeyRevision.set_ref == set_ref,
            Photograph.state == PhotoState.READ.value,
        )
        .order_by(Photograph.id.desc(), ReadingRow.id.desc())
        .limit(_MOST)
    )
    return tuple(
        SheetOfSet(
            assignment_id=row.id,
            cells=None if row.cells is None else tuple(row.cells),
            body=row.body,
        )
        for row in session.execute(question)
    )


def tubes_of_set(
    session: Session, class_id: int, set_ref: str, *, lock: bool = False
) -> TubesOfSet:
    """What is known of a class's set? Locked where it is about to be changed."""
    question = select(SchoolClass.tubes).where(SchoolClass.id == class_id)
    kept = session.scalar(question.with_for_update() if lock else question) or {}
    one = cast(Json, kept.get(set_ref, {}))
    return TubesOfSet(
        learned=cast(Json | None, one.get("learned")),
        counted=cast(int, one.get("counted", 0)),
        refused=bool(one.get("refused", False)),
    )


def keep_tubes(session: Session, class_id: int, set_ref: str, tubes: TubesOfSet) -> None:
    """Keep what is known of a class's set."""
    row = session.get_one(SchoolClass, class_id)
    row.tubes = {**row.tubes, set_ref: vars(replace(tubes))}
    session.flush()
