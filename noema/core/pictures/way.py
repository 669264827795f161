"""A recipe in the order a painter goes about it: what comes nearest, value, lean, toning down."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from noema.core.bench.seen import Lab
from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import HVC, hvc_of
from noema.core.colour.names import NEAR_NEUTRAL_BELOW, HueTable, hue_step
from noema.core.language import gettext
from noema.core.pigments.film import Surface
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.qualities import qualities
from noema.core.pigments.recipe import Recipe
from noema.core.pigments.says import say_adding
from noema.core.pigments.tube import Role

_MAIN = 0.25  # of the largest amount, from which a tube may be what one starts from
_NEIGHBOURS = 25.0  # hue steps within which a tube leads a colour along the wheel
_SEEN_VALUE, _SEEN_HUE, _SEEN_CHROMA = 0.2, 1.5, 0.5  # what of a step is worth saying


@dataclass(frozen=True, kw_only=True)
class WayStep:
    """One step towards a colour."""

    part: Part
    said: str
    lab: Lab  # of the pile afterwards


def way_of(made: Recipe, table: HueTable, surface: Surface) -> tuple[WayStep, ...]:
    """Give a recipe's tubes in a painter's order; what a step does is worked out, not assumed."""
    pile: list[Part] = []
    steps: list[WayStep] = []
    before: HVC | None = None
    for part in _in_order(made, surface):
        said = _start(part, made, surface) if before is None else ""
        lightness, a, b = lab_of_parts([*pile, part], surface).tolist()
        lab = (lightness, a, b)
        after = hvc_of(lab)
        if before is not None:
            share = part.amount / sum(one.amount for one in pile)
            said = _does(before, after, say_adding(part.tube.label, share, 1.0, is_new=True), table)
        steps.append(WayStep(part=part, said=said, lab=lab))
        pile.append(part)
        before = after
    return tuple(steps)


def _in_order(made: Recipe, surface: Surface) -> list[Part]:
    most = max(part.amount for part in made.parts)
    main = [part for part in made.parts if part.amount >= _MAIN * most]
    target = lab_of_parts(made.parts, surface)
    alone = np.array([lab_of_parts([part], surface) for part in main])
    start = main[int(np.argmin(ciede2000(alone, target)))]
    rest = [part for part in made.parts if part is not start]
    return [start, *sorted(rest, key=lambda part: _turn(part, start))]


def _turn(part: Part, start: Part) -> tuple[int, float]:
    """Value first, then neighbours on the wheel, then what lies across it."""
    if part.tube.role is not Role.COLOUR:
        return 0, -part.amount
    hues = [qualities(one.tube).shown.hue100 for one in (start, part)]
    if hues[0] is None or hues[1] is None or start.tube.role is not Role.COLOUR:
        return 1, -part.amount
    apart = abs(hue_step(hues[0], hues[1]))
    return (1 if apart <= _NEIGHBOURS else 2), apart


def _start(start: Part, made: Recipe, surface: Surface) -> str:
    alone = np.array([lab_of_parts([part], surface) for part in made.parts])
    nearest = made.parts[int(np.argmin(ciede2000(alone, made.lab)))]
    if nearest is not start:  # a tube of which too little is needed to begin with
        return gettext("Start from %(tube)s.", tube=start.tube.label)
    return gettext("Start from %(tube)s: it comes nearest.", tube=start.tube.label)


def _does(before: HVC, after: HVC, adding: str, table: HueTable) -> str:
    """Say an addition and what it does most."""
    adding = adding[0].upper() + adding[1:]
    effect = _effects(before, after, table)
    if not effect:
        return gettext("%(adding)s.", adding=adding)
    return gettext("%(adding)s: it gets %(effect)s.", adding=adding, effect=", ".join(effect))


def _effects(before: HVC, after: HVC, table: HueTable) -> Sequence[str]:
    said = []
    by_value, by_chroma = after.value - before.value, after.chroma - before.chroma
    if abs(by_value) >= _SEEN_VALUE:
        said.append(gettext("lighter") if by_value > 0 else gettext("darker"))
    if before.chroma < NEAR_NEUTRAL_BELOW <= after.chroma and after.hue100 is not None:
        said.append(table.nearest(after.hue100, 6).name)
    elif before.hue100 is not None and after.hue100 is not None:
        step = hue_step(before.hue100, after.hue100)
        if abs(step) >= _SEEN_HUE and after.chroma >= NEAR_NEUTRAL_BELOW:
            said.append(_more(before.hue100, step, table))
    if by_chroma <= -_SEEN_CHROMA:
        said.append(gettext("greyer"))
    elif by_chroma >= _SEEN_CHROMA and before.chroma >= NEAR_NEUTRAL_BELOW:
        said.append(gettext("more intense"))
    return said


def _more(from_hue100: float, step: float, table: HueTable) -> str:
    towards = table.nearest((from_hue100 + step) % 100.0, 6).name
    if towards == table.nearest(from_hue100, 6).name:
        towards = table.towards(from_hue100, step)
    return gettext("more %(hue)s", hue=towards)
