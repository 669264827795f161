"""Records of the school's other systems, and what of ours they stand for."""

from dataclasses import dataclass

from sqlalchemy import select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.store.base import Json
from noema.store.student_tables import Sourced
from noema.store.tables import Enrolment, SchoolClass, Student


@dataclass(frozen=True, kw_only=True)
class SourcedRow:
    """One record."""

    kind: str
    sourced_id: str
    body: dict[str, str]
    class_id: int | None
    student_id: int | None


def sourced_of_school(session: Session, school_id: int) -> tuple[SourcedRow, ...]:
    """What did other systems send about a school, in the order it came?"""
    rows = session.scalars(
        select(Sourced).where(Sourced.school_id == school_id).order_by(Sourced.id)
    )
    return tuple(
        SourcedRow(
            kind=row.kind,
            sourced_id=row.sourced_id,
            body={name: str(value) for name, value in row.body.items()},
            class_id=row.class_id,
            student_id=row.student_id,
        )
        for row in rows
    )


def keep_sourced(session: Session, school_id: int, row: SourcedRow) -> None:
    """Keep a record as it was sent last."""
    body: Json = dict(row.body)
    values = {
        "school_id": school_id,
        "kind": row.kind,
        "sourced_id": row.sourced_id,
        "body": body,
        "class_id": row.class_id,
        "student_id": row.student_id,
    }
    fresh = insert(Sourced).values(**values)
    session.execute(
        fresh.on_conflict_do_update(
            index_elements=["school_id", "kind", "sourced_id"],
            set_={name: values[name] for name in ("body", "class_id", "student_id")},
        )
    )


def names_of_students(session: Session, school_id: int) -> dict[int, str]:
    """What are a school's students called?"""
    rows = session.execute(
        select(Student.id, Student.display_name).where(Student.school_id == school_id)
    )
    return {row.id: row.display_name for row in rows}


def rename_student(session: Session, student_id: int, name: str) -> None:
    """Call a student by another name."""
    session.execute(update(Student).where(Student.id == student_id).values(display_name=name))


def rename_class(session: Session, class_id: int, name: str) -> None:
    """Call a class by another name."""
    session.execute(update(SchoolClass).where(SchoolClass.id == class_id).values(name=name))


def add_student(session: Session, school_id: int, name: str) -> int:
    """Add a student who is in no class yet, and give their number."""
    row = Student(school_id=school_id, display_name=name)
    session.add(row)
    session.flush()
    return row.id


def enrolled_of_school(session: Session, school_id: int) -> frozenset[tuple[int, int]]:
    """Who is in which class: pairs of class and student?"""
    rows = session.execute(
        select(Enrolment.class_id, Enrolment.student_id)
        .join(SchoolClass, SchoolClass.id == Enrolment.class_id)
        .where(SchoolClass.school_id == school_id)
    )
    return frozenset((row.class_id, row.student_id) for row in rows)
