"""Finding a lesson of a class by its address."""

from noema.actions.frames import frame_of_class
from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.core.planning.class_plan import ClassPlan
from noema.core.planning.kept import as_kept
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.store.classes import ClassRow, class_of_school
from noema.store.units import unit_of_class
from noema.web.frame.clock import lesson_address
from noema.web.frame.request import db, me


def find_lesson(class_id: int, at: str) -> tuple[ClassRow, ClassPlan, int]:
    """Give a class, its plan, and which of its lessons is meant; refuses one that isn't there."""
    row = class_of_school(db(), me().school_id, class_id)
    kept = unit_of_class(db(), class_id)
    if kept is not None and kept.plan is not None:
        school = frame_of_class(db(), me().school_id, class_id)
        plan = as_kept(school, kept_plan_from_json(kept.plan))
        names = [lesson_address(one.lesson.at) for one in plan.lessons]
        if at in names:
            return row, plan, names.index(at)
    raise NotFound(gettext("This class has no such lesson: choose one from its unit."))
