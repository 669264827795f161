"""How a practised hand would do a task, act by act, with the reason of each."""

from dataclasses import dataclass
from enum import Enum

from noema.core.bench.acts import CLINGS_ML, LEAST_TAKEN_ML, Bench
from noema.core.bench.doing import Act, BeginPile, MixPile, Squeeze, Take, Wipe
from noema.core.bench.task import BenchTask, Goal, shares_of
from noema.core.language import N_
from noema.core.pigments.qualities import qualities
from noema.core.pigments.tube import Role, Tube

_USUAL_ML = 1.5
"""A pile one can paint a few cells from."""

_FIRST_SHARE = 0.6
"""How much of a tube comes in at first: the rest is brought in by touches."""


class ReasonOfStep(Enum):
    """Why a practised hand does something, in a sentence."""

    BEGIN = N_("Begin with %(tube)s: of the colours, the mix needs most of it.")
    VALUE = N_("Now the value: bring in %(tube)s.")
    FIRST_VALUE = N_("Now the value: bring in %(tube)s, first a part of it.")
    LEAN = N_("Now the lean: bring in %(tube)s.")
    FIRST_LEAN = N_("Now the lean: %(tube)s, first a part of it.")
    TOUCH = N_("Look, then bring in the rest of %(tube)s by touches.")


@dataclass(frozen=True, kw_only=True)
class PractisedStep:
    """Something a practised hand does: acts that belong together, and why."""

    acts: tuple[Act, ...]
    reason: ReasonOfStep
    tube: str  # label
    ml: float
    pile: str


def practised(task: BenchTask, bench: Bench) -> tuple[PractisedStep, ...]:
    """Give the steps that mix every goal of a task from what lies there to begin with."""
    steps: list[PractisedStep] = []
    for goal in task.goals:
        steps += _for_goal(goal, task, bench)
    return tuple(steps)


def _for_goal(goal: Goal, task: BenchTask, bench: Bench) -> list[PractisedStep]:
    amounts = _ml_of(goal, task)
    order = sorted(amounts, key=lambda one: _place(bench.paints.tube(one), amounts, bench))
    fresh = not task.given
    parts = [
        (name, ml, number > 0)
        for place, name in enumerate(order)
        for number, ml in enumerate(_in_two(amounts[name], whole=fresh and place == 0))
    ]
    amounts_ml = _with_losses([ml for _, ml, _ in parts], sum(_given_ml(task).values()))
    rests = {(name, is_rest) for name, _, is_rest in parts}
    steps = []
    for place, ((name, _, is_rest), ml) in enumerate(zip(parts, amounts_ml, strict=True)):
        tube, begins = bench.paints.tube(name), fresh and place == 0
        steps.append(
            PractisedStep(
                acts=(
                    *([BeginPile(pile=goal.pile)] if begins else []),
                    *brought(tube, ml, goal.pile),
                ),
                reason=_reason(
                    tube, begins=begins, is_rest=is_rest, is_first=(name, True) in rests
                ),
                tube=tube.label,
                ml=ml,
                pile=goal.pile,
            )
        )
    return steps


def _reason(tube: Tube, *, begins: bool, is_rest: bool, is_first: bool) -> ReasonOfStep:
    if begins:
        return ReasonOfStep.BEGIN
    if is_rest:
        return ReasonOfStep.TOUCH
    if tube.role is Role.COLOUR:
        return ReasonOfStep.FIRST_LEAN if is_first else ReasonOfStep.LEAN
    return ReasonOfStep.FIRST_VALUE if is_first else ReasonOfStep.VALUE


def _with_losses(amounts: list[float], there: float) -> list[float]:
    """Give as much more of each as the wiping of the mixes it is in will take away."""
    piles = [there + sum(amounts[: place + 1]) for place in range(len(amounts))]
    stays, more = 1.0, []
    for ml, pile in zip(reversed(amounts), reversed(piles), strict=True):
        stays *= 1.0 - min(CLINGS_ML / pile, 0.5)
        more.append(ml / stays)
    return more[::-1]


def _ml_of(goal: Goal, task: BenchTask) -> dict[str, float]:
    """Give how much of each tube comes in, beyond what lies there."""
    shares = {part.tube: part.volume for part in shares_of(goal.parts)}
    there = _given_ml(task)
    if not there:
        ml = max(_USUAL_ML, LEAST_TAKEN_ML / min(shares.values()))
        return {name: ml * share for name, share in shares.items()}
    # The pile grows until everything in it has its share; nothing is taken out.
    ml = max(there.get(name, 0.0) / share for name, share in shares.items())
    lacking = {name: ml * share - there.get(name, 0.0) for name, share in shares.items()}
    return {name: amount for name, amount in lacking.items() if amount > LEAST_TAKEN_ML / 10.0}


def _given_ml(task: BenchTask) -> dict[str, float]:
    taken = [act for act in task.given if isinstance(act, Take)]
    return {act.source: act.ml - min(CLINGS_ML, act.ml / 2.0) for act in taken}


def _place(tube: Tube, amounts: dict[str, float], bench: Bench) -> tuple[int, float]:
    """Order tubes as they come in: the colour needed most, then white, then what pulls more."""
    if tube.role is not Role.COLOUR:
        return (1, -qualities(tube).masstone.value)
    most = max(amounts, key=lambda name: (_is_colour(name, bench), amounts[name]))
    return (0, 0.0) if tube.name == most else (2, -amounts[tube.name] * qualities(tube).strength)


def _is_colour(name: str, bench: Bench) -> bool:
    return bench.paints.tube(name).role is Role.COLOUR


def _in_two(ml: float, *, whole: bool) -> tuple[float, ...]:
    first = _FIRST_SHARE * ml
    return (ml,) if whole or ml - first < LEAST_TAKEN_ML else (first, ml - first)


def brought(tube: Tube, ml: float, pile: str) -> tuple[Act, ...]:
    """Squeeze, take, mix and wipe; mixing leaves what clung to the knife in the pile."""
    return (
        Squeeze(tube=tube.name, ml=ml),
        Take(source=tube.name, ml=ml, pile=pile),
        MixPile(pile=pile),
        Wipe(),
    )
