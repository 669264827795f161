"""What is painted in a lesson to come is moved to another, pinned there, or split in two."""

from dataclasses import dataclass, replace
from datetime import datetime

from sqlalchemy.orm import Session

from noema.actions.change_unit import change_unit
from noema.actions.frames import frame_of_class, workshop_of
from noema.core.errors import NotFound, Refused
from noema.core.language import gettext
from noema.core.planning.changes import split, step_pinned
from noema.core.planning.class_plan import ClassPlan
from noema.core.planning.frame import ClassFrame, Wish
from noema.core.planning.kept import as_kept
from noema.core.planning.timeline import LessonPart, PlannedLesson
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.store.units import unit_of_class

_LONG = 10_000.0  # minutes: an exercise is cut only where it is asked to be


@dataclass(frozen=True, kw_only=True)
class WhichPiece:
    """What is painted of a class's wish from one of its steps on."""

    school_id: int
    class_id: int
    wish: str
    number: int  # of its first step


def move_piece(
    session: Session, which: WhichPiece, now: datetime, to: datetime | None = None, by: int = 0
) -> None:
    """Pin it to another lesson: one at the school's clock, or so many lessons on."""
    plan, place, _ = _found(session, which, now)
    lessons = plan.lessons
    times = [one.lesson.at.replace(tzinfo=None) for one in lessons]
    other = place + by if to is None else times.index(to) if to in times else -1
    earlier = plan.at[which.wish][which.number - 1] if which.number else 0
    if not earlier <= other < len(lessons) or lessons[other].lesson.at <= now:
        raise Refused(
            gettext("It can’t go there: choose a lesson to come, after what is painted before it.")
        )
    day = lessons[other].lesson.at.date()
    change = step_pinned(which.wish, which.number, day)
    change_unit(session, which.school_id, which.class_id, change)


def pin_piece(session: Session, which: WhichPiece, now: datetime) -> None:
    """Pin it to the lesson it is in, or unpin it."""
    plan, place, wish = _found(session, which, now)
    is_pinned = wish.day_of(which.number) is not None
    day = None if is_pinned else plan.lessons[place].lesson.at.date()
    change = step_pinned(which.wish, which.number, day)
    change_unit(session, which.school_id, which.class_id, change)


def split_piece(session: Session, which: WhichPiece, now: datetime) -> None:
    """Paint the second half of it a lesson later; refuses a row that is painted in one go."""
    plan, place, wish = _found(session, which, now)
    part = _part_of(plan.lessons[place], which)
    if place + 1 >= len(plan.lessons):
        raise Refused(gettext("There is no lesson after this one for the second half."))
    cut, goes = (part.steps + 1) // 2, wish.goes
    if part.steps < 2:
        if which.number or plan.at[which.wish][0] != place:
            raise Refused(_one_go())
        shop, one = workshop_of(session, which.school_id, which.class_id), _alone(wish)
        steps = len(shop.work(one, wish, _LONG).pieces)
        goes = max(wish.goes, steps) + 1
        if len(shop.work(one, replace(wish, goes=goes), _LONG).pieces) <= steps:
            raise Refused(_one_go())
        cut = 1
    later = plan.lessons[place + 1].lesson.at.date()

    def change(one: ClassFrame) -> ClassFrame:
        again = one if goes == wish.goes else split(which.wish, goes)(one)
        return step_pinned(which.wish, which.number + cut, later)(again)

    change_unit(session, which.school_id, which.class_id, change)


def _alone(wish: Wish) -> ClassFrame:
    return ClassFrame(id="", people=1, lessons=(), unit=(wish,))


def _one_go() -> str:
    return gettext("A row is painted in one go, while its piles are wet: it can’t be split.")


def _found(session: Session, which: WhichPiece, now: datetime) -> tuple[ClassPlan, int, Wish]:
    """Give the class's plan, the lesson of the piece, and its wish."""
    frame = frame_of_class(session, which.school_id, which.class_id)
    kept = unit_of_class(session, which.class_id)
    plan = None
    if kept is not None and kept.plan is not None:
        plan = as_kept(frame, kept_plan_from_json(kept.plan))
    wish = next((one for one in frame.classes[0].unit if one.id == which.wish), None)
    at = () if plan is None else plan.at.get(which.wish, ())
    if plan is None or wish is None or not 0 <= which.number < len(at):
        raise NotFound(gettext("This is planned otherwise now: look at the unit again."))
    place = at[which.number]
    if plan.lessons[place].lesson.at <= now:
        raise Refused(gettext("That lesson is past: only what is to come can be moved."))
    return plan, place, wish


def _part_of(planned: PlannedLesson, which: WhichPiece) -> LessonPart:
    for part in planned.parts:
        steps = () if part.first is None else range(part.first, part.first + part.steps)
        if part.wish == which.wish and which.number in steps:
            return part
    raise NotFound(gettext("This is planned otherwise now: look at the unit again."))
