"""How much of a lesson some steps take, all that is around them counted."""

from collections.abc import Sequence

from noema.core.planning.steps import StepAct, UnitStep
from noema.core.planning.usual import Usual


def taken_min(usual: Usual, steps: Sequence[UnitStep]) -> int:
    """Give the minutes of a lesson with some steps."""
    painted = {step.wish for step in steps if step.paints}
    begun = {step.wish for step in steps if step.number == 0}
    redone = sum(step.act is StepAct.REDO for step in steps)
    clean = 0
    if painted:
        wet = any(step.sheets for step in steps)
        clean = usual.clean_up_min + usual.to_rack_min if wet else usual.tidy_min
    return (
        usual.set_up_min
        + clean
        + sum(step.minutes for step in steps)
        + usual.remind_min * len(painted)
        + (usual.show_min - usual.remind_min) * len(begun)
        + usual.hand_back_min * redone
    )
