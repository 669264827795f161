"""When somebody who was away hands in what a class painted meanwhile."""

from collections.abc import Collection
from datetime import date, datetime

from noema.core.planning.class_plan import ClassPlan
from noema.core.planning.steps import StepAct


def due_after(plan: ClassPlan, wish: str, missed: Collection[datetime]) -> date | None:
    """Give the day an exercise is due on for somebody who missed lessons, at the school's clock.

    It is as many lessons after the class's as they missed of its painting, as far as there are
    any. None where it has no place.
    """
    at, steps = plan.at.get(wish, ()), plan.steps.get(wish, ())
    acts = [step.act for step in steps]
    photographed = acts.index(StepAct.PHOTOGRAPH) if StepAct.PHOTOGRAPH in acts else len(at)
    if photographed >= len(at):
        return None
    painted = {n for n, act in zip(at, acts, strict=False) if act is StepAct.PAINT}
    times = [one.lesson.at.replace(tzinfo=None) for one in plan.lessons]
    later = sum(times[n] in missed for n in painted)
    return times[min(at[photographed] + later, len(times) - 1)].date()
