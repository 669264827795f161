"""Classes and who is in them."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import Select, func, select, tuple_, update
from sqlalchemy.orm import Session

from noema.core.coaching.audience import Audience
from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.core.planning.unit import Unit
from noema.store.leaves import Leaf, LeafWanted, has_words, leaf_of
from noema.store.tables import Assignment, Enrolment, SchoolClass, Student


@dataclass(frozen=True, kw_only=True)
class ClassRow:
    """A class and its unit."""

    id: int
    name: str
    unit: Unit
    audience: Audience  # whom sentences are for
    term: str  # such as Autumn 2026; empty where nobody said
    archived: bool
    students: int  # how many
    names_colours: bool = False  # beside them, at the bench
    larger_cells: bool = False  # on its sheets


@dataclass(frozen=True, kw_only=True)
class StudentName:
    """A student by the name they are called."""

    id: int
    display_name: str


def classes_of_school(
    session: Session, school_id: int, *, archived: bool = False
) -> tuple[ClassRow, ...]:
    """Which classes of a school go on, or which are archived, by name?"""
    over = SchoolClass.archived_at.is_not(None) if archived else SchoolClass.archived_at.is_(None)
    rows = session.execute(
        _classes().where(SchoolClass.school_id == school_id, over).order_by(SchoolClass.name)
    )
    return tuple(_class_row(row.SchoolClass, row.students) for row in rows)


def classes_found(
    session: Session, school_id: int, wanted: LeafWanted, *, archived: bool = False
) -> Leaf[ClassRow]:
    """Which classes of a school that go on, or are archived, stand on a leaf of them, by name?"""
    over = SchoolClass.archived_at.is_not(None) if archived else SchoolClass.archived_at.is_(None)
    found = has_words(wanted.words, SchoolClass.name)
    question = _classes().where(SchoolClass.school_id == school_id, over, found)
    if wanted.after is not None:
        before = select(SchoolClass.name).where(
            SchoolClass.id == wanted.after, SchoolClass.school_id == school_id
        )
        question = question.where(SchoolClass.name > before.scalar_subquery())
    rows = session.execute(question.order_by(SchoolClass.name).limit(wanted.most + 1))
    return leaf_of([_class_row(row.SchoolClass, row.students) for row in rows], wanted)


def class_of_school(session: Session, school_id: int, class_id: int) -> ClassRow:
    """Which class is this, if it is one of the school's?"""
    row = session.execute(
        _classes().where(SchoolClass.school_id == school_id, SchoolClass.id == class_id)
    ).one_or_none()
    if row is None:
        raise NotFound(gettext("There is no such class in your school."))
    return _class_row(row.SchoolClass, row.students)


def school_of_class(session: Session, class_id: int) -> int:
    """Which school is a class of?"""
    return session.get_one(SchoolClass, class_id).school_id


def lock_class(session: Session, class_id: int) -> None:
    """Hold a class, so that two who bring names into it do so in turn."""
    session.execute(select(SchoolClass.id).where(SchoolClass.id == class_id).with_for_update())


def units_of_classes(session: Session, class_ids: Collection[int]) -> dict[int, Unit]:
    """Which units do some classes have?"""
    rows = session.scalars(select(SchoolClass).where(SchoolClass.id.in_(class_ids)))
    return {row.id: unit_of(row) for row in rows}


def unit_of(row: SchoolClass) -> Unit:
    """Give a class's unit."""
    return Unit(starts_on=row.unit_starts_on, weeks=row.unit_weeks)


def class_name_taken(session: Session, school_id: int, name: str) -> bool:
    """Does a class of the school already have this name?"""
    taken = select(SchoolClass.id).where(
        SchoolClass.school_id == school_id, func.lower(SchoolClass.name) == name.lower()
    )
    return session.scalar(taken) is not None


def add_class(
    session: Session,
    school_id: int,
    name: str,
    unit: Unit,
    *,
    join_code: str,
    term: str = "",
) -> int:
    """Add a class and give its number."""
    row = SchoolClass(
        school_id=school_id,
        name=name,
        unit_starts_on=unit.starts_on,
        unit_weeks=unit.weeks,
        join_code=join_code,
        term=term,
    )
    session.add(row)
    session.flush()
    return row.id


def set_name_and_unit(session: Session, class_id: int, name: str, unit: Unit) -> None:
    """Call a class otherwise, and give its unit other days; what is due is counted by them."""
    row = session.get_one(SchoolClass, class_id)
    row.name, row.unit_starts_on, row.unit_weeks = name, unit.starts_on, unit.weeks
    given = session.scalars(select(Assignment).where(Assignment.class_id == class_id))
    for one in given:
        if one.due_on is not None:
            one.due_week = unit.week_within(one.due_on)
        else:
            one.due_week = min(one.due_week, unit.weeks)
    session.flush()


def set_larger_cells(session: Session, class_id: int, *, larger: bool) -> None:
    """Say whether a class's sheets have larger cells."""
    session.get_one(SchoolClass, class_id).larger_cells = larger
    session.flush()


def rename_student(session: Session, student_id: int, name: str) -> None:
    """Call a student otherwise."""
    session.get_one(Student, student_id).display_name = name
    session.flush()


def set_audience(session: Session, class_id: int, audience: Audience) -> None:
    """Say whom a class's sentences are for."""
    session.execute(
        update(SchoolClass).where(SchoolClass.id == class_id).values(audience=audience.value)
    )


def set_archived(session: Session, class_id: int, at: datetime | None) -> None:
    """Archive a class, or bring it back."""
    session.get_one(SchoolClass, class_id).archived_at = at
    session.flush()


def set_names_colours(session: Session, class_id: int, names_colours: bool) -> None:
    """Say whether a class's bench names colours beside them."""
    session.get_one(SchoolClass, class_id).names_colours = names_colours
    session.flush()


def set_term(session: Session, class_id: int, term: str) -> None:
    """Say in which term a class is."""
    session.get_one(SchoolClass, class_id).term = term
    session.flush()


def students_of_class(session: Session, class_id: int) -> tuple[StudentName, ...]:
    """Who is in a class, by name?"""
    rows = session.execute(
        select(Student.id, Student.display_name)
        .join(Enrolment, Enrolment.student_id == Student.id)
        .where(Enrolment.class_id == class_id)
        .order_by(func.lower(Student.display_name), Student.id)
    )
    return tuple(StudentName(id=row.id, display_name=row.display_name) for row in rows)


def students_found(session: Session, class_id: int, wanted: LeafWanted) -> Leaf[StudentName]:
    """Who of a class stands on a leaf of its roster, by name?"""
    by_name = (func.lower(Student.display_name), Student.id)
    question = (
        select(Student.id, Student.display_name)
        .join(Enrolment, Enrolment.student_id == Student.id)
        .where(Enrolment.class_id == class_id, has_words(wanted.words, Student.display_name))
    )
    if wanted.after is not None:
        before = select(*by_name).where(Student.id == wanted.after)
        question = question.where(tuple_(*by_name) > before.scalar_subquery())
    rows = session.execute(question.order_by(*by_name).limit(wanted.most + 1))
    return leaf_of([StudentName(id=row.id, display_name=row.display_name) for row in rows], wanted)


def student_of_class(session: Session, class_id: int, student_id: int) -> StudentName:
    """Who is this, if they are in the class?"""
    row = session.execute(
        select(Student.id, Student.display_name)
        .join(Enrolment, Enrolment.student_id == Student.id)
        .where(Enrolment.class_id == class_id, Student.id == student_id)
    ).one_or_none()
    if row is None:
        raise NotFound(gettext("There is no such student in this class."))
    return StudentName(id=row.id, display_name=row.display_name)


def enrol(session: Session, school_id: int, class_id: int, names: Sequence[str]) -> None:
    """Add new students to a class."""
    students = [Student(school_id=school_id, display_name=name) for name in names]
    session.add_all(students)
    session.flush()
    session.add_all(Enrolment(class_id=class_id, student_id=student.id) for student in students)
    session.flush()


def _classes() -> Select[tuple[SchoolClass, int]]:
    students = (
        select(func.count())
        .select_from(Enrolment)
        .where(Enrolment.class_id == SchoolClass.id)
        .correlate(SchoolClass)
        .scalar_subquery()
    )
    return select(SchoolClass, students.label("students"))


def _class_row(row: SchoolClass, students: int) -> ClassRow:
    return ClassRow(
        id=row.id,
        name=row.name,
        unit=unit_of(row),
        audience=Audience(row.audience),
        term=row.term,
        archived=row.archived_at is not None,
        names_colours=row.names_colours,
        larger_cells=row.larger_cells,
        students=students,
    )
