"""Exercises given to classes."""

from dataclasses import dataclass
from typing import Any, cast

from sqlalchemy import Select, func, select
from sqlalchemy.orm import Session

from noema.core.errors import NotFound
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.exercises.value_scale import KIND, ValueScale
from noema.core.sheet.paper import Paper
from noema.store.tables import Assignment, SchoolClass, Sheet


@dataclass(frozen=True, kw_only=True)
class AssignmentRow:
    """A value scale as given to a class."""

    id: int
    class_id: int
    class_name: str
    stem: str  # of its sheets' codes
    scale: ValueScale
    level: Level
    key: Key
    paper: Paper
    due_week: int
    unit_weeks: int
    sheets: int  # printed so far, for redoing too
    served: int  # students who have at least one

    @property
    def title(self) -> str:
        """What it is called in lists."""
        return self.scale.title


@dataclass(frozen=True, kw_only=True)
class NewAssignment:
    """What a teacher chose."""

    class_id: int
    stem: str
    scale: ValueScale
    level: Level
    key: Key
    paper: Paper
    due_week: int
    assigned_by: int


def assignments_of_school(session: Session, school_id: int) -> tuple[AssignmentRow, ...]:
    """What has been given to a school's classes, by class and week?"""
    return _rows(session, _assignments().where(SchoolClass.school_id == school_id))


def assignments_of_class(session: Session, class_id: int) -> tuple[AssignmentRow, ...]:
    """What has been given to a class, by week?"""
    return _rows(session, _assignments().where(Assignment.class_id == class_id))


def assignment_of_school(session: Session, school_id: int, assignment_id: int) -> AssignmentRow:
    """Which assignment is this, if it is one of the school's?"""
    rows = _rows(
        session,
        _assignments().where(SchoolClass.school_id == school_id, Assignment.id == assignment_id),
    )
    if not rows:
        raise NotFound("There is no such assignment in your school.")
    return rows[0]


def lock_assignment(session: Session, assignment_id: int) -> None:
    """Hold an assignment, so that two teachers number its sheets one after the other."""
    session.execute(select(Assignment.id).where(Assignment.id == assignment_id).with_for_update())


def stem_taken(session: Session, stem: str) -> bool:
    """Does a set of sheets already carry this stem?"""
    return session.scalar(select(Assignment.id).where(Assignment.stem == stem)) is not None


def add_assignment(session: Session, new: NewAssignment) -> int:
    """Add an assignment and give its number."""
    row = Assignment(
        class_id=new.class_id,
        stem=new.stem,
        kind=KIND,
        options={"steps": new.scale.steps},
        medium=new.scale.medium.value,
        level=new.level.value,
        key=new.key.value,
        paper=new.paper.value,
        due_week=new.due_week,
        assigned_by=new.assigned_by,
    )
    session.add(row)
    session.flush()
    return row.id


def scale_of(row: Assignment) -> ValueScale:
    """Give the exercise an assignment's row describes."""
    return ValueScale(steps=int(cast(int, row.options["steps"])), medium=Medium(row.medium))


def _assignments() -> Select[Any]:
    printed = select(func.count(Sheet.id)).where(Sheet.assignment_id == Assignment.id)
    served = printed.with_only_columns(func.count(Sheet.student_id.distinct()))
    return (
        select(
            Assignment,
            SchoolClass.name.label("class_name"),
            SchoolClass.unit_weeks,
            printed.correlate(Assignment).scalar_subquery().label("sheets"),
            served.correlate(Assignment).scalar_subquery().label("served"),
        )
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .order_by(SchoolClass.name, Assignment.due_week, Assignment.id)
    )


def _rows(session: Session, question: Select[Any]) -> tuple[AssignmentRow, ...]:
    return tuple(
        AssignmentRow(
            id=row.Assignment.id,
            class_id=row.Assignment.class_id,
            class_name=row.class_name,
            stem=row.Assignment.stem,
            scale=scale_of(row.Assignment),
            level=Level(row.Assignment.level),
            key=Key(row.Assignment.key),
            paper=Paper(row.Assignment.paper),
            due_week=row.Assignment.due_week,
            unit_weeks=row.unit_weeks,
            sheets=row.sheets,
            served=row.served,
        )
        for row in session.execute(question)
    )
