"""What a session may see: of classes that aren't shared with whoever asks, nothing is there.

A session that is limited adds the same conditions to every question, wherever a table stands in
it, so that no page can forget them. Sessions of the worker and of commands aren't limited.
"""

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass

from sqlalchemy import ColumnElement, event, or_, select
from sqlalchemy.orm import ORMExecuteState, Session, with_loader_criteria
from sqlalchemy.sql.base import ExecutableOption

from noema.store.base import Base
from noema.store.bench_tables import BenchPracticeRow, BenchTaskRow
from noema.store.eye_tables import EyeSeriesRow
from noema.store.logbook_tables import LogbookRow
from noema.store.picture_tables import HeldRow, PictureRow
from noema.store.tables import (
    Assignment,
    Batch,
    ClassTeacher,
    Enrolment,
    Photograph,
    SchoolClass,
    Sheet,
    Student,
)

_KEY = "reach"


@dataclass(frozen=True, kw_only=True)
class ClassReach:
    """Whose classes a session sees."""

    teacher_id: int
    class_ids: tuple[int, ...]


def reach_of_teacher(session: Session, teacher_id: int) -> ClassReach:
    """Which classes are shared with a teacher?"""
    shared = select(ClassTeacher.class_id).where(ClassTeacher.teacher_id == teacher_id)
    class_ids = session.scalars(shared.order_by(ClassTeacher.class_id)).all()
    return ClassReach(teacher_id=teacher_id, class_ids=tuple(class_ids))


def limit_to(session: Session, reach: ClassReach) -> None:
    """Let a session see no other classes from now on."""
    session.info[_KEY] = reach


@contextmanager
def seeing_all(session: Session) -> Iterator[None]:
    """Ask about all classes for once: whether a name or a file is there already."""
    reach = session.info.pop(_KEY, None)
    try:
        yield
    finally:
        if reach is not None:
            session.info[_KEY] = reach


@event.listens_for(Session, "do_orm_execute")
def _limit(state: ORMExecuteState) -> None:
    reach = state.session.info.get(_KEY)
    if reach is not None and state.is_select:
        state.statement = state.statement.options(*_limits(reach))


def _limits(reach: ClassReach) -> list[ExecutableOption]:
    # Tables rather than classes inside, so that the conditions aren't limited in turn.
    assignment, sheet, batch = (t.__table__ for t in (Assignment, Sheet, Batch))
    enrolment, taught = Enrolment.__table__, ClassTeacher.__table__
    given = select(assignment.c.id).where(assignment.c.class_id.in_(reach.class_ids))
    sheets = select(sheet.c.id).where(sheet.c.assignment_id.in_(given))
    enrolled = select(enrolment.c.student_id).where(enrolment.c.class_id.in_(reach.class_ids))
    painted = select(sheet.c.student_id).where(
        sheet.c.assignment_id.in_(given), sheet.c.student_id.is_not(None)
    )
    colleagues = select(taught.c.teacher_id).where(taught.c.class_id.in_(reach.class_ids))
    handed_in = select(batch.c.id).where(
        or_(
            batch.c.teacher_id == reach.teacher_id,
            batch.c.teacher_id.in_(colleagues),
            batch.c.assignment_id.in_(given),
        )
    )
    seen: Mapping[type[Base], ColumnElement[bool]] = {
        SchoolClass: SchoolClass.id.in_(reach.class_ids),
        Assignment: Assignment.class_id.in_(reach.class_ids),
        Enrolment: Enrolment.class_id.in_(reach.class_ids),
        BenchTaskRow: BenchTaskRow.class_id.in_(reach.class_ids),
        BenchPracticeRow: BenchPracticeRow.class_id.in_(reach.class_ids),
        PictureRow: PictureRow.class_id.in_(reach.class_ids),
        HeldRow: HeldRow.class_id.in_(reach.class_ids),
        Sheet: Sheet.assignment_id.in_(given),
        Student: or_(Student.id.in_(enrolled), Student.id.in_(painted)),
        LogbookRow: or_(LogbookRow.class_id.is_(None), LogbookRow.class_id.in_(reach.class_ids)),
        EyeSeriesRow: or_(
            EyeSeriesRow.student_id.in_(enrolled), EyeSeriesRow.student_id.in_(painted)
        ),
        Batch: Batch.id.in_(handed_in),
        # One that belongs to no sheet yet is seen by who handed it in, and who teaches with them.
        Photograph: or_(
            Photograph.sheet_id.in_(sheets),
            Photograph.sheet_id.is_(None) & Photograph.batch_id.in_(handed_in),
        ),
    }
    return [with_loader_criteria(one, seen[one], include_aliases=True) for one in seen]
