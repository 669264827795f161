"""A teacher says how a lesson went; what is to come is planned by the pace learned from it."""

from datetime import datetime

from sqlalchemy.orm import Session

from noema.actions.frames import frame_of_class
from noema.core.errors import NotFound, Refused
from noema.core.language import gettext
from noema.core.planning.kept import as_kept
from noema.core.planning.timeline import Doing
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.store.lessons_went import WentRow, keep_went
from noema.store.queue import queue_planning
from noema.store.units import ask_for_plan, unit_of_class

_MOST_OVER_MIN = 90


def say_how_it_went(
    session: Session,
    school_id: int,
    class_id: int,
    at: datetime,
    *,
    over_min: int,
    unfinished: int,
) -> None:
    """Keep how a lesson went: minutes over (less than 0: under), and sheets that weren't done."""
    school = frame_of_class(session, school_id, class_id)
    people, kept = school.classes[0].people, unit_of_class(session, class_id)
    if not 0 <= unfinished <= max(people, 1) or abs(over_min) > _MOST_OVER_MIN:
        raise Refused(
            gettext(
                "Say at most %(minutes)s minutes, and at most as many sheets as there are "
                "students.",
                minutes=_MOST_OVER_MIN,
            )
        )
    plan = None if kept is None or kept.plan is None else kept_plan_from_json(kept.plan)
    lessons = () if plan is None else as_kept(school, plan).lessons
    planned = next((one for one in lessons if one.lesson.at.replace(tzinfo=None) == at), None)
    if planned is None or plan is None:
        raise NotFound(gettext("This class has no such lesson: choose one from its unit."))
    wishes = {wish.id: wish for wish in school.classes[0].unit}
    painted = [p for p in planned.parts if p.doing is Doing.PAINT and p.wish is not None]
    whole = sum(part.minutes for part in painted)
    rows = [
        WentRow(
            lesson=at.isoformat(timespec="minutes"),
            wish=wish.id,
            kind=wish.kind,
            medium=wish.medium.value,
            planned_min=float(part.minutes),
            factor=plan.works[wish.id].pace,
            over_min=over_min * part.minutes / whole,
            unfinished=unfinished / max(people, 1),
        )
        for part in painted
        for wish in [wishes[str(part.wish)]]
    ]
    keep_went(session, class_id, rows)
    ask_for_plan(session, class_id)
    queue_planning(session, class_id)
