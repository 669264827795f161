"""A class is called otherwise, its unit begins or ends on other days; a student is renamed."""

import unicodedata
from datetime import date

from sqlalchemy.orm import Session

from noema.actions.make_class import free_name, sane_unit
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.formats.roster import LONGEST_NAME, can_be_printed
from noema.store.classes import (
    class_of_school,
    lock_class,
    rename_student,
    set_larger_cells,
    set_name_and_unit,
    student_of_class,
    students_of_class,
)
from noema.store.queue import queue_planning
from noema.store.units import ask_for_plan, unit_of_class


def change_class(
    session: Session, school_id: int, class_id: int, name: str, starts_on: date, weeks: int
) -> None:
    """Rename a class, or give its unit other days.

    What is due in a week moves with it, what is due on a day stays; a unit in time is planned anew.
    """
    row = class_of_school(session, school_id, class_id)
    lock_class(session, class_id)
    if name.split() != row.name.split():
        name = free_name(session, school_id, name)
    unit = sane_unit(starts_on, weeks)
    set_name_and_unit(session, class_id, " ".join(name.split()), unit)
    if unit != row.unit and unit_of_class(session, class_id) is not None:
        ask_for_plan(session, class_id)
        queue_planning(session, class_id)


def size_cells(session: Session, school_id: int, class_id: int, *, larger: bool) -> None:
    """Say whether a class's sheets have cells as large as the page lets them be."""
    class_of_school(session, school_id, class_id)
    set_larger_cells(session, class_id, larger=larger)


def name_student(
    session: Session, school_id: int, class_id: int, student_id: int, name: str
) -> None:
    """Call a student otherwise; their card and all they painted stay theirs."""
    class_of_school(session, school_id, class_id)
    lock_class(session, class_id)
    student = student_of_class(session, class_id, student_id)
    name = unicodedata.normalize("NFC", " ".join(name.split()))
    if not 1 <= len(name) <= LONGEST_NAME:
        raise Refused(gettext("Give them a name of at most %(most)s letters.", most=LONGEST_NAME))
    if not can_be_printed(name):
        raise Refused(gettext("There are signs in it that can't be printed: type the name again."))
    others = (o for o in students_of_class(session, class_id) if o.id != student.id)
    if any(other.display_name.casefold() == name.casefold() for other in others):
        raise Refused(
            gettext("“%(name)s” is in the class already: add what tells the two apart.", name=name)
        )
    rename_student(session, student.id, name)
