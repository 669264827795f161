"""A lesson as a line of minutes: arrive, hand back, photograph, show, paint, clean up."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from enum import Enum
from itertools import accumulate

from noema.core.language import N_
from noema.core.planning.frame import Lesson, Wish
from noema.core.planning.problem import Placed
from noema.core.planning.steps import StepAct, UnitStep
from noema.core.planning.usual import Usual


class Doing(Enum):
    """What a part of a lesson is for; the value is its name in files."""

    SET_UP = "set-up"
    HAND_BACK = "hand-back"
    PHOTOGRAPH = "photograph"
    SHOW = "show"
    PAINT = "paint"
    CLEAN_UP = "clean-up"

    @property
    def label(self) -> str:
        """Its name for people, to be looked up in the reader's language."""
        return _LABELS[self]


_LABELS = {
    Doing.SET_UP: N_("arrive and set up"),
    Doing.HAND_BACK: N_("hand back"),
    Doing.PHOTOGRAPH: N_("photograph"),
    Doing.SHOW: N_("show"),
    Doing.PAINT: N_("paint"),
    Doing.CLEAN_UP: N_("clean up"),
}


@dataclass(frozen=True, kw_only=True)
class LessonPart:
    """Some minutes of a lesson."""

    doing: Doing
    wish: str | None  # that it is for; none: for all
    cells: tuple[str, ...]  # painted in it; none where what went back is painted again
    minutes: int
    begins_min: int  # after the lesson's beginning
    again: bool = False  # it is for what went back
    first: int | None = None  # of its wish's steps, that is painted in it; none: nothing is
    steps: int = 0  # painted in it


@dataclass(frozen=True, kw_only=True)
class PlannedLesson:
    """A lesson and what is done in it."""

    lesson: Lesson
    parts: tuple[LessonPart, ...]

    @property
    def spare_min(self) -> int:
        """Minutes left at its end."""
        last = self.parts[-1] if self.parts else None
        return self.lesson.minutes - (last.begins_min + last.minutes if last else 0)

    @property
    def wishes(self) -> tuple[str, ...]:
        """What is worked on, in order."""
        return tuple(dict.fromkeys(part.wish for part in self.parts if part.wish is not None))


_Steps = Sequence[tuple[Wish, tuple[UnitStep, ...]]]


def timelines(
    lessons: Sequence[Lesson], unit: _Steps, at: Placed, usual: Usual
) -> tuple[PlannedLesson, ...]:
    """Give every lesson its parts; a lesson without a step has none."""
    return tuple(
        PlannedLesson(lesson=lesson, parts=_in_time(_parts(n, unit, at, usual), lesson.minutes))
        for n, lesson in enumerate(lessons)
    )


def _in_time(parts: Sequence[LessonPart], minutes: int) -> tuple[LessonPart, ...]:
    """Set parts one after another.

    A lesson that is past was planned at another pace: its painting took what time there was.
    """
    whole = sum(part.minutes for part in parts)
    painted = sum(part.minutes for part in parts if part.doing is Doing.PAINT)
    share = min(1.0, max(painted - (whole - minutes), 0) / painted) if painted else 1.0
    own = [
        replace(part, minutes=max(int(part.minutes * share), 1))
        if part.doing is Doing.PAINT and share < 1.0
        else part
        for part in parts
    ]
    begins = accumulate((part.minutes for part in own), initial=0)
    return tuple(replace(part, begins_min=at) for part, at in zip(own, begins, strict=False))


def _parts(n: int, unit: _Steps, at: Placed, usual: Usual) -> Sequence[LessonPart]:
    here = [
        (wish, [step for step, m in zip(steps, at[wish.id], strict=False) if m == n])
        for wish, steps in unit
        if n in at.get(wish.id, ())
    ]
    if not here:
        return ()
    first, late, painted = list[LessonPart](), list[LessonPart](), list[LessonPart]()
    for wish, steps in here:
        is_dry = all(step.dry_min == 0 for step in steps)
        for step in steps:
            if step.act is StepAct.REDO:
                first.append(_part(Doing.HAND_BACK, usual.hand_back_min, wish, again=True))
            if step.act in (StepAct.PHOTOGRAPH, StepAct.PHOTOGRAPH_REDO):
                again = step.act is StepAct.PHOTOGRAPH_REDO
                # What needs no drying is photographed when it is painted.
                same_day = is_dry and any(one.paints for one in steps)
                shot = _part(Doing.PHOTOGRAPH, step.minutes, wish, again=again)
                (late if same_day else first).append(shot)
        painted += _painting(wish, steps, usual)
    wet = any(step.sheets for _, steps in here for step in steps)
    any_painted = any(step.paints for _, steps in here for step in steps)
    clean = usual.clean_up_min + usual.to_rack_min if wet else usual.tidy_min
    last = [_part(Doing.CLEAN_UP, clean)] if any_painted else []
    return [_part(Doing.SET_UP, usual.set_up_min), *first, *painted, *late, *last]


def _part(
    doing: Doing, minutes: int, wish: Wish | None = None, *, again: bool = False
) -> LessonPart:
    name = None if wish is None else wish.id
    return LessonPart(doing=doing, wish=name, cells=(), minutes=minutes, begins_min=0, again=again)


def _painting(wish: Wish, steps: list[UnitStep], usual: Usual) -> list[LessonPart]:
    paints = [step for step in steps if step.paints]
    if not paints:
        return []
    begins = paints[0].number == 0
    shown = usual.show_min if begins else usual.remind_min
    parts = [_part(Doing.SHOW, shown, wish, again=paints[0].act is StepAct.REDO)]
    for again in (False, True):
        some = [step for step in paints if (step.act is StepAct.REDO) is again]
        if some:
            painted = _part(Doing.PAINT, sum(step.minutes for step in some), wish, again=again)
            cells = tuple(cell for step in some for cell in step.cells)
            parts.append(replace(painted, cells=cells, first=some[0].number, steps=len(some)))
    return parts
