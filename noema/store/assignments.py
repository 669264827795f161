"""Exercises given to classes."""

from collections.abc import Collection
from dataclasses import asdict, dataclass
from datetime import date, datetime
from typing import Any

from sqlalchemy import ColumnElement, ScalarSelect, Select, func, select, tuple_
from sqlalchemy.orm import Session

from noema.core.coaching.audience import Audience
from noema.core.errors import NotFound
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.exercises.tolerance import Tolerance
from noema.core.language import Source, gettext
from noema.core.planning.unit import Unit
from noema.core.sheet.paper import Paper
from noema.store.base import Json
from noema.store.leaves import Leaf, LeafWanted, has_words, leaf_of
from noema.store.revisions import HELD, HELD_NOW, tolerance_of
from noema.store.tables import (
    Assignment,
    Enrolment,
    KeyRevision,
    Photograph,
    ReviewRow,
    SchoolClass,
    Sheet,
)
from noema.store.terms import is_excused
from noema.store.titles import title_said


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
    revision_id: int  # of its key, held now
    set_ref: str | None  # None where it needs no set
    medium: Medium
    level: Level
    tolerance: Tolerance
    key: Key
    paper: Paper
    grey_only: bool  # for a black-and-white printer
    shows_parts: bool  # the volumes are printed beside the cells
    own_tubes: bool  # a row of tubes as they come is printed beside them
    due_week: int
    due_on: date | None  # where a day was chosen
    withdrawn: bool
    wish: str | None  # of the class's unit, that it is
    unit: Unit  # its class's
    audience: Audience  # whom its class's sentences are for
    larger_cells: bool  # its class's sheets have them
    sheets: int  # printed so far, for redoing too
    missing: int  # students who should have a sheet and don't

    @property
    def due_day(self) -> date:
        """The day it is due on for the class, as far as its unit's plan says no other."""
        return self.due_on or self.unit.friday_of(self.due_week)


@dataclass(frozen=True, kw_only=True)
class NewAssignment:
    """What a teacher chose."""

    class_id: int
    stem: str
    kind: str
    title: str
    title_source: Source | None  # none: it is said as it stands, whoever reads
    options: Json
    medium: str
    paper: str
    grey_only: bool
    shows_parts: bool
    own_tubes: bool
    due_week: int
    assigned_by: int
    wish: str | None = None  # of the class's unit, that it is
    printer_id: int | None = None  # that lays its sheets


def assignments_found(
    session: Session, school_id: int, wanted: LeafWanted, *conditions: ColumnElement[bool]
) -> Leaf[AssignmentRow]:
    """What of all that was given to a school's classes stands on a leaf of it, by class and week?

    Only what meets some conditions.
    """
    found = has_words(wanted.words, SchoolClass.name, Assignment.title)
    question = _assignments().where(SchoolClass.school_id == school_id, found, *conditions)
    if wanted.after is not None:
        before = (
            select(*_BY_CLASS)
            .join(SchoolClass, SchoolClass.id == Assignment.class_id)
            .where(Assignment.id == wanted.after, SchoolClass.school_id == school_id)
            .correlate(None)
        )
        question = question.where(tuple_(*_BY_CLASS) > before.scalar_subquery())
    return leaf_of(_rows(session, question.limit(wanted.most + 1)), wanted)


def still_given() -> ColumnElement[bool]:
    """Assignments that weren't withdrawn."""
    return Assignment.withdrawn_at.is_(None)


def class_goes_on() -> ColumnElement[bool]:
    """Assignments of classes that aren't archived."""
    return SchoolClass.archived_at.is_(None)


def assignments_of_school(
    session: Session, school_id: int, numbers: Collection[int]
) -> dict[int, AssignmentRow]:
    """Which of a school's assignments have these numbers?"""
    wanted = Assignment.id.in_(numbers)
    rows = assignments_where(session, SchoolClass.school_id == school_id, wanted)
    return {row.id: row for row in rows}


def assignments_to_start_from(
    session: Session, school_id: int, class_id: int, most: int
) -> tuple[AssignmentRow, ...]:
    """What was given last in a school, to one class before all others?"""
    own_first = ((Assignment.class_id == class_id).desc(), Assignment.id.desc())
    question = _assignments().where(SchoolClass.school_id == school_id)
    return _rows(session, question.order_by(None).order_by(*own_first).limit(most))


def assignments_of_class(session: Session, class_id: int) -> tuple[AssignmentRow, ...]:
    """What has been given to a class, by week?"""
    return assignments_of_classes(session, [class_id])


def assignments_of_classes(
    session: Session, class_ids: Collection[int]
) -> tuple[AssignmentRow, ...]:
    """What has been given to some classes, by class and week?"""
    return assignments_where(session, Assignment.class_id.in_(class_ids))


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
        raise NotFound(gettext("There is no such assignment in your school."))
    return rows[0]


def lock_assignment(session: Session, assignment_id: int) -> None:
    """Hold an assignment, so that two teachers number its sheets, or its keys, in turn."""
    session.execute(select(Assignment.id).where(Assignment.id == assignment_id).with_for_update())


def keep_from_changing(session: Session, assignment_id: int) -> int:
    """Let no other key be written until this transaction ends; gives the school's number.

    Many may hold it so at once; who writes a key waits for them.
    """
    held = select(Assignment.class_id).where(Assignment.id == assignment_id)
    class_id = session.scalars(held.with_for_update(read=True)).one()
    school = select(SchoolClass.school_id).where(SchoolClass.id == class_id)
    return session.scalars(school).one()


def set_due(session: Session, assignment_id: int, due_on: date, due_week: int) -> None:
    """Say on which day an assignment is due, and in which week of its unit that lies."""
    row = session.get_one(Assignment, assignment_id)
    row.due_on, row.due_week = due_on, due_week
    session.flush()


def set_title(session: Session, assignment_id: int, title: str) -> None:
    """Say what an assignment is called in lists, in every language."""
    row = session.get_one(Assignment, assignment_id)
    row.title, row.title_source = title, None
    session.flush()


def set_withdrawn(session: Session, assignment_id: int, at: datetime | None) -> None:
    """Withdraw an assignment, or give it after all."""
    session.get_one(Assignment, assignment_id).withdrawn_at = at
    session.flush()


def stem_taken(session: Session, stem: str) -> bool:
    """Does a set of sheets already carry this stem?"""
    return session.scalar(select(Assignment.id).where(Assignment.stem == stem)) is not None


def add_assignment(session: Session, new: NewAssignment) -> int:
    """Add an assignment and give its number."""
    row = Assignment(**asdict(new))
    session.add(row)
    session.flush()
    return row.id


@dataclass(frozen=True, kw_only=True)
class GivenWish:
    """A wish of a class's unit that was given to it."""

    assignment_id: int  # the newest
    missing: int  # students who should have a sheet and don't


def given_wishes(session: Session, class_ids: Collection[int]) -> dict[tuple[int, str], GivenWish]:
    """What of some classes' units was given to them, by class and wish?"""
    rows = session.execute(
        select(Assignment.class_id, Assignment.wish, Assignment.id, _missing())
        .where(Assignment.class_id.in_(class_ids), Assignment.wish.is_not(None), still_given())
        .order_by(Assignment.id)
    )
    return {
        (class_id, wish): GivenWish(assignment_id=assignment_id, missing=missing)
        for class_id, wish, assignment_id, missing in rows
        if wish is not None
    }


def last_painted(session: Session, school_id: int, kind: str, fewest: int) -> int | None:
    """Which exercise of a kind did a school last give that so many sheets were judged of?"""
    judged = (
        select(func.count(Sheet.student_id.distinct()))
        .join(Photograph, Photograph.sheet_id == Sheet.id)
        .join(ReviewRow, ReviewRow.photograph_id == Photograph.id)
        .where(Sheet.assignment_id == Assignment.id)
        .correlate(Assignment)
        .scalar_subquery()
    )
    return session.scalar(
        select(Assignment.id)
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .where(SchoolClass.school_id == school_id, Assignment.kind == kind, judged >= fewest)
        .order_by(Assignment.assigned_at.desc(), Assignment.id.desc())
        .limit(1)
    )


_BY_CLASS = (SchoolClass.name, Assignment.due_week, Assignment.id)


def _assignments() -> Select[*tuple[Any, ...]]:
    printed = select(func.count(Sheet.student_id)).where(Sheet.assignment_id == Assignment.id)
    return (
        select(
            # Columns, not rows: lists don't show what is asked, and it weighs the most.
            *_LISTED,
            *HELD,
            SchoolClass.name.label("class_name"),
            SchoolClass.unit_weeks,
            SchoolClass.unit_starts_on,
            SchoolClass.audience,
            SchoolClass.larger_cells,
            Assignment.withdrawn_at.is_not(None).label("withdrawn"),
            printed.correlate(Assignment).scalar_subquery().label("sheets"),
            _missing().label("missing"),
        )
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .join(KeyRevision, HELD_NOW)
        .order_by(*_BY_CLASS)
    )


def _missing() -> ScalarSelect[int]:
    """Count who of an assignment's class should have a sheet of it and has none."""
    has_one = (
        select(Sheet.id)
        .where(Sheet.assignment_id == Assignment.id, Sheet.student_id == Enrolment.student_id)
        .correlate(Assignment, Enrolment)
    )
    owed = select(func.count()).where(
        Enrolment.class_id == Assignment.class_id,
        Assignment.withdrawn_at.is_(None),
        ~has_one.exists(),
        ~is_excused(),
    )
    return owed.correlate(Assignment).scalar_subquery()


def _rows(session: Session, question: Select[*tuple[Any, ...]]) -> tuple[AssignmentRow, ...]:
    return tuple(
        AssignmentRow(
            tolerance=tolerance_of(row),
            **{
                **{
                    k: v
                    for k, v in row._asdict().items()
                    if not k.endswith(("_tolerance", "_source")) and not k.startswith("unit_")
                },
                "title": title_said(row),
                "unit": Unit(starts_on=row.unit_starts_on, weeks=row.unit_weeks),
                "medium": Medium(row.medium),
                "level": Level(row.level),
                "key": Key(row.key),
                "paper": Paper(row.paper),
                "audience": Audience(row.audience),
            },
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
        "title_source",
        "options",
        "medium",
        "paper",
        "grey_only",
        "shows_parts",
        "own_tubes",
        "due_week",
        "due_on",
        "wish",
    )
)
