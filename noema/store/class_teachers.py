"""Who teaches or helps in a class."""

from dataclasses import dataclass

from sqlalchemy import delete, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.core.joining.role import StaffRole
from noema.store.tables import ClassTeacher, Teacher


@dataclass(frozen=True, kw_only=True)
class ColleagueName:
    """Somebody of a school, by name."""

    id: int
    display_name: str
    role: StaffRole


def share_class(session: Session, class_id: int, teacher_id: int) -> None:
    """Share a class with somebody of its school."""
    row = {"class_id": class_id, "teacher_id": teacher_id}
    session.execute(insert(ClassTeacher).values(**row).on_conflict_do_nothing())


def unshare_class(session: Session, class_id: int, teacher_id: int) -> None:
    """Share a class with somebody no longer."""
    session.execute(
        delete(ClassTeacher).where(
            ClassTeacher.class_id == class_id, ClassTeacher.teacher_id == teacher_id
        )
    )


def unshare_all(session: Session, teacher_id: int) -> None:
    """Share no class with somebody any longer."""
    session.execute(delete(ClassTeacher).where(ClassTeacher.teacher_id == teacher_id))


def teachers_of_class(session: Session, class_id: int) -> tuple[ColleagueName, ...]:
    """Who teaches or helps in a class, by name?"""
    rows = session.execute(
        select(Teacher.id, Teacher.display_name, Teacher.role)
        .join(ClassTeacher, ClassTeacher.teacher_id == Teacher.id)
        .where(ClassTeacher.class_id == class_id)
        .order_by(Teacher.display_name, Teacher.id)
    )
    return tuple(
        ColleagueName(id=row.id, display_name=row.display_name, role=StaffRole(row.role))
        for row in rows
    )


def colleagues_of(session: Session, school_id: int) -> tuple[ColleagueName, ...]:
    """Who works at a school and can come in, by name?"""
    rows = session.execute(
        select(Teacher.id, Teacher.display_name, Teacher.role)
        .where(Teacher.school_id == school_id, Teacher.disabled_at.is_(None))
        .order_by(Teacher.display_name, Teacher.id)
    )
    return tuple(
        ColleagueName(id=row.id, display_name=row.display_name, role=StaffRole(row.role))
        for row in rows
    )
