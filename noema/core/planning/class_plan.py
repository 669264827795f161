"""A class's unit in its lessons, from where each step is; nothing is looked for here."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta

from noema.core.planning.frame import ClassFrame, Lesson, SchoolFrame, Wish, lessons_of
from noema.core.planning.pieces import WishWork
from noema.core.planning.problem import Placed
from noema.core.planning.steps import StepAct, UnitStep, steps_of
from noema.core.planning.timeline import PlannedLesson, timelines
from noema.core.planning.usual import USUAL, Usual, usual_in

WorkOf = Callable[[ClassFrame, Wish, float], WishWork]
"""Works an exercise out for a class, its pieces no longer than some minutes where it may be cut."""


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
    rack: tuple[RackTime, ...]

    @property
    def unmet(self) -> tuple[str, ...]:
        """Give the wishes that found no place, or none for what is left of them."""
        return tuple(w for w, steps in self.steps.items() if len(self.at.get(w, ())) < len(steps))

    @property
    def met(self) -> frozenset[str]:
        """Give the wishes that have a place."""
        return frozenset(self.steps) - frozenset(self.unmet)

    def begins(self, wish: str) -> date | None:
        """Give the day an exercise begins on, if it does."""
        return self._day(wish, 0)

    def due(self, wish: str) -> date | None:
        """Give the day its sheets are photographed, if they are."""
        acts = [step.act for step in self.steps.get(wish, ())]
        return self._day(wish, acts.index(StepAct.PHOTOGRAPH)) if acts else None

    def _day(self, wish: str, number: int) -> date | None:
        at = self.at.get(wish, ())
        return self.lessons[at[number]].lesson.at.date() if number < len(at) else None


def unit_steps(
    school_class: ClassFrame, lessons: Sequence[Lesson], work_of_wish: WorkOf, usual: Usual
) -> tuple[tuple[Wish, tuple[UnitStep, ...]], ...]:
    """Give the steps of every wish of a class."""
    people, most_min = school_class.people, _most_painting_min(lessons, usual)
    return tuple(
        (wish, steps_of(wish, work_of_wish(school_class, wish, most_min), people, usual))
        for wish in school_class.unit
    )


def planned_before(
    frame: SchoolFrame,
    school_class: ClassFrame,
    work_of_wish: WorkOf,
    times: Mapping[str, Sequence[datetime]],
    usual: Usual = USUAL,
) -> ClassPlan:
    """Give the plan of a class from when each step is, at the school's clock.

    A wish a lesson of which is no more is unmet; its steps before that lesson are known.
    """
    lessons = lessons_of(frame, school_class)
    usual = usual_in(usual, frame.room_of(school_class), school_class.people)
    unit = unit_steps(school_class, lessons, work_of_wish, usual)
    some_times = {wish.id: times.get(wish.id, ())[: len(steps)] for wish, steps in unit}
    known = numbered(some_times, lessons)
    at = {wish: some[: some.index(-1)] if -1 in some else some for wish, some in known.items()}
    return class_plan(school_class, lessons, unit, at, usual)


def class_plan(
    school_class: ClassFrame,
    lessons: Sequence[Lesson],
    unit: tuple[tuple[Wish, tuple[UnitStep, ...]], ...],
    at: Placed,
    usual: Usual,
) -> ClassPlan:
    return ClassPlan(
        class_id=school_class.id,
        lessons=timelines(lessons, unit, at, usual),
        at=at,
        steps={wish.id: steps for wish, steps in unit},
        rack=_on_rack(school_class.id, lessons, unit, at),
    )


def longest_painting_min(frame: SchoolFrame, usual: Usual) -> float:
    """Give how many usual minutes of painting a class's longest lesson has."""
    one = frame.classes[0]
    own = usual_in(usual, frame.room_of(one), one.people)
    return _most_painting_min(lessons_of(frame, one), own)


def _most_painting_min(lessons: Sequence[Lesson], usual: Usual) -> float:
    longest = max((lesson.minutes for lesson in lessons), default=0)
    around = usual.set_up_min + usual.show_min + usual.clean_up_min + usual.to_rack_min
    return max(longest - around, 1) / (usual.margin * usual.sharing)


def numbered(
    times: Mapping[str, Sequence[datetime]], lessons: Sequence[Lesson]
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
        known = zip(at.get(wish.id, ()), steps, strict=False)
        wet = {n: step for n, step in known if step.paints and step.sheets}
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
