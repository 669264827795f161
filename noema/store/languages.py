"""Which language a school and its people are spoken to in."""

from collections.abc import Collection

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from noema.store.tables import Assignment, School, SchoolClass, Student, Teacher


def language_of_assignment(session: Session, assignment_id: int) -> str:
    """In which language is the school of an assignment spoken to?"""
    return session.execute(
        select(School.language)
        .join(SchoolClass, SchoolClass.school_id == School.id)
        .join(Assignment, Assignment.class_id == SchoolClass.id)
        .where(Assignment.id == assignment_id)
    ).scalar_one()


def languages_of_students(session: Session, student_ids: Collection[int]) -> dict[int, str]:
    """In which language is each of these students spoken to: their own, else their school's?"""
    rows = session.execute(
        select(Student.id, func.coalesce(Student.language, School.language))
        .join(School, School.id == Student.school_id)
        .where(Student.id.in_(student_ids))
    )
    return {student_id: language for student_id, language in rows}


def keep_school_language(session: Session, school_id: int, code: str) -> None:
    """Keep a school's language."""
    session.get_one(School, school_id).language = code
    session.flush()


def keep_own_language(
    session: Session, teacher_id: int | None, student_id: int | None, code: str
) -> None:
    """Keep the language somebody chose."""
    if teacher_id is not None:
        session.get_one(Teacher, teacher_id).language = code
    if student_id is not None:
        session.get_one(Student, student_id).language = code
    session.flush()
