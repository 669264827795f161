"""What a lesson's page is made from: its exercises, the class's habits, who was away."""

from collections.abc import Iterable, Mapping
from datetime import date, datetime

from sqlalchemy.orm import Session

from noema.actions.commonest_mistake import commonest_mistake
from noema.actions.cupboard import used_of
from noema.actions.frames import frame_of_class, workshop_of
from noema.core.errors import Refused
from noema.core.exercises.asked import Asked
from noema.core.planning.asking import Workshop
from noema.core.planning.away import due_after
from noema.core.planning.class_plan import ClassPlan
from noema.core.planning.frame import Wish
from noema.core.planning.lesson_sheet import LessonFacts, SeenMistake, WasAway
from noema.core.planning.paint_uses import learned_use
from noema.core.planning.timeline import PlannedLesson
from noema.store.classes import students_of_class
from noema.store.cupboard import lesson_paint_of_class
from noema.store.laid_out import changed_of_lesson
from noema.store.register import away_of_class


def lesson_facts(
    session: Session, school_id: int, class_id: int, plan: ClassPlan, place: int
) -> LessonFacts:
    """Collect what a lesson's page is made from; `place` is the lesson's in the plan."""
    one, planned = frame_of_class(session, school_id, class_id).classes[0], plan.lessons[place]
    wishes = {wish.id: wish for wish in one.unit}
    shop = workshop_of(session, school_id, class_id)
    begun = [name for name in planned.wishes if name in wishes]
    kinds = {wishes[name].kind for name in begun}
    return LessonFacts(
        wishes=wishes,
        asked=asked_of(shop, wishes, begun),
        people=one.people,
        use=learned_use(used_of(lesson_paint_of_class(session, class_id))),
        seen=_seen(session, school_id, kinds),
        away=_away(session, class_id, plan, place),
        changed=changed_of_lesson(session, class_id, lesson_key(planned)),
    )


def lesson_key(one: PlannedLesson) -> str:
    """Give a lesson as rows name it."""
    return one.lesson.at.replace(tzinfo=None).isoformat(timespec="minutes")


def asked_of(shop: Workshop, wishes: Mapping[str, Wish], names: Iterable[str]) -> dict[str, Asked]:
    """Work exercises out, but for those whose paints are gone from the shelf."""
    found = {}
    for name in names:
        try:
            found[name] = shop.asked(wishes[name])
        except Refused:
            continue
    return found


def _seen(session: Session, school_id: int, kinds: Iterable[str]) -> dict[str, SeenMistake]:
    found = {kind: commonest_mistake(session, school_id, kind) for kind in kinds}
    return {kind: seen for kind, seen in found.items() if seen is not None}


def _away(session: Session, class_id: int, plan: ClassPlan, place: int) -> tuple[WasAway, ...]:
    """Give who missed the lesson before, with the day what is painted now is due for them."""
    if not place:
        return ()
    before = lesson_key(plan.lessons[place - 1])
    missed, names = away_of_class(session, class_id), students_of_class(session, class_id)
    return tuple(
        WasAway(name=one.display_name, due=_due(plan, place, missed[one.id]))
        for one in names
        if before in missed.get(one.id, ())
    )


def _due(plan: ClassPlan, place: int, missed: Iterable[str]) -> date | None:
    times = {datetime.fromisoformat(lesson) for lesson in missed}
    wishes = {*plan.lessons[place].wishes, *plan.lessons[place - 1].wishes}
    days = ((due_after(plan, wish, times), plan.due(wish)) for wish in wishes)
    return max((own for own, usual in days if own is not None and own != usual), default=None)
