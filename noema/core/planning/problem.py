"""A class's unit, to be placed into its lessons."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, timedelta

from noema.core.planning.frame import Lesson, Wish
from noema.core.planning.steps import StepAct, UnitStep
from noema.core.planning.usual import Usual

Placed = Mapping[str, tuple[int, ...]]
"""The lesson of each step, by wish; of a wish that isn't met, at most those of its first steps."""


@dataclass(frozen=True, kw_only=True)
class Drying:
    """Sheets on the rack."""

    begins: datetime
    ends: datetime
    sheets: int


@dataclass(frozen=True, kw_only=True)
class Problem:
    """A class's unit, to be placed."""

    lessons: Sequence[Lesson]
    unit: Sequence[tuple[Wish, tuple[UnitStep, ...]]]
    usual: Usual
    rack: int
    drying: Sequence[Drying] = ()  # of other classes
    before: Placed = field(default_factory=dict)  # an earlier plan, to be kept as far as may be
    done: Placed = field(default_factory=dict)  # steps that are past: the first of each wish
    first_free: int = 0  # the first lesson that isn't past
    closed: frozenset[int] = frozenset()  # lessons in which nothing is done, for a test


def first_after(problem: Problem, n: int, earlier: UnitStep, later: UnitStep) -> int | None:
    """Give the first lesson a step may be in when the one before it is in lesson `n`.

    None where drying or reviewing last longer than there are lessons.
    """
    if later.act in (StepAct.PHOTOGRAPH, StepAct.PHOTOGRAPH_REDO):
        wait = timedelta(minutes=earlier.dry_min)
    elif later.act is StepAct.REDO:
        wait = timedelta(hours=problem.usual.review_h)
    else:
        return n
    if not wait:
        return n
    ready = problem.lessons[n].ends + wait
    return next((m for m, one in enumerate(problem.lessons) if m > n and one.at >= ready), None)
