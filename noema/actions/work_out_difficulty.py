"""What an exercise asks of a hand is worked out once, before its first sheet is judged."""

from functools import lru_cache

from numpy.random import default_rng
from sqlalchemy.orm import Session

from noema.actions.work_out_exercise import exercise_of
from noema.core.colour.names import HueTable
from noema.core.exercises.skills import Skill
from noema.core.judging.difficulty import Held, difficulty_of
from noema.formats.judgement_json import difficulty_to_json
from noema.store.assignments import AssignmentRow
from noema.store.revisions import difficulties_of, set_difficulty

_REMEMBERED = 64  # exercises: a year's classes paint the same ones


def work_out_difficulty(session: Session, assignment: AssignmentRow, table: HueTable) -> None:
    """Keep what an assignment asks as it is now held; nothing happens where that is known."""
    if difficulties_of(session, [assignment.id]):
        return
    whole = exercise_of(session, assignment)
    held = Held(expected=whole.expected, key=whole.key, paints=whole.paints, table=table)
    set_difficulty(session, assignment.revision_id, difficulty_to_json(_asked_of_hands(held)))


@lru_cache(maxsize=_REMEMBERED)
def _asked_of_hands(held: Held) -> dict[Skill, dict[str, list[float]]]:
    # The same seed, so that an assignment weighs the same wherever it is weighed.
    return difficulty_of(held, default_rng(0))
