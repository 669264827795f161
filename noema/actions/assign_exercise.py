"""A teacher gives a class an exercise."""

from random import Random

from sqlalchemy.orm import Session

from noema.core.errors import Refused
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.value_scale import ValueScale
from noema.core.sheet.code import draw_stem
from noema.core.sheet.paper import Paper
from noema.store.assignments import NewAssignment, add_assignment, stem_taken
from noema.store.classes import class_of_school


def assign_exercise(
    session: Session,
    *,
    school_id: int,
    class_id: int,
    teacher_id: int,
    scale: ValueScale,
    level: Level,
    key: Key,
    paper: Paper,
    due_week: int,
    rng: Random,
) -> int:
    """Assign a value scale; gives the assignment's number."""
    school_class = class_of_school(session, school_id, class_id)
    if not 1 <= due_week <= school_class.unit_weeks:
        raise Refused(
            f"The unit has weeks 1 to {school_class.unit_weeks}: choose one of them as due."
        )
    stem = draw_stem(rng)
    while stem_taken(session, stem):
        stem = draw_stem(rng)
    return add_assignment(
        session,
        NewAssignment(
            class_id=class_id,
            stem=stem,
            scale=scale,
            level=level,
            key=key,
            paper=paper,
            due_week=due_week,
            assigned_by=teacher_id,
        ),
    )
