"""Schools and their teachers."""

from dataclasses import dataclass

from sqlalchemy import ColumnElement, select, text
from sqlalchemy.orm import Session

from noema.core.joining.role import StaffRole
from noema.store.tables import School, Teacher

_FOUNDING = 0x6E6F66  # any number that nobody else locks by
NO_PASSWORD = "none"
"""A hash that no password has: somebody must set one first."""


@dataclass(frozen=True, kw_only=True)
class TeacherRow:
    """A teacher who may log in."""

    id: int
    school_id: int
    school_name: str
    time_zone: str
    school_language: str
    language: str | None  # their own; none: the school's
    email: str
    display_name: str
    role: StaffRole
    is_disabled: bool
    password_hash: str


def teacher_by_id(session: Session, teacher_id: int) -> TeacherRow | None:
    """Who has this number?"""
    return _teacher(session, Teacher.id == teacher_id)


def teacher_by_email(session: Session, email: str) -> TeacherRow | None:
    """Who logs in with this address, whatever its capitals?"""
    return _teacher(session, Teacher.email == email.strip().lower())


def school_by_name(session: Session, name: str) -> int | None:
    """Which school has this name?"""
    return session.scalar(select(School.id).where(School.name == name))


def add_school(session: Session, name: str, time_zone: str, language: str) -> int:
    """Add a school and give its number."""
    school = School(name=name, time_zone=time_zone, language=language)
    session.add(school)
    session.flush()
    return school.id


def lock_school(session: Session, school_id: int) -> None:
    """Hold a school, so that two packages come into it in turn."""
    session.execute(select(School.id).where(School.id == school_id).with_for_update())


def hold_founding(session: Session) -> None:
    """Let no other first school be founded until this is done or given up."""
    session.execute(text("SELECT pg_advisory_xact_lock(:key)"), {"key": _FOUNDING})


def add_teacher(
    session: Session,
    school_id: int,
    email: str,
    display_name: str,
    password_hash: str,
    role: StaffRole,
) -> int:
    """Add a teacher and give their number."""
    teacher = Teacher(
        school_id=school_id,
        email=email.strip().lower(),
        display_name=display_name,
        password_hash=password_hash,
        role=role.value,
    )
    session.add(teacher)
    session.flush()
    return teacher.id


def set_password_hash(session: Session, teacher_id: int, password_hash: str) -> None:
    """Keep the hash of a teacher's new password."""
    session.get_one(Teacher, teacher_id).password_hash = password_hash
    session.flush()


def _teacher(session: Session, condition: ColumnElement[bool]) -> TeacherRow | None:
    row = session.execute(
        select(Teacher, School).join(School, School.id == Teacher.school_id).where(condition)
    ).one_or_none()
    if row is None:
        return None
    teacher, school = row
    return TeacherRow(
        id=teacher.id,
        school_id=teacher.school_id,
        school_name=school.name,
        time_zone=school.time_zone,
        school_language=school.language,
        language=teacher.language,
        email=teacher.email,
        display_name=teacher.display_name,
        role=StaffRole(teacher.role),
        is_disabled=teacher.disabled_at is not None,
        password_hash=teacher.password_hash,
    )


def time_zone_of(session: Session, school_id: int) -> str:
    """In which time zone is a school?"""
    return session.get_one(School, school_id).time_zone


def keep_time_zone(session: Session, school_id: int, name: str) -> None:
    """Keep a school's time zone."""
    session.get_one(School, school_id).time_zone = name
    session.flush()


def keeps_originals(session: Session, school_id: int) -> bool:
    """Does a school keep all that cameras wrote beside a picture?"""
    return bool(session.scalar(select(School.keeps_originals).where(School.id == school_id)))


def set_keeps_originals(session: Session, school_id: int, keeps: bool) -> None:
    """Keep all that cameras write beside pictures, or only what reading them needs."""
    session.get_one(School, school_id).keeps_originals = keeps
    session.flush()


def keep_months_of(session: Session, school_id: int) -> int | None:
    """For how many months does a school keep pictures? None: without end."""
    return session.scalar(select(School.keep_months).where(School.id == school_id))


def set_keep_months(session: Session, school_id: int, months: int | None) -> None:
    """Keep a school's pictures for some months."""
    session.get_one(School, school_id).keep_months = months
    session.flush()
