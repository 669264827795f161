"""How a student is getting on, as they may see it themselves."""

from dataclasses import dataclass

from noema.store.student_work import attempts_of_student, classes_of_student, given_to_student
from noema.web.drawings.curve import Curve
from noema.web.frame.request import db, the_student
from noema.web.painting.attempts import may_see
from noema.web.progress.shown_courses import KindLine, shown_courses

_USUAL_WEEKS = 12


@dataclass(frozen=True, kw_only=True)
class OwnProgressPage:
    """A student's skills."""

    frame: None = None
    name: str
    curves: tuple[Curve, ...]
    levels: tuple[str, ...]  # where the other skills stand
    kinds: tuple[KindLine, ...]
    redone: str
    eye: str
    next: str


def progress_page() -> OwnProgressPage:
    """Collect what the student may see of their own skills."""
    me = the_student()
    classes = {one.id: one for one in classes_of_student(db(), me.id)}
    given = {one.id: one for one in given_to_student(db(), me.id)}
    seen = [
        one
        for one in attempts_of_student(db(), me.id)
        if one.class_id in classes
        and may_see([one], sees_at_once=classes[one.class_id].sees_at_once)
    ]
    weeks = max((one.unit.weeks for one in classes.values()), default=_USUAL_WEEKS)
    shown = shown_courses(me.school_id, seen, given, weeks)
    return OwnProgressPage(
        name=me.display_name,
        curves=shown.curves,
        levels=shown.levels,
        kinds=shown.kinds,
        redone=shown.redone,
        eye=shown.eye,
        next=shown.next,
    )
