"""A school's plan: each class's lessons in minutes, the rack, due dates, and what can't be met."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from noema.core.planning.class_plan import (
    ClassPlan,
    RackTime,
    WorkOf,
    class_plan,
    numbered,
    unit_steps,
)
from noema.core.planning.frame import ClassFrame, SchoolFrame, lessons_of
from noema.core.planning.placing import placed
from noema.core.planning.problem import Drying, Problem
from noema.core.planning.usual import USUAL, Usual, usual_in

Told = Callable[[int, int], None]
"""Hears how many classes are planned, of how many."""


@dataclass(frozen=True, kw_only=True)
class PlanSoFar:
    """A plan that goes on: what was planned before, and from when it may change."""

    before: Mapping[str, Mapping[str, tuple[datetime, ...]]] = field(default_factory=dict)
    """By class and wish: when each step was planned, at the school's clock."""
    done: Mapping[str, Mapping[str, tuple[datetime, ...]]] = field(default_factory=dict)
    """By class and wish: when the first steps were done."""
    now: datetime | None = None  # lessons that have begun are past


FRESH = PlanSoFar()


def plan(
    frame: SchoolFrame,
    work_of_wish: WorkOf,
    *,
    usual: Usual = USUAL,
    earlier: PlanSoFar = FRESH,
    told: Told = lambda _done, _all: None,
) -> dict[str, ClassPlan]:
    """Plan every class in turn; who comes later finds on the rack what is left of it.

    Where the rack was too small for a later class, that class is planned first once.
    """
    plans = _in_turn(frame, frame.classes, work_of_wish, usual, earlier, told)
    crowded = [one for one in frame.classes if plans[one.id].unmet]
    if crowded and crowded[0] is not frame.classes[0]:
        others = [one for one in frame.classes if one not in crowded]
        again = _in_turn(frame, (*crowded, *others), work_of_wish, usual, earlier, told)
        if _unmet(again) < _unmet(plans):
            plans = again
    return {one.id: plans[one.id] for one in frame.classes}


def _unmet(plans: Mapping[str, ClassPlan]) -> int:
    return sum(len(one.unmet) for one in plans.values())


def _in_turn(
    frame: SchoolFrame,
    classes: Sequence[ClassFrame],
    work_of_wish: WorkOf,
    usual: Usual,
    earlier: PlanSoFar,
    told: Told,
) -> dict[str, ClassPlan]:
    plans: dict[str, ClassPlan] = {}
    for number, one in enumerate(classes):
        told(number, len(classes))
        rack = rack_beside(frame, one, plans)
        plans[one.id] = plan_class(
            frame, one, work_of_wish, usual=usual, earlier=earlier, rack=rack
        )
    told(len(classes), len(classes))
    return plans


def plan_class(
    frame: SchoolFrame,
    school_class: ClassFrame,
    work_of_wish: WorkOf,
    *,
    usual: Usual = USUAL,
    earlier: PlanSoFar = FRESH,
    rack: Sequence[RackTime] = (),
) -> ClassPlan:
    """Plan one class beside what other classes have on the rack of its room."""
    room = frame.room_of(school_class)
    usual = usual_in(usual, room, school_class.people)
    lessons = lessons_of(frame, school_class)
    unit = unit_steps(school_class, lessons, work_of_wish, usual)
    own = (one.get(school_class.id, {}) for one in (earlier.before, earlier.done))
    before, begun = (numbered(some, lessons) for some in own)
    done = {wish.id: begun[wish.id][: len(steps)] for wish, steps in unit if wish.id in begun}
    now = earlier.now
    problem = Problem(
        lessons=lessons,
        unit=unit,
        usual=usual,
        rack=room.rack,
        drying=tuple(Drying(begins=one.begins, ends=one.ends, sheets=one.sheets) for one in rack),
        before=before,
        done=done,
        first_free=0 if now is None else sum(lesson.at <= now for lesson in lessons),
        closed=frozenset(
            n for n, lesson in enumerate(lessons) if school_class.has_test(lesson.at.date())
        ),
    )
    return class_plan(school_class, lessons, unit, {**done, **placed(problem)}, usual)


def rack_beside(
    frame: SchoolFrame, one: ClassFrame, plans: Mapping[str, ClassPlan]
) -> list[RackTime]:
    """Give what other classes have on the rack of a class's room."""
    room = frame.room_of(one)
    return [
        time
        for other, found in plans.items()
        if other != one.id and frame.room_of(frame.class_of(other)) == room
        for time in found.rack
    ]
