"""Finding a lesson of a class by its address."""

from noema.actions.change_unit import frame_of_class
from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.core.planning.kept import as_kept
from noema.core.planning.timeline import PlannedLesson
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.store.classes import ClassRow, class_of_school
from noema.store.units import unit_of_class
from noema.web.frame.clock import lesson_address
from noema.web.frame.request import db, me


def find_lesson(class_id: int, at: str) -> tuple[ClassRow, tuple[PlannedLesson, ...], int]:
    """Give a class, its lessons, and which of them is meant; refuses one that isn't there."""
    row = class_of_school(db(), me().school_id, class_id)
    kept = unit_of_class(db(), class_id)
    if kept is not None and kept.plan is not None:
        school = frame_of_class(db(), me().school_id, class_id)
        lessons = as_kept(school, kept_plan_from_json(kept.plan)).lessons
        names = [lesson_address(one.lesson.at) for one in lessons]
        if at in names:
            return row, lessons, names.index(at)
    raise NotFound(gettext("This class has no such lesson: choose one from its unit."))


def lesson_key(one: PlannedLesson) -> str:
    """Give a lesson as rows name it."""
    return one.lesson.at.replace(tzinfo=None).isoformat(timespec="minutes")
