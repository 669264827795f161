"""What was read in photographs."""

from collections.abc import Collection
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import ColumnElement, select
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session

from noema.core.progress.states import PhotoState
from noema.store.base import Json
from noema.store.revisions import HELD_NOW
from noema.store.tables import (
    Assignment,
    KeyRevision,
    Photograph,
    ReadingRow,
    SchoolClass,
    Sheet,
    Student,
)
from noema.store.titles import title_said

_LATELY = 12  # sheets offered to choose from


def reading_of(
    session: Session, photograph_id: int, sheet_id: int, reader: str, basis: str
) -> tuple[int, Json] | None:
    """Has this version of the reader, going by the same, already read this photograph?"""
    found = session.execute(
        select(ReadingRow.id, ReadingRow.body).where(
            ReadingRow.photograph_id == photograph_id,
            ReadingRow.sheet_id == sheet_id,
            ReadingRow.reader == reader,
            ReadingRow.basis == basis,
        )
    ).one_or_none()
    return None if found is None else (found.id, found.body)


def straight_of(session: Session, reading_id: int) -> str | None:
    """Which file shows a reading's sheet squarely?"""
    return session.scalar(select(ReadingRow.straight_sha256).where(ReadingRow.id == reading_id))


def add_reading(
    session: Session,
    photograph_id: int,
    sheet_id: int,
    reader: str,
    body: Json,
    straight_sha256: str | None,
    basis: str = "",
) -> int:
    """Keep a reading and give its number."""
    row = ReadingRow(
        photograph_id=photograph_id,
        sheet_id=sheet_id,
        reader=reader,
        basis=basis,
        body=body,
        straight_sha256=straight_sha256,
    )
    session.add(row)
    session.flush()
    return row.id


@dataclass(frozen=True, kw_only=True)
class ReadPhoto:
    """A photograph and what was last read in it."""

    photograph_id: int
    reading_id: int
    body: Json
    cells: tuple[str, ...] | None  # the only ones on its sheet; None: all


def reading_of_photo(session: Session, assignment_id: int, photograph_id: int) -> ReadPhoto | None:
    """What was last read in a photograph of a student's sheet of an assignment?"""
    whose = Sheet.student_id.is_not(None) & (Photograph.id == photograph_id)
    return next(iter(_newest_readings(session, assignment_id, whose)), None)


def teachers_readings(session: Session, assignment_id: int) -> tuple[ReadPhoto, ...]:
    """What was read in the photographs of the teacher's own sheet?"""
    return _newest_readings(session, assignment_id, Sheet.student_id.is_(None))


def _newest_readings(
    session: Session, assignment_id: int, whose: ColumnElement[bool]
) -> tuple[ReadPhoto, ...]:
    question = (
        select(ReadingRow.photograph_id, ReadingRow.id, ReadingRow.body, Sheet.cells)
        .ext(distinct_on(ReadingRow.photograph_id))
        .join(Photograph, Photograph.id == ReadingRow.photograph_id)
        .join(Sheet, (Sheet.id == Photograph.sheet_id) & (Sheet.id == ReadingRow.sheet_id))
        .where(
            Sheet.assignment_id == assignment_id, Photograph.state == PhotoState.READ.value, whose
        )
        .order_by(ReadingRow.photograph_id, ReadingRow.id.desc())
    )
    return tuple(
        ReadPhoto(
            photograph_id=row.photograph_id,
            reading_id=row.id,
            body=row.body,
            cells=None if row.cells is None else tuple(row.cells),
        )
        for row in session.execute(question)
    )


@dataclass(frozen=True, kw_only=True)
class SwatchSheet:
    """A read photograph of a sheet of tube swatches."""

    photograph_id: int
    student: str | None  # None: the teacher's own
    class_name: str
    asked: Json
    body: Json  # what was read


def swatch_sheets(
    session: Session, school_id: int, kinds: Collection[str]
) -> tuple[SwatchSheet, ...]:
    """Which sheets of some kinds were read in a school lately, the newest first?"""
    question = (
        select(
            Photograph.id,
            Student.display_name,
            SchoolClass.name.label("class_name"),
            KeyRevision.asked,
            ReadingRow.body,
        )
        .join(Sheet, Sheet.id == Photograph.sheet_id)
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .join(KeyRevision, HELD_NOW)
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .join(
            ReadingRow,
            (ReadingRow.photograph_id == Photograph.id) & (ReadingRow.sheet_id == Sheet.id),
        )
        .outerjoin(Student, Student.id == Sheet.student_id)
        .where(
            Photograph.school_id == school_id,
            Photograph.state == PhotoState.READ.value,
            Assignment.kind.in_(kinds),
        )
        .order_by(Photograph.id.desc(), ReadingRow.id.desc())
        .limit(_LATELY)
    )
    return tuple(
        SwatchSheet(
            photograph_id=row.id,
            student=row.display_name,
            class_name=row.class_name,
            asked=row.asked,
            body=row.body,
        )
        for row in session.execute(question)
    )


@dataclass(frozen=True, kw_only=True)
class ClassReading:
    """A read sheet of a class."""

    student: str
    exercise: str
    code: str
    received_at: datetime
    body: Json


def readings_of_class(session: Session, class_id: int) -> tuple[ClassReading, ...]:
    """What was read in the photographs of a class's sheets, the newest reading of each?"""
    question = (
        select(
            Student.display_name.label("student"),
            Assignment.title,
            Assignment.title_source,
            Sheet.code,
            Photograph.received_at,
            ReadingRow.body,
        )
        .ext(distinct_on(ReadingRow.photograph_id))
        .join(Photograph, Photograph.id == ReadingRow.photograph_id)
        .join(Sheet, (Sheet.id == Photograph.sheet_id) & (Sheet.id == ReadingRow.sheet_id))
        .join(Student, Student.id == Sheet.student_id)
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .where(Assignment.class_id == class_id, Photograph.state == PhotoState.READ.value)
        .order_by(ReadingRow.photograph_id, ReadingRow.id.desc())
    )
    return tuple(
        ClassReading(
            student=row.student,
            exercise=title_said(row),
            code=row.code,
            received_at=row.received_at,
            body=row.body,
        )
        for row in session.execute(question)
    )


def straight_picture_of(session: Session, photograph_id: int) -> str | None:
    """Under which SHA-256 does the newest straightened picture of a photograph lie?"""
    return session.scalar(
        select(ReadingRow.straight_sha256)
        .where(ReadingRow.photograph_id == photograph_id, ReadingRow.straight_sha256.is_not(None))
        .order_by(ReadingRow.id.desc())
        .limit(1)
    )
