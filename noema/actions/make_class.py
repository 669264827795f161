"""A class begins, and students come into it."""

from datetime import date
from random import SystemRandom

from sqlalchemy.orm import Session

from noema.core.errors import BadRoster, Refused
from noema.core.joining.card import draw_code
from noema.core.language import gettext
from noema.core.planning.unit import LONGEST_UNIT, Unit
from noema.formats.roster import Roster, RosterOrder, read_roster
from noema.store.class_teachers import share_class
from noema.store.classes import (
    add_class,
    class_name_taken,
    class_of_school,
    enrol,
    lock_class,
    students_of_class,
)
from noema.store.reach import seeing_all
from noema.store.students import code_taken

_RNG = SystemRandom()
_LONGEST_NAME, _LONGEST_TERM = 80, 40


def make_class(
    session: Session,
    school_id: int,
    name: str,
    unit_starts_on: date,
    unit_weeks: int,
    term: str = "",
    *,
    taught_by: int | None = None,
) -> int:
    """Make a class, with a code for its students to begin with; gives its number.

    Without somebody who teaches it, administrators alone see it until they share it.
    """
    name = free_name(session, school_id, name)
    unit = sane_unit(unit_starts_on, unit_weeks)
    code = draw_code(_RNG)
    with seeing_all(session):
        while code_taken(session, code):
            code = draw_code(_RNG)
    class_id = add_class(
        session,
        school_id,
        name,
        unit,
        join_code=code,
        term=" ".join(term.split())[:_LONGEST_TERM],
    )
    if taught_by is not None:
        share_class(session, class_id, taught_by)
    return class_id


def free_name(session: Session, school_id: int, name: str) -> str:
    """Give a class's name as it is kept; refuses one that another class has."""
    name = " ".join(name.split())
    if not 1 <= len(name) <= _LONGEST_NAME:
        raise Refused(gettext("Give the class a name of at most 80 letters."))
    with seeing_all(session):
        is_taken = class_name_taken(session, school_id, name)
    if is_taken:
        raise Refused(
            gettext("There is already a class called “%(name)s”: choose another name.", name=name)
        )
    return name


def sane_unit(starts_on: date, weeks: int) -> Unit:
    """Give a unit; refuses one of no week, or of more than a year."""
    if not 1 <= weeks <= LONGEST_UNIT:
        raise Refused(
            gettext(
                "A unit lasts 1 to %(longest_unit)s weeks: choose a number between them.",
                longest_unit=LONGEST_UNIT,
            )
        )
    return Unit(starts_on=starts_on, weeks=weeks)


def preview_roster(
    session: Session,
    school_id: int,
    class_id: int,
    text: str,
    order: RosterOrder | None = None,
) -> Roster:
    """Say what enrolling a list would do, line by line, without doing it."""
    class_of_school(session, school_id, class_id)
    already = [student.display_name for student in students_of_class(session, class_id)]
    return read_roster(text, already, order)


def enrol_students(
    session: Session,
    school_id: int,
    class_id: int,
    text: str,
    order: RosterOrder | None = None,
) -> int:
    """Bring the names of a list into a class; gives how many came."""
    class_of_school(session, school_id, class_id)
    lock_class(session, class_id)
    roster = preview_roster(session, school_id, class_id, text, order)
    if not roster.names:
        raise BadRoster(gettext("There is no new name in the list: write one name a line."))
    enrol(session, school_id, class_id, roster.names)
    return len(roster.names)
