"""A school's plan: each class's lessons in minutes, the rack, due dates, and what can't be met."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date, datetime, timedelta

from noema.core.planning.frame import ClassFrame, Lesson, SchoolFrame, Wish, lessons_of
from noema.core.planning.pieces import WishWork
from noema.core.planning.placing import placed
from noema.core.planning.problem import Drying, Placed, Problem
from noema.core.planning.steps import StepAct, UnitStep, steps_of
from noema.core.planning.timeline import PlannedLesson, timelines
from noema.core.planning.usual import USUAL, Usual

WorkOf = Callable[[ClassFrame, Wish, float], WishWork]
"""Works an exercise out for a class, its pieces no longer than some minutes where it may be cut."""

Told = Callable[[int, int], None]
"""Hears how many classes are planned, of how many."""


@dataclass(frozen=True, kw_only=True)
class RackTime:
    """Sheets of one exercise on the rack, from one moment to another."""

    begins: datetime
    ends: datetime
    wish: str
    class_id: str
    sheets: int


@dataclass(frozen=True, kw_only=True)
class ClassPlan:
    """A class's unit in its lessons."""

    class_id: str
    lessons: tuple[PlannedLesson, ...]
    at: Placed  # the lesson of each step
    steps: Mapping[str, tuple[UnitStep, ...]]  # by wish
    unmet: tuple[str, ...]  # wishes that found no place
    rack: tuple[RackTime, ...]

    def begins(self, wish: str) -> date:
        """Give the day an exercise begins on."""
        return self.lessons[self.at[wish][0]].lesson.at.date()

    def due(self, wish: str) -> date:
        """Give the day its sheets are photographed."""
        photographed = next(one for one in self.steps[wish] if one.act is StepAct.PHOTOGRAPH)
        return self.lessons[self.at[wish][photographed.number]].lesson.at.date()


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
        rack = [time for other in plans.values() for time in other.rack]
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
    """Plan one class beside what other classes have on the rack."""
    lessons = lessons_of(frame, school_class)
    unit = tuple(
        (wish, steps_of(wish, _work(school_class, wish, lessons, work_of_wish, usual), n, usual))
        for wish in school_class.unit
        for n in (school_class.people,)
    )
    own = (one.get(school_class.id, {}) for one in (earlier.before, earlier.done))
    before, done = (_numbered(some, lessons) for some in own)
    now = earlier.now
    problem = Problem(
        lessons=lessons,
        unit=unit,
        usual=usual,
        rack=frame.rack,
        drying=tuple(Drying(begins=one.begins, ends=one.ends, sheets=one.sheets) for one in rack),
        before=before,
        done=done,
        first_free=0 if now is None else sum(lesson.at <= now for lesson in lessons),
    )
    at = placed(problem)
    return ClassPlan(
        class_id=school_class.id,
        lessons=timelines(lessons, unit, at, usual),
        at=at,
        steps={wish.id: steps for wish, steps in unit},
        unmet=tuple(wish.id for wish, _ in unit if wish.id not in at),
        rack=_on_rack(school_class.id, lessons, unit, at),
    )


def _work(
    school_class: ClassFrame,
    wish: Wish,
    lessons: Sequence[Lesson],
    work_of_wish: WorkOf,
    usual: Usual,
) -> WishWork:
    longest = max((lesson.minutes for lesson in lessons), default=0)
    around = usual.set_up_min + usual.show_min + usual.clean_up_min + usual.to_rack_min
    work = work_of_wish(school_class, wish, max(longest - around, 1) / usual.margin)
    return replace(work, pieces=work.pieces)


def _numbered(
    times: Mapping[str, tuple[datetime, ...]], lessons: Sequence[Lesson]
) -> dict[str, tuple[int, ...]]:
    """Turn times at the school's clock into lessons; -1 where that lesson isn't held any more."""
    number = {lesson.at.replace(tzinfo=None): n for n, lesson in enumerate(lessons)}
    return {wish: tuple(number.get(at, -1) for at in some) for wish, some in times.items()}


def _on_rack(
    class_id: str,
    lessons: Sequence[Lesson],
    unit: Sequence[tuple[Wish, tuple[UnitStep, ...]]],
    at: Placed,
) -> tuple[RackTime, ...]:
    found = []
    for wish, steps in unit:
        wet = {at[wish.id][s.number]: s for s in steps if wish.id in at and s.paints and s.sheets}
        for n, step in wet.items():
            ends = lessons[n].ends
            found.append(
                RackTime(
                    begins=ends,
                    ends=ends + timedelta(minutes=step.dry_min),
                    wish=wish.id,
                    class_id=class_id,
                    sheets=step.sheets,
                )
            )
    return tuple(sorted(found, key=lambda one: (one.begins, one.wish)))
