"""Printed worksheets."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import ColumnElement, Label, Row, Select, case, func, literal, or_, select
from sqlalchemy.orm import Session

from noema.core.errors import NotFound
from noema.core.language import N_, Term, gettext
from noema.core.progress.states import PhotoState
from noema.store.base import Json
from noema.store.leaves import has_words
from noema.store.photographs import PhotoRow
from noema.store.tables import Assignment, Batch, Photograph, SchoolClass, Sheet, Student
from noema.store.titles import title_said

_CODE_LETTERS, _ALIKE = 8, 6  # of a code, and how many must be the same to be like it

_NAMED = SchoolClass.name.label("class_name"), Assignment.title, Assignment.title_source

TEACHERS = Term(N_("Teacher’s own sheet"))
"""Whose a sheet is that belongs to no student."""


@dataclass(frozen=True, kw_only=True)
class SheetRow:
    """One printed worksheet and whose it is."""

    id: int
    assignment_id: int
    student_id: int | None  # None: the teacher's own sheet
    student: str  # whose it is, in words
    attempt: int  # 1 for the first printing
    number: int  # in its assignment
    code: str
    cells: tuple[str, ...] | None = None  # the only ones on it; None: all of the exercise
    larger_cells: bool = False


@dataclass(frozen=True, kw_only=True)
class NewSheet:
    """A worksheet about to be printed."""

    student_id: int | None
    attempt: int
    number: int
    code: str
    layout: Json  # format noema-sheet/1
    cells: list[str] | None = None
    larger_cells: bool = False


def sheets_of_assignment(session: Session, assignment_id: int) -> tuple[SheetRow, ...]:
    """Which sheets were printed for an assignment, in the order of their numbers?"""
    question = _sheets().where(Sheet.assignment_id == assignment_id).order_by(Sheet.number)
    return tuple(_row(row) for row in session.execute(question))


def sheets_where(session: Session, *conditions: ColumnElement[bool]) -> tuple[SheetRow, ...]:
    """Which sheets meet some conditions, in the order they were made?"""
    question = _sheets().where(*conditions).order_by(Sheet.attempt, Sheet.id)
    return tuple(_row(row) for row in session.execute(question))


def sheet_by_code(session: Session, school_id: int, code: str) -> SheetRow | None:
    """Which of the school's sheets has this code?"""
    question = _of_school(school_id).where(Sheet.code == code)
    found = session.execute(question).one_or_none()
    return None if found is None else _row(found)


def sheet_of_school(session: Session, school_id: int, sheet_id: int) -> SheetRow:
    """Which sheet is this, if it is one of the school's?"""
    found = session.execute(_of_school(school_id).where(Sheet.id == sheet_id)).one_or_none()
    if found is None:
        raise NotFound(gettext("There is no such sheet in your school."))
    return _row(found)


@dataclass(frozen=True, kw_only=True)
class FoundSheet:
    """A sheet that was looked for."""

    sheet: SheetRow
    class_name: str
    title: str
    photograph_id: int | None  # the latest that was read


def find_sheets(
    session: Session, school_id: int, words: str, at_most: int
) -> tuple[FoundSheet, ...]:
    """Which sheets have all of some words in student, code, class or exercise, the newest first?"""
    question = _of_school(school_id).add_columns(
        *_NAMED,
        _latest_read(),
    )
    searched = (Student.display_name, Sheet.code, SchoolClass.name, Assignment.title)
    question = question.where(has_words(words, *searched))
    return _found(session, question.order_by(Sheet.printed_at.desc(), Sheet.id.desc()), at_most)


def likely_sheets(session: Session, photo: PhotoRow, at_most: int) -> tuple[FoundSheet, ...]:
    """Which sheets may a photograph show, the likeliest first?

    Its sender's own for what they handed it in for, then codes like the one that was read, then
    those of the exercises it came together with; before sheets that were read already, always.
    """
    question = _of_school(photo.school_id).add_columns(
        *_NAMED,
        read := _latest_read(),
    )
    together = (
        select(Sheet.assignment_id)
        .join(Photograph, Photograph.sheet_id == Sheet.id)
        .where(Photograph.batch_id == photo.batch_id)
    )
    from_student = (
        select(Batch.id)
        .where(
            Batch.id == photo.batch_id,
            Batch.student_id == Sheet.student_id,
            Batch.assignment_id == Sheet.assignment_id,
        )
        .correlate(Sheet)
        .exists()
    )
    seen = photo.code_seen or ""
    alike: ColumnElement[int] = literal(0)
    for place, letter in enumerate(seen[:_CODE_LETTERS], start=1):
        alike += case((func.substr(Sheet.code, place, 1) == letter, 1), else_=0)
    is_near = alike >= _ALIKE
    return _found(
        session,
        question.where(or_(from_student, is_near, Sheet.assignment_id.in_(together))).order_by(
            from_student.desc(), is_near.desc(), read.is_not(None), alike.desc(), Sheet.number
        ),
        at_most,
    )


def _found(
    session: Session, question: Select[*tuple[Any, ...]], at_most: int
) -> tuple[FoundSheet, ...]:
    return tuple(
        FoundSheet(
            sheet=_row(row),
            class_name=row.class_name,
            title=title_said(row),
            photograph_id=row.photograph_id,
        )
        for row in session.execute(question.limit(at_most))
    )


def _latest_read() -> Label[int | None]:
    read = select(func.max(Photograph.id)).where(
        Photograph.sheet_id == Sheet.id, Photograph.state == PhotoState.READ.value
    )
    return read.correlate(Sheet).scalar_subquery().label("photograph_id")


def layouts_of_sheets(session: Session, sheet_ids: Sequence[int]) -> dict[int, Json]:
    """How were sheets laid out when they were printed, format noema-sheet/1?"""
    question = select(Sheet.id, Sheet.layout).where(Sheet.id.in_(sheet_ids))
    return {row.id: row.layout for row in session.execute(question)}


def add_sheets(session: Session, assignment_id: int, new: Sequence[NewSheet]) -> None:
    """Add printed sheets."""
    session.add_all(
        Sheet(
            assignment_id=assignment_id,
            student_id=sheet.student_id,
            attempt=sheet.attempt,
            number=sheet.number,
            code=sheet.code,
            layout=sheet.layout,
            cells=sheet.cells,
            larger_cells=sheet.larger_cells,
        )
        for sheet in new
    )
    session.flush()


def _sheets() -> Select[*tuple[Any, ...]]:
    # Columns, not rows: a layout weighs more than all the rest and is seldom wanted.
    return select(
        Sheet.id,
        Sheet.assignment_id,
        Sheet.student_id,
        func.coalesce(Student.display_name, str(TEACHERS)).label("student"),
        Sheet.attempt,
        Sheet.number,
        Sheet.code,
        Sheet.cells,
        Sheet.larger_cells,
    ).outerjoin(Student, Student.id == Sheet.student_id)


def _of_school(school_id: int) -> Select[*tuple[Any, ...]]:
    return (
        _sheets()
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .where(SchoolClass.school_id == school_id)
    )


def _row(row: Row[*tuple[Any, ...]]) -> SheetRow:
    return SheetRow(
        id=row.id,
        assignment_id=row.assignment_id,
        student_id=row.student_id,
        student=TEACHERS if row.student_id is None else row.student,
        attempt=row.attempt,
        number=row.number,
        code=row.code,
        cells=None if row.cells is None else tuple(row.cells),
        larger_cells=row.larger_cells,
    )
