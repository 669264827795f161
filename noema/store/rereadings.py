"""What changed when photographs were read again."""

from dataclasses import dataclass

from sqlalchemy import func, select
from sqlalchemy.orm import Session, aliased

from noema.core.progress.states import PhotoState
from noema.store.base import Json
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


def read_twice(session: Session, school_id: int) -> tuple[ReadTwice, ...]:
    """Which attempts are judged by a newer reading than before, the newest first?"""
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
        .order_by(read_now.made_at.desc(), Photograph.id.desc())
        .limit(_MOST)
    )
    return tuple(
        ReadTwice(
            photograph_id=row.id,
            student=row.display_name,
            class_name=row.name,
            title=row.title,
            before=row.before,
            after=row.after,
        )
        for row in session.execute(question)
    )


def readers_of_school(session: Session, school_id: int, today: str) -> Readers:
    """How many of a school's photographs has today's reader read?"""
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
        ).where(Photograph.school_id == school_id, Photograph.state == PhotoState.READ.value)
    ).one()
    return Readers(read=row.read, today=row.today)
