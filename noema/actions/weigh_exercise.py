"""What an exercise asks of a hand is worked out once, before its first sheet is judged."""

from functools import lru_cache

from numpy.random import default_rng
from sqlalchemy.orm import Session

from noema.actions.work_out_exercise import exercise_of
from noema.core.colour.names import HueTable
from noema.core.exercises.skills import Skill
from noema.core.judging.demand import Held, demand_of
from noema.formats.judgement_json import demand_to_json
from noema.store.assignments import AssignmentRow
from noema.store.revisions import demands_of, set_demand

_REMEMBERED = 64  # exercises: a year's classes paint the same ones


def weigh_exercise(session: Session, assignment: AssignmentRow, table: HueTable) -> None:
    """Keep what an assignment asks as it is now held; nothing happens where that is known."""
    if demands_of(session, [assignment.id]):
        return
    whole = exercise_of(session, assignment)
    held = Held(expected=whole.expected, key=whole.key, paints=whole.paints, table=table)
    set_demand(session, assignment.revision_id, demand_to_json(_asked_of_hands(held)))


@lru_cache(maxsize=_REMEMBERED)
def _asked_of_hands(held: Held) -> dict[Skill, dict[str, list[float]]]:
    # The same seed, so that an assignment weighs the same wherever it is weighed.
    return demand_of(held, default_rng(0))
