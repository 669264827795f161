"""Students as people who take part themselves: who holds a card, what is theirs to see."""

from dataclasses import dataclass

from sqlalchemy import Select, func, select, update
from sqlalchemy.orm import Session

from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.store.leaves import has_any_word, has_words
from noema.store.tables import Enrolment, School, SchoolClass, Student


@dataclass(frozen=True, kw_only=True)
class StudentRow:
    """A student who may come in with a card."""

    id: int
    school_id: int
    display_name: str
    card_serial: int
    time_zone: str  # of the school
    school_language: str
    language: str | None  # their own; none: the school's


@dataclass(frozen=True, kw_only=True)
class JoinRow:
    """How a class's students come in and what they see."""

    class_id: int
    name: str
    join_code: str
    sees_at_once: bool  # readings are shown before the teacher's review
    term: str
    archived: bool


def student_by_id(session: Session, student_id: int) -> StudentRow | None:
    """Who has this number?"""
    row = session.execute(_students().where(Student.id == student_id)).one_or_none()
    return None if row is None else _student(*row)


def card_holders_of_class(session: Session, class_id: int) -> tuple[StudentRow, ...]:
    """Who of a class may come in, by name?"""
    rows = session.execute(
        _students()
        .join(Enrolment, Enrolment.student_id == Student.id)
        .where(Enrolment.class_id == class_id)
        .order_by(Student.display_name, Student.id)
    )
    return tuple(_student(*row) for row in rows)


def join_of_class(session: Session, class_id: int) -> JoinRow:
    """How do the students of a class come in?"""
    return _join(session.get_one(SchoolClass, class_id))


def class_to_join(session: Session, join_code: str) -> JoinRow | None:
    """Which class that goes on has this code?"""
    row = session.scalar(
        select(SchoolClass).where(
            SchoolClass.join_code == join_code, SchoolClass.archived_at.is_(None)
        )
    )
    return None if row is None else _join(row)


def code_taken(session: Session, join_code: str) -> bool:
    """Does a class already have this code?"""
    taken = select(SchoolClass.id).where(SchoolClass.join_code == join_code)
    return session.scalar(taken) is not None


@dataclass(frozen=True, kw_only=True)
class FoundStudent:
    """A student who was looked for, in a class they are in."""

    id: int
    name: str
    class_id: int
    class_name: str


def students_by_words(
    session: Session, school_id: int, words: str, at_most: int
) -> tuple[FoundStudent, ...]:
    """Which students of classes that go on have all of some words in their name or class?"""
    rows = session.execute(
        select(Student.id, Student.display_name, Enrolment.class_id, SchoolClass.name)
        .join(Enrolment, Enrolment.student_id == Student.id)
        .join(SchoolClass, SchoolClass.id == Enrolment.class_id)
        .where(
            Student.school_id == school_id,
            SchoolClass.archived_at.is_(None),
            has_words(words, Student.display_name, SchoolClass.name),
            has_any_word(words, Student.display_name),
        )
        .order_by(func.lower(Student.display_name), Student.id)
        .limit(at_most)
    )
    return tuple(
        FoundStudent(id=number, name=name, class_id=class_id, class_name=class_name)
        for number, name, class_id, class_name in rows
    )


def end_card(session: Session, student_id: int) -> None:
    """End a student's card; the next one counts from now on."""
    session.execute(
        update(Student).where(Student.id == student_id).values(card_serial=Student.card_serial + 1)
    )


def set_sees_at_once(session: Session, class_id: int, sees_at_once: bool) -> None:
    """Say when a class's students see readings."""
    session.get_one(SchoolClass, class_id).sees_at_once = sees_at_once
    session.flush()


def student_of_school(session: Session, school_id: int, student_id: int) -> StudentRow:
    """Which student is this, if they are one of the school's?"""
    row = session.execute(
        _students().where(Student.school_id == school_id, Student.id == student_id)
    ).one_or_none()
    if row is None:
        raise NotFound(gettext("There is no such student in your school."))
    return _student(*row)


def _students() -> Select[Student, str, str]:
    of_school = Student, School.time_zone, School.language
    return select(*of_school).join(School, School.id == Student.school_id)


def _student(row: Student, time_zone: str, school_language: str) -> StudentRow:
    return StudentRow(
        id=row.id,
        school_id=row.school_id,
        display_name=row.display_name,
        card_serial=row.card_serial,
        time_zone=time_zone,
        school_language=school_language,
        language=row.language,
    )


def _join(row: SchoolClass) -> JoinRow:
    return JoinRow(
        class_id=row.id,
        name=row.name,
        join_code=row.join_code,
        sees_at_once=row.sees_at_once,
        term=row.term,
        archived=row.archived_at is not None,
    )
