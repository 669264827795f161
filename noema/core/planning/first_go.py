"""A first go at a plan: wish after wish, each step into the earliest lesson that has room for it.

The solver begins from it and looks around it; it keeps the same laws.
"""

from collections import defaultdict
from collections.abc import Iterator
from datetime import datetime, timedelta

from noema.core.planning.frame import Wish
from noema.core.planning.problem import Problem, first_after
from noema.core.planning.steps import StepAct, UnitStep
from noema.core.planning.taken import taken_min

_Painting = tuple[str, datetime, datetime, int]  # wish, sheets wet from and until, how many


class _Room:
    """What is in the lessons so far."""

    def __init__(self, problem: Problem) -> None:
        self.problem = problem
        self.inside: dict[int, list[UnitStep]] = defaultdict(list)
        self.wet: list[_Painting] = []

    def put(self, step: UnitStep, n: int) -> None:
        self.inside[n].append(step)
        if step.sheets:
            self.wet.append(self._painting(step, n))

    def take_back(self, wish: str) -> None:
        for steps in self.inside.values():
            steps[:] = [step for step in steps if step.wish != wish]
        self.wet = [one for one in self.wet if one[0] != wish]

    def has_room(self, step: UnitStep, n: int) -> bool:
        lesson, usual = self.problem.lessons[n], self.problem.usual
        steps = [*self.inside[n], step]
        painting = {one.wish for one in steps if one.paints}
        fits = taken_min(usual, steps) <= lesson.minutes and len(painting) <= usual.most_at_once
        return fits and (not step.sheets or self._rack_holds(self._painting(step, n)))

    def _painting(self, step: UnitStep, n: int) -> _Painting:
        ends = self.problem.lessons[n].ends
        return (step.wish, ends, ends + timedelta(minutes=step.dry_min), step.sheets)

    def _rack_holds(self, new: _Painting) -> bool:
        _, begins, ends, _ = new
        moments = {begins} | {one[1] for one in self.wet if begins <= one[1] < ends}
        moments |= {one.begins for one in self.problem.drying if begins <= one.begins < ends}
        return all(self._lie(new, moment) <= self.problem.rack for moment in moments)

    def _lie(self, new: _Painting, moment: datetime) -> int:
        own: dict[str, int] = defaultdict(int)
        for wish, begins, ends, sheets in (*self.wet, new):
            if begins <= moment < ends:
                own[wish] = max(own[wish], sheets)
        others = (one.sheets for one in self.problem.drying if one.begins <= moment < one.ends)
        return sum(own.values()) + sum(others)


def first_go(problem: Problem) -> dict[str, tuple[int, ...]]:
    """Give the lesson of each step, by wish; wishes that find no place aren't in it."""
    room, at = _Room(problem), dict[str, tuple[int, ...]]()
    for wish, steps in problem.unit:
        for step, n in zip(steps, problem.done.get(wish.id, ()), strict=False):
            room.put(step, n)
    for wish, steps in problem.unit:
        if all(earlier in at for earlier in wish.after):
            places = _places(problem, room, wish, steps, at)
            if places is not None:
                at[wish.id] = places
    return at


def _places(
    problem: Problem,
    room: _Room,
    wish: Wish,
    steps: tuple[UnitStep, ...],
    at: dict[str, tuple[int, ...]],
) -> tuple[int, ...] | None:
    places = list(problem.done.get(wish.id, ()))
    for step in steps[len(places) :]:
        n = next(
            (n for n in _open(problem, wish, steps, step, places, at) if room.has_room(step, n)),
            None,
        )
        if n is None:
            room.take_back(wish.id)
            return None
        room.put(step, n)
        places.append(n)
    return tuple(places)


def _open(
    problem: Problem,
    wish: Wish,
    steps: tuple[UnitStep, ...],
    step: UnitStep,
    places: list[int],
    at: dict[str, tuple[int, ...]],
) -> Iterator[int]:
    """Give the lessons a step may be in, the earliest first."""
    count, begin = len(problem.lessons), problem.first_free
    if step.number:
        ready = first_after(problem, places[-1], steps[step.number - 1], step)
        begin = count if ready is None else max(begin, ready)
    else:
        painted = (_painted(problem, earlier, at) for earlier in wish.after)
        begin = max(begin, *painted, 0)
    pinned = wish.day_of(step.number)
    for n in range(begin, count):
        if n not in problem.closed and pinned in (None, problem.lessons[n].at.date()):
            yield n


def _painted(problem: Problem, wish: str, at: dict[str, tuple[int, ...]]) -> int:
    """Give the lesson in which a wish's last row is painted for the first time."""
    steps = next(steps for one, steps in problem.unit if one.id == wish)
    return max(at[wish][step.number] for step in steps if step.act is StepAct.PAINT)
