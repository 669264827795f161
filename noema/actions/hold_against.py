"""A teacher holds an assignment against another key, or at another level; all work is rejudged."""

from sqlalchemy.orm import Session

from noema.actions.judge_sheets import judge_all
from noema.actions.work_out_exercise import exercise_of
from noema.core.errors import Refused
from noema.core.exercises.catalogue import usual_tolerance
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.tolerance import Tolerance
from noema.formats.asked_json import tolerance_to_json
from noema.store.assignments import assignment_of_school, lock_assignment, set_asked_of


def hold_against(
    session: Session,
    school_id: int,
    assignment_id: int,
    key: Key,
    level: Level,
    own_tolerance: Tolerance | None = None,
) -> int:
    """Change key, level and rooms; gives how many sheets were judged anew.

    Earlier judgements are kept, and what a teacher decided stands.
    """
    assignment = assignment_of_school(session, school_id, assignment_id)
    lock_assignment(session, assignment_id)
    exercise = exercise_of(session, assignment)
    if key is Key.OWN_ENDS and not any(cell.is_end for cell in exercise.asked.cells):
        raise Refused("This exercise has no ends of its own: choose another key.")
    if key is Key.PAINTS and exercise.paints is None:
        raise Refused("This exercise is of no set of paints: choose another key.")
    rooms = own_tolerance or usual_tolerance(assignment.kind, level)
    set_asked_of(session, assignment_id, key, level, tolerance_to_json(rooms))
    return judge_all(session, school_id, assignment_of_school(session, school_id, assignment_id))
