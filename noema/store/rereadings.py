"""What changed when photographs were read again."""

from dataclasses import dataclass

from sqlalchemy import ColumnElement, Integer, Text, column, func, select, table, true
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session, aliased

from noema.core.progress.states import PhotoState
from noema.store.base import Json
from noema.store.queue import REREAD_PHOTOGRAPH
from noema.store.tables import (
    Assignment,
    JudgementRow,
    Photograph,
    ReadingRow,
    ReviewRow,
    SchoolClass,
    Sheet,
    Student,
)
from noema.store.titles import title_said

_MOST = 200


@dataclass(frozen=True, kw_only=True)
class ReadTwice:
    """An attempt judged by one reading and then by another."""

    photograph_id: int
    student: str
    class_name: str
    title: str
    before: Json  # tallies
    after: Json


@dataclass(frozen=True, kw_only=True)
class Readers:
    """How many photographs were read, and how many by today's reader."""

    read: int
    today: int
    waiting: int  # to be read again


def read_twice(
    session: Session, school_id: int, assignment_id: int | None = None
) -> tuple[ReadTwice, ...]:
    """Which attempts, of all or of one assignment, are judged by a newer reading than before?

    The newest come first.
    """
    now, then = aliased(JudgementRow), aliased(JudgementRow)
    read_now, read_then = aliased(ReadingRow), aliased(ReadingRow)
    earlier = (
        select(func.max(then.id))
        .join(read_then, read_then.id == then.reading_id)
        .where(read_then.photograph_id == Photograph.id, then.reading_id != now.reading_id)
        .correlate(Photograph, now)
        .scalar_subquery()
    )
    before = aliased(JudgementRow)
    question = (
        select(
            Photograph.id,
            Student.display_name,
            SchoolClass.name,
            Assignment.title,
            Assignment.title_source,
            before.tally.label("before"),
            now.tally.label("after"),
        )
        .select_from(Photograph)
        .join(ReviewRow, ReviewRow.photograph_id == Photograph.id)
        .join(now, now.id == ReviewRow.judgement_id)
        .join(read_now, read_now.id == now.reading_id)
        .join(before, before.id == earlier)
        .join(Sheet, Sheet.id == Photograph.sheet_id)
        .join(Student, Student.id == Sheet.student_id)
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .where(Photograph.school_id == school_id, ReviewRow.school_id == school_id)
        .where(_of_one(assignment_id))
        .order_by(read_now.made_at.desc(), Photograph.id.desc())
        .limit(_MOST)
    )
    return tuple(
        ReadTwice(
            photograph_id=row.id,
            student=row.display_name,
            class_name=row.name,
            title=title_said(row),
            before=row.before,
            after=row.after,
        )
        for row in session.execute(question)
    )


def readers_of_school(
    session: Session, school_id: int, today: str, assignment_id: int | None = None
) -> Readers:
    """How many of a school's photographs, or of one assignment's, has today's reader read?"""
    by_today = (
        select(ReadingRow.id)
        .where(ReadingRow.photograph_id == Photograph.id, ReadingRow.reader == today)
        .correlate(Photograph)
        .exists()
    )
    row = session.execute(
        select(
            func.count(Photograph.id).label("read"),
            func.count(Photograph.id).filter(by_today).label("today"),
        )
        .outerjoin(Sheet, Sheet.id == Photograph.sheet_id)
        .where(
            Photograph.school_id == school_id,
            Photograph.state == PhotoState.READ.value,
            _of_one(assignment_id),
        )
    ).one()
    return Readers(
        read=row.read, today=row.today, waiting=_waiting(session, school_id, assignment_id)
    )


def _waiting(session: Session, school_id: int, assignment_id: int | None) -> int:
    """Count the photographs that are still to be read again."""
    jobs = table("procrastinate_jobs", column("task_name"), column("status"), column("args", JSONB))
    number = jobs.c.args["photograph_id"].astext.cast(Integer)
    question = (
        select(func.count())
        .select_from(jobs)
        .join(Photograph, Photograph.id == number)
        .outerjoin(Sheet, Sheet.id == Photograph.sheet_id)
        .where(
            jobs.c.task_name == REREAD_PHOTOGRAPH,
            jobs.c.status.cast(Text).in_(("todo", "doing")),
            Photograph.school_id == school_id,
            _of_one(assignment_id),
        )
    )
    return session.scalar(question) or 0


def _of_one(assignment_id: int | None) -> ColumnElement[bool]:
    return true() if assignment_id is None else Sheet.assignment_id == assignment_id
