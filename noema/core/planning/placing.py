"""Puts the steps of a class's unit into its lessons, by a constraint solver (OR-Tools CP-SAT).

Laws: no lesson over its minutes, steps in order, nothing photographed before it is dry, what went
back painted again only after a review, the rack never over-full, pins kept. A wish that can't be
met is left out whole; the solver leaves out as little as possible, the last wishes first.
"""

from collections import defaultdict
from collections.abc import Sequence
from datetime import datetime, timedelta

from ortools.sat.python import cp_model

from noema.core.planning.first_go import first_go
from noema.core.planning.frame import Wish
from noema.core.planning.problem import Placed, Problem, first_after
from noema.core.planning.steps import StepAct, UnitStep

_LEFT_OUT, _LATER, _SPREAD, _MOVED = 200_000, 8, 5, 40
"""What a plan is weighed by: a wish left out, a lesson later, a lesson more, a step moved."""

_EFFORT = 1.0  # of the solver's own deterministic measure
_NEAR_ENOUGH = 0.01  # of what the plan is weighed by
_AROUND = 3  # lessons before and after where the first go, or an earlier plan, has a step


class _Model:
    def __init__(self, problem: Problem) -> None:
        self.problem = problem
        self.go = first_go(problem)
        self.model = cp_model.CpModel()
        self.present = {wish.id: self.model.new_bool_var(wish.id) for wish, _ in problem.unit}
        for name, present in self.present.items():
            self.model.add_hint(present, name in self.go)
        self.at: dict[tuple[str, int], dict[int, cp_model.IntVar]] = {}
        self.paints: dict[str, dict[int, cp_model.IntVar]] = {}
        self.cost: list[cp_model.LinearExprT] = []
        for wish, steps in problem.unit:
            self._place(wish, steps)
        self._order()
        self._fill_lessons()
        self._fill_rack()
        self._weigh()

    @property
    def count(self) -> int:
        return len(self.problem.lessons)

    def lesson(self, wish: str, number: int) -> cp_model.LinearExprT:
        """Give the lesson a step is in; 0 for a wish left out."""
        places = self.at[wish, number]
        return cp_model.LinearExpr.weighted_sum(list(places.values()), list(places))

    def _place(self, wish: Wish, steps: tuple[UnitStep, ...]) -> None:
        for step in steps:
            self.at[wish.id, step.number] = self._places(wish, step)
            self.model.add(
                _sum(list(self.at[wish.id, step.number].values())) == self.present[wish.id]
            )
        painted: dict[int, list[cp_model.IntVar]] = defaultdict(list)
        for step in steps:
            for n, var in self.at[wish.id, step.number].items() if step.paints else ():
                painted[n].append(var)
        self.paints[wish.id] = {}
        for n, some in painted.items():
            self.paints[wish.id][n] = self.model.new_bool_var("")
            self.model.add_max_equality(self.paints[wish.id][n], some)
        for step in steps:
            self._pin(wish, step)
        for earlier, later in zip(steps, steps[1:], strict=False):
            self._follow(wish, earlier, later)

    def _places(self, wish: Wish, step: UnitStep) -> dict[int, cp_model.IntVar]:
        """Make a variable for each lesson a step may be in."""
        done, places = self.problem.done.get(wish.id, ()), {}
        for n in self._around(wish.id, step.number):
            is_done = step.number < len(done)
            is_open = n >= self.problem.first_free and n not in self.problem.closed
            if n != done[step.number] if is_done else not is_open:
                continue
            places[n] = self.model.new_bool_var("")
            if wish.id in self.go:
                self.model.add_hint(places[n], self.go[wish.id][step.number] == n)
        return places

    def _around(self, wish: str, number: int) -> range:
        """Say which lessons a step may be in; anywhere, where the first go left its wish out."""
        known = [
            some[wish][number]
            for some in (self.go, self.problem.before, self.problem.done)
            if number < len(some.get(wish, ())) and some[wish][number] >= 0
        ]
        if wish not in self.go:
            return range(self.count)
        return range(max(min(known) - _AROUND, 0), min(max(known) + _AROUND + 1, self.count))

    def _pin(self, wish: Wish, step: UnitStep) -> None:
        day, is_done = wish.day_of(step.number), len(self.problem.done.get(wish.id, ()))
        if day is None or step.number < is_done:
            return
        for n, var in self.at[wish.id, step.number].items():
            if self.problem.lessons[n].at.date() != day:
                self.model.add(var == 0)

    def _follow(self, wish: Wish, earlier: UnitStep, later: UnitStep) -> None:
        """Let a step come as soon after another as drying and reviewing allow, no sooner."""
        before, after = self.at[wish.id, earlier.number], self.at[wish.id, later.number]
        for n in before:
            first = first_after(self.problem, n, earlier, later)
            # The earlier in this lesson or later, and the later before it is ready: never both.
            self.model.add_at_most_one(
                *(var for m, var in before.items() if m >= n),
                *(var for m, var in after.items() if first is None or m < first),
            )

    def _order(self) -> None:
        """Let what comes before be painted before; within a lesson it is shown first."""
        last = {
            wish.id: max(step.number for step in steps if step.act is StepAct.PAINT)
            for wish, steps in self.problem.unit
        }
        for wish, _ in self.problem.unit:
            for earlier in wish.after:
                self.model.add_implication(self.present[wish.id], self.present[earlier])
                self.model.add(
                    self.lesson(earlier, last[earlier]) <= self.lesson(wish.id, 0)
                ).only_enforce_if(self.present[wish.id])

    def _fill_lessons(self) -> None:
        for n in range(self.problem.first_free, self.count):  # what is past went as it went
            self._fill(n)

    def _fill(self, n: int) -> None:
        usual, taken = self.problem.usual, list[cp_model.LinearExprT]()
        wet, dry = list[cp_model.IntVar](), list[cp_model.IntVar]()
        for wish, steps in self.problem.unit:
            for step in steps:
                var = self.at[wish.id, step.number].get(n)
                if var is not None:
                    back = usual.hand_back_min if step.act is StepAct.REDO else 0
                    begins = usual.show_min - usual.remind_min if step.number == 0 else 0
                    taken.append((step.minutes + back + begins) * var)
            paints = self.paints[wish.id].get(n)
            if paints is not None:
                taken.append(usual.remind_min * paints)
                (wet if steps[0].sheets else dry).append(paints)
        clean = self.model.new_int_var(0, usual.clean_up_min + usual.to_rack_min, "")
        for var in wet:
            self.model.add(clean >= (usual.clean_up_min + usual.to_rack_min) * var)
        for var in dry:
            self.model.add(clean >= usual.tidy_min * var)
        room = self.problem.lessons[n].minutes - usual.set_up_min
        self.model.add(_sum((*taken, clean)) <= room)
        self.model.add(_sum((*wet, *dry)) <= usual.most_at_once)

    def _fill_rack(self) -> None:
        """Whenever sheets come onto the rack, all that is still wet has a place."""
        own = {lesson.ends for lesson in self.problem.lessons[self.problem.first_free :]}
        for moment in sorted(own | {one.begins for one in self.problem.drying}):
            others = sum(
                one.sheets for one in self.problem.drying if one.begins <= moment < one.ends
            )
            wet = [
                max(step.sheets for step in steps) * lies
                for wish, steps in self.problem.unit
                if (lies := self._lies(wish, steps, moment)) is not None
            ]
            if wet:
                self.model.add(_sum(wet) <= max(self.problem.rack - others, 0))

    def _lies(
        self, wish: Wish, steps: tuple[UnitStep, ...], moment: datetime
    ) -> cp_model.IntVar | None:
        """Say whether a wish's sheets lie on the rack, however many rows were painted."""
        dries = timedelta(minutes=max(step.dry_min for step in steps))
        lessons = self.problem.lessons
        still = [
            var
            for n, var in self.paints[wish.id].items()
            if lessons[n].ends <= moment < lessons[n].ends + dries
        ]
        if not still:
            return None
        lies = self.model.new_bool_var("")
        self.model.add_max_equality(lies, still)
        return lies

    def _weigh(self) -> None:
        unit, before = self.problem.unit, self.problem.before
        for place, (wish, steps) in enumerate(unit):
            self.cost.append((_LEFT_OUT + len(unit) - place) * (1 - self.present[wish.id]))
            self.cost.append(_LATER * self.lesson(wish.id, steps[-1].number))
            self.cost.append(_LATER * self.lesson(wish.id, 0))
            self.cost += [_SPREAD * var for var in self.paints[wish.id].values()]
            for step, was in zip(steps, before.get(wish.id, ()), strict=False):
                stays = self.at[wish.id, step.number].get(was)
                if stays is not None:
                    self.cost.append(_MOVED * (self.present[wish.id] - stays))
        self.model.minimize(_sum(self.cost))


def _sum(some: Sequence[cp_model.LinearExprT]) -> cp_model.LinearExprT:
    return cp_model.LinearExpr.sum(some)


def placed(problem: Problem) -> Placed:
    """Put each wish's steps into lessons; the same problem gives the same answer."""
    if not problem.unit or not problem.lessons:
        return {}
    built = _Model(problem)
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    solver.parameters.max_deterministic_time = _EFFORT
    solver.parameters.relative_gap_limit = _NEAR_ENOUGH
    status = solver.solve(built.model)
    if status not in (cp_model.OPTIMAL, cp_model.FEASIBLE):
        return {}
    return {
        wish.id: tuple(
            next(n for n, var in built.at[wish.id, step.number].items() if solver.value(var))
            for step in steps
        )
        for wish, steps in problem.unit
        if solver.value(built.present[wish.id])
    }
