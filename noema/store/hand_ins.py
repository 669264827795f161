"""When students first handed in what a unit wished for."""

from collections import defaultdict
from dataclasses import dataclass
from datetime import date

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from noema.store.tables import (
    Assignment,
    Batch,
    Enrolment,
    Photograph,
    School,
    SchoolClass,
    Sheet,
)


@dataclass(frozen=True, kw_only=True)
class HandIns:
    """An exercise of a class's unit, and the day each student first handed it in."""

    wish: str
    kind: str
    medium: str
    people: int  # of the class now
    first_days: tuple[date, ...]  # at the school


def hand_ins_of_class(session: Session, class_id: int) -> tuple[HandIns, ...]:
    """When was each exercise of a class's unit first handed in, by student?"""
    day = func.min(func.date(func.timezone(School.time_zone, Batch.made_at)))
    rows = session.execute(
        select(Assignment.wish, Assignment.kind, Assignment.medium, Sheet.student_id, day)
        .join(Sheet, Sheet.assignment_id == Assignment.id)
        .join(Photograph, Photograph.sheet_id == Sheet.id)
        .join(Batch, Batch.id == Photograph.batch_id)
        .join(SchoolClass, SchoolClass.id == Assignment.class_id)
        .join(School, School.id == SchoolClass.school_id)
        .where(
            Assignment.class_id == class_id,
            Assignment.wish.is_not(None),
            Sheet.student_id.is_not(None),
        )
        .group_by(Assignment.wish, Assignment.kind, Assignment.medium, Sheet.student_id)
        .order_by(Assignment.wish, Assignment.kind, Assignment.medium, Sheet.student_id)
    )
    found: dict[tuple[str, str, str], list[date]] = defaultdict(list)
    for wish, kind, medium, _, first in rows:
        found[wish, kind, medium].append(first)
    enrolled = select(func.count()).where(Enrolment.class_id == class_id)
    people = session.scalars(enrolled).one()
    return tuple(
        HandIns(wish=wish, kind=kind, medium=medium, people=people, first_days=tuple(days))
        for (wish, kind, medium), days in found.items()
    )
