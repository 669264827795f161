"""Tasks given to practise at the bench, and what was done at it."""

from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy import ColumnElement, func, select, update
from sqlalchemy.orm import Session

from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.store.base import Json
from noema.store.bench_tables import BenchPracticeRow, BenchTaskRow

MOST_SHOWN = 40
"""Goes a page shows at most; older ones stay."""


@dataclass(frozen=True, kw_only=True)
class Practiser:
    """Who practises, in which class: a student, or a teacher."""

    school_id: int
    class_id: int
    student_id: int | None = None
    teacher_id: int | None = None


@dataclass(frozen=True, kw_only=True)
class GivenTask:
    """A task given to a class."""

    id: int
    class_id: int
    title: str  # the teacher's own; empty: the task's
    task: Json
    paints: Json
    due_on: date | None


@dataclass(frozen=True, kw_only=True)
class NewPractice:
    """A go that begins."""

    task: Json
    paints: Json
    played: Json
    task_id: int | None = None


@dataclass(frozen=True, kw_only=True)
class KeptPractice(NewPractice):
    """A go as it is kept."""

    id: int
    class_id: int
    student_id: int | None
    teacher_id: int | None
    foreseen: list[Json]
    asked: int
    away: float | None
    touches: int
    begun_at: datetime
    ended_at: datetime | None


def give_task(session: Session, school_id: int, new: GivenTask) -> int:
    """Keep a task for a class; gives its number."""
    row = BenchTaskRow(
        school_id=school_id,
        class_id=new.class_id,
        title=new.title,
        task=new.task,
        paints=new.paints,
        due_on=new.due_on,
    )
    session.add(row)
    session.flush()
    return row.id


def tasks_of_classes(session: Session, class_ids: list[int]) -> tuple[GivenTask, ...]:
    """Which tasks were given to some classes, the newest first?"""
    rows = session.scalars(
        select(BenchTaskRow)
        .where(BenchTaskRow.class_id.in_(class_ids))
        .order_by(BenchTaskRow.id.desc())
        .limit(MOST_SHOWN)
    )
    return tuple(_given(row) for row in rows)


def task_of_class(session: Session, class_id: int, task_id: int) -> GivenTask:
    """Which task of a class is this?"""
    return _given(_task_row(session, class_id, task_id))


def take_task_back(session: Session, class_id: int, task_id: int) -> None:
    """Take a task back; what was done at it stays."""
    row = _task_row(session, class_id, task_id)
    session.execute(
        update(BenchPracticeRow).where(BenchPracticeRow.task_id == task_id).values(task_id=None)
    )
    session.delete(row)
    session.flush()


def begin_practice(
    session: Session, who: Practiser, new: NewPractice, begun_at: datetime | None = None
) -> int:
    """Keep a go that begins, now if nothing else is said; gives its number."""
    row = BenchPracticeRow(
        school_id=who.school_id,
        class_id=who.class_id,
        student_id=who.student_id,
        teacher_id=who.teacher_id,
        task_id=new.task_id,
        task=new.task,
        paints=new.paints,
        played=new.played,
        foreseen=[],
        begun_at=begun_at or func.now(),
    )
    session.add(row)
    session.flush()
    return row.id


def practice_of_student(session: Session, student_id: int, practice_id: int) -> KeptPractice:
    """Which go of a student's is this?"""
    return _practice(_row(session, practice_id, BenchPracticeRow.student_id == student_id))


def practice_of_class(session: Session, class_id: int, practice_id: int) -> KeptPractice:
    """Which go of somebody in a class is this?"""
    return _practice(_row(session, practice_id, BenchPracticeRow.class_id == class_id))


def practices_of_student(session: Session, student_id: int) -> tuple[KeptPractice, ...]:
    """What has a student practised, the latest first?"""
    return _practices(session, BenchPracticeRow.student_id == student_id)


def practices_of_teacher(
    session: Session, class_id: int, teacher_id: int
) -> tuple[KeptPractice, ...]:
    """What has a teacher tried with a class's tubes, the latest first?"""
    return _practices(
        session,
        BenchPracticeRow.teacher_id == teacher_id,
        BenchPracticeRow.class_id == class_id,
    )


def best_by_task(session: Session, class_id: int) -> dict[tuple[int, int], float]:
    """How near did students come in tasks given to their class, by task and student?"""
    rows = session.execute(
        select(
            BenchPracticeRow.task_id, BenchPracticeRow.student_id, func.min(BenchPracticeRow.away)
        )
        .where(
            BenchPracticeRow.class_id == class_id,
            BenchPracticeRow.task_id.is_not(None),
            BenchPracticeRow.student_id.is_not(None),
            BenchPracticeRow.ended_at.is_not(None),
            BenchPracticeRow.away.is_not(None),
        )
        .group_by(BenchPracticeRow.task_id, BenchPracticeRow.student_id)
    )
    return {
        (task, student): away
        for task, student, away in rows
        if task is not None and student is not None and away is not None
    }


def hold_practice(session: Session, practice_id: int) -> None:
    """Let nobody else change a go until this transaction ends."""
    session.execute(
        select(BenchPracticeRow.id).where(BenchPracticeRow.id == practice_id).with_for_update()
    )
    session.expire_all()


def keep_acts(session: Session, practice_id: int, played: Json, foreseen: list[Json]) -> None:
    """Keep what was done so far, and what was foreseen of it."""
    row = session.get_one(BenchPracticeRow, practice_id)
    row.played, row.foreseen = played, foreseen
    session.flush()


def count_answer(session: Session, practice_id: int) -> None:
    """Count an answer that was asked for."""
    session.get_one(BenchPracticeRow, practice_id).asked += 1
    session.flush()


def end_practice(
    session: Session, practice_id: int, *, away: float | None, touches: int, now: datetime
) -> None:
    """Keep how a go ended."""
    row = session.get_one(BenchPracticeRow, practice_id)
    row.away, row.touches, row.ended_at = away, touches, now
    session.flush()


def _practices(session: Session, *conditions: ColumnElement[bool]) -> tuple[KeptPractice, ...]:
    rows = session.scalars(
        select(BenchPracticeRow)
        .where(*conditions)
        .order_by(BenchPracticeRow.id.desc())
        .limit(MOST_SHOWN)
    )
    return tuple(_practice(row) for row in rows)


def _row(session: Session, practice_id: int, whose: ColumnElement[bool]) -> BenchPracticeRow:
    row = session.scalar(select(BenchPracticeRow).where(BenchPracticeRow.id == practice_id, whose))
    if row is None:
        raise NotFound(gettext("There is no such practice of yours."))
    return row


def _task_row(session: Session, class_id: int, task_id: int) -> BenchTaskRow:
    row = session.scalar(
        select(BenchTaskRow).where(BenchTaskRow.id == task_id, BenchTaskRow.class_id == class_id)
    )
    if row is None:
        raise NotFound(gettext("There is no such task in this class."))
    return row


def _given(row: BenchTaskRow) -> GivenTask:
    return GivenTask(
        id=row.id,
        class_id=row.class_id,
        title=row.title,
        task=row.task,
        paints=row.paints,
        due_on=row.due_on,
    )


def _practice(row: BenchPracticeRow) -> KeptPractice:
    return KeptPractice(
        id=row.id,
        class_id=row.class_id,
        student_id=row.student_id,
        teacher_id=row.teacher_id,
        task=row.task,
        paints=row.paints,
        played=row.played,
        task_id=row.task_id,
        foreseen=row.foreseen,
        asked=row.asked,
        away=row.away,
        touches=row.touches,
        begun_at=row.begun_at,
        ended_at=row.ended_at,
    )
