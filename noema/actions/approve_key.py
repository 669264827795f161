"""A teacher's own painted sheet becomes what a class is held against."""

from sqlalchemy.orm import Session

from noema.actions.judge_sheets import judge_all
from noema.core.errors import Refused
from noema.core.exercises.levels import Key
from noema.core.photo.reading import CellFlag
from noema.formats.reading_json import reading_from_json
from noema.store.assignments import assignment_of_school, lock_assignment, set_key
from noema.store.readings import teachers_readings

_UNSEEN = frozenset({CellFlag.UNPAINTED, CellFlag.OUTSIDE, CellFlag.GLARE, CellFlag.CLIPPED})


def approve_key(session: Session, school_id: int, assignment_id: int, photograph_id: int) -> int:
    """Take a photographed sheet of the teacher's as key and judge all work anew.

    Gives how many sheets were judged. Cells that couldn't be seen keep what the paints give.
    """
    assignment = assignment_of_school(session, school_id, assignment_id)
    if assignment.key is not Key.TEACHER:
        raise Refused("This assignment isn't held against a sheet of yours: assign it that way.")
    lock_assignment(session, assignment_id)
    bodies = {one.photograph_id: one.body for one in teachers_readings(session, assignment_id)}
    if photograph_id not in bodies:
        raise Refused("That photograph isn't of your own sheet for this assignment: choose one.")
    reading = reading_from_json(bodies[photograph_id])
    labs = {cell.id: list(cell.lab) for cell in reading.cells if not _UNSEEN & set(cell.flags)}
    if not labs:
        raise Refused("None of your cells could be read: photograph your sheet again.")
    set_key(session, assignment_id, photograph_id, labs)
    return judge_all(session, school_id, assignment)
