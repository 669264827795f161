"""Units drawn as lessons in columns of minutes."""

from collections.abc import Collection
from dataclasses import replace
from datetime import UTC, datetime

from noema.actions.frames import frames_of_school
from noema.core.planning.class_plan import ClassPlan
from noema.core.planning.frame import ClassFrame
from noema.core.planning.kept import KeptPlan, as_kept
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.web.drawings.minutes import MinuteSheet, make_minutes
from noema.web.frame.request import db, me

_JUST_PAST, _SHOWN = 3, 14  # lessons


def drawn_units(class_ids: Collection[int]) -> dict[int, MinuteSheet]:
    """Draw the lessons of some classes around today, of those that are planned."""
    now, found = datetime.now(UTC), dict[int, MinuteSheet]()
    for row, kept, frame in frames_of_school(db(), me().school_id, class_ids):
        if kept.plan is not None:
            plan = kept_plan_from_json(kept.plan)
            whole = as_kept(frame, plan)
            coming = sum(one.lesson.ends <= now for one in whole.lessons)
            first = max(min(coming - _JUST_PAST, len(whole.lessons) - _SHOWN), 0)
            around = replace(whole, lessons=whole.lessons[first : first + _SHOWN])
            found[row.id] = drawn_unit(frame.classes[0], around, plan, now)
    return found


def drawn_unit(one: ClassFrame, found: ClassPlan, plan: KeptPlan, now: datetime) -> MinuteSheet:
    """Draw a class's lessons."""
    fills = {wish: work.fills for wish, work in plan.works.items()}
    titles = {wish: work.title for wish, work in plan.works.items()}
    return make_minutes(found.lessons, fills, titles, now, one)
