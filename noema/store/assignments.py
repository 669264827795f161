"""Exercises given to classes."""

from collections.abc import Collection
from dataclasses import asdict, dataclass
from typing import Any

from sqlalchemy import ColumnElement, Select, func, null, select, update
from sqlalchemy.orm import Session

from noema.core.coaching.audience import Audience
from noema.core.errors import NotFound
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.sheet.paper import Paper
from noema.store.base import Json
from noema.store.tables import Assignment, SchoolClass, Sheet


@dataclass(frozen=True, kw_only=True)
class AssignmentRow:
    """An exercise as given to a class."""

    id: int
    class_id: int
    class_name: str
    stem: str  # of its sheets' codes
    kind: str
    title: str  # what it is called in lists
    options: Json  # what was chosen of the kind
    set_ref: str | None  # None for the plain value scale, which needs no set
    medium: Medium
    level: Level
    tolerance: Json
    key: Key
    paper: Paper
    grey_only: bool  # for a black-and-white printer
    shows_parts: bool  # the volumes are printed beside the cells
    due_week: int
    unit_weeks: int
    audience: Audience  # whom its class's sentences are for
    sheets: int  # printed so far, for redoing too
    served: int  # students who have at least one


@dataclass(frozen=True, kw_only=True)
class AskedRow:
    """What an assignment expects, as it is kept."""

    paints: Json | None  # format noema-set/1
    asked: Json | None
    key_photograph_id: int | None  # of the teacher's sheet, once approved
    key_labs: Json | None  # its Lab by cell


@dataclass(frozen=True, kw_only=True)
class NewAssignment:
    """What a teacher chose."""

    class_id: int
    stem: str
    kind: str
    title: str
    options: Json
    set_ref: str | None
    paints: Json | None
    asked: Json | None
    medium: str
    level: str
    tolerance: Json
    key: str
    paper: str
    grey_only: bool
    shows_parts: bool
    due_week: int
    assigned_by: int
    printer_id: int | None = None  # that lays its sheets


def assignments_of_school(session: Session, school_id: int) -> tuple[AssignmentRow, ...]:
    """What has been given to a school's classes, by class and week?"""
    return _rows(session, _assignments().where(SchoolClass.school_id == school_id))


def assignments_of_class(session: Session, class_id: int) -> tuple[AssignmentRow, ...]:
    """What has been given to a class, by week?"""
    return _rows(session, _assignments().where(Assignment.class_id == class_id))


def assignments_where(
    session: Session, *conditions: ColumnElement[bool]
) -> tuple[AssignmentRow, ...]:
    """Which assignments meet some conditions, by class and week?"""
    return _rows(session, _assignments().where(*conditions))


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
    row = Assignment(**asdict(new))
    session.add(row)
    session.flush()
    return row.id


def asked_of_assignment(session: Session, assignment_id: int) -> AskedRow:
    """What does an assignment expect of every cell?"""
    row = session.execute(
        select(
            Assignment.paints, Assignment.asked, Assignment.key_photograph_id, Assignment.key_labs
        ).where(Assignment.id == assignment_id)
    ).one()
    return AskedRow(
        paints=row.paints,
        asked=row.asked,
        key_photograph_id=row.key_photograph_id,
        key_labs=row.key_labs,
    )


def set_key(session: Session, assignment_id: int, photograph_id: int, labs: Json) -> None:
    """Keep a teacher's approved sheet as an assignment's key."""
    session.execute(
        update(Assignment)
        .where(Assignment.id == assignment_id)
        .values(key_photograph_id=photograph_id, key_labs=labs, demand=null())
    )


def set_asked_of(session: Session, assignment_id: int, key: Key, level: Level, rooms: Json) -> None:
    """Hold an assignment against another key, at another level."""
    session.execute(
        update(Assignment)
        .where(Assignment.id == assignment_id)
        .values(key=key.value, level=level.value, tolerance=rooms, demand=null())
    )


def demands_of(session: Session, assignment_ids: Collection[int]) -> dict[int, Json]:
    """What do some assignments ask of a hand, as far as that was worked out?"""
    question = select(Assignment.id, Assignment.demand).where(
        Assignment.id.in_(assignment_ids), Assignment.demand.is_not(None)
    )
    return {row.id: row.demand for row in session.execute(question)}


def set_demand(session: Session, assignment_id: int, demand: Json) -> None:
    """Keep what an assignment asks of a hand."""
    session.execute(update(Assignment).where(Assignment.id == assignment_id).values(demand=demand))


def _assignments() -> Select[Any]:
    printed = select(func.count(Sheet.student_id)).where(Sheet.assignment_id == Assignment.id)
    served = printed.with_only_columns(func.count(Sheet.student_id.distinct()))
    return (
        select(
            # Columns, not rows: lists don't show what is asked, and it weighs the most.
            *_LISTED,
            SchoolClass.name.label("class_name"),
            SchoolClass.unit_weeks,
            SchoolClass.audience,
            printed.correlate(Assignment).scalar_subquery().label("sheets"),
            served.correlate(Assignment).scalar_subquery().label("served"),
        )
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .order_by(SchoolClass.name, Assignment.due_week, Assignment.id)
    )


def _rows(session: Session, question: Select[Any]) -> tuple[AssignmentRow, ...]:
    return tuple(
        AssignmentRow(
            **{
                **row._asdict(),
                "medium": Medium(row.medium),
                "level": Level(row.level),
                "key": Key(row.key),
                "paper": Paper(row.paper),
                "audience": Audience(row.audience),
            }
        )
        for row in session.execute(question)
    )


_LISTED = tuple(
    getattr(Assignment, name)
    for name in (
        "id",
        "class_id",
        "stem",
        "kind",
        "title",
        "options",
        "set_ref",
        "medium",
        "level",
        "tolerance",
        "key",
        "paper",
        "grey_only",
        "shows_parts",
        "due_week",
    )
)
