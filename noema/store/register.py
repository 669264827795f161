"""The register of lessons."""

from sqlalchemy import delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.core.planning.register import RegisterMark
from noema.store.planning_tables import LessonMark


def marks_of_lesson(session: Session, class_id: int, lesson: str) -> dict[int, RegisterMark]:
    """Who wasn't there for all of a lesson, by student?"""
    rows = session.execute(
        select(LessonMark.student_id, LessonMark.mark).where(
            LessonMark.class_id == class_id, LessonMark.lesson == lesson
        )
    )
    return {row.student_id: RegisterMark(row.mark) for row in rows}


def keep_mark(
    session: Session, class_id: int, lesson: str, student_id: int, mark: RegisterMark | None
) -> None:
    """Note what is said of a student in a lesson; None: they were there."""
    own = (
        LessonMark.class_id == class_id,
        LessonMark.lesson == lesson,
        LessonMark.student_id == student_id,
    )
    session.execute(delete(LessonMark).where(*own))
    if mark is not None:
        row = {"class_id": class_id, "lesson": lesson, "student_id": student_id}
        session.execute(insert(LessonMark).values(**row, mark=mark.value))


def give_marks_to(session: Session, from_id: int, to_id: int) -> None:
    """Give one student's marks to another, where nothing is said of the other."""
    theirs = session.scalars(select(LessonMark).where(LessonMark.student_id == from_id)).all()
    for row in theirs:
        copy = {"class_id": row.class_id, "lesson": row.lesson, "mark": row.mark}
        added = insert(LessonMark).values(student_id=to_id, **copy)
        session.execute(added.on_conflict_do_nothing())


def marks_of_student(
    session: Session, student_id: int
) -> tuple[tuple[int, str, RegisterMark], ...]:
    """In which lessons wasn't a student there for all of it, by class and lesson?"""
    rows = session.execute(
        select(LessonMark.class_id, LessonMark.lesson, LessonMark.mark)
        .where(LessonMark.student_id == student_id)
        .order_by(LessonMark.lesson)
    )
    return tuple((row.class_id, row.lesson, RegisterMark(row.mark)) for row in rows)


def away_of_class(session: Session, class_id: int) -> dict[int, set[str]]:
    """Which lessons did each student of a class miss?"""
    rows = session.execute(
        select(LessonMark.student_id, LessonMark.lesson).where(
            LessonMark.class_id == class_id, LessonMark.mark == RegisterMark.AWAY.value
        )
    )
    found: dict[int, set[str]] = {}
    for student_id, lesson in rows:
        found.setdefault(student_id, set()).add(lesson)
    return found
