"""What several kinds ask of a set of paints: its white, its dark, the purest of a hue."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

import numpy as np

from noema.core.colour.hvc import hue_gap, hvc_of, hvcs_of, lab_to_hvc
from noema.core.colour.names import NamedHue, hue_step
from noema.core.errors import BadExercise, BadHueTable
from noema.core.exercises.asked import Even, Ground
from noema.core.exercises.kind import MOST_ROWS
from noema.core.exercises.paths import Stop, even_places, greyest_place, stops_at, way_of_tubes
from noema.core.language import gettext
from noema.core.pigments.amounts import parts_of
from noema.core.pigments.film import Surface
from noema.core.pigments.mix import Part, lab_of_parts, mix_labs
from noema.core.pigments.partners import NEUTRAL_ENOUGH, darks, let_down
from noema.core.pigments.qualities import qualities
from noema.core.pigments.reach import best_mix, tubes_of_hue
from noema.core.pigments.shelf import TUBES, WHITE, PaintSet
from noema.core.pigments.tube import Role, Tube

_SHOWS = 2.0  # chroma at which an unlightened mix shows its hue
_LIGHT_GAINS = 1.5  # times as intense must white make a hue to be let in
_CLOSE = 0.4  # hue steps: nearer than that a single tube stands for its hue
_MORE_WHITE = np.geomspace(0.05, 12.0, 40)  # volumes to one of a mix
_FINE = 2.0 ** np.linspace(-1.0, 1.0, 241)


def tubes_of(names: tuple[str, ...], paints: PaintSet, most: int = MOST_ROWS) -> tuple[Tube, ...]:
    """Give the tubes of these names, a row each, or all colours of the set."""
    tubes = tuple(paints.tube(name) for name in dict.fromkeys(names)) or paints.colours
    if not tubes:
        raise BadExercise(
            gettext(
                "The set %(label)s has no coloured tube: choose another set.", label=paints.label
            )
        )
    if len(tubes) > most:
        raise BadExercise(
            gettext(
                "A sheet has room for %(most)s tubes and %(count)s are asked for: "
                "name at most %(most)s.",
                most=most,
                count=len(tubes),
            )
        )
    return tubes


def white_of(paints: PaintSet) -> Tube:
    """Give the set's white, or say that one is needed."""
    if paints.white is None:
        raise BadExercise(
            gettext(
                "The set %(label)s has no white: add one, or choose another set.",
                label=paints.label,
            )
        )
    return paints.white


def white_or_paper(paints: PaintSet) -> Tube:
    """Give the set's white; a wash set's pale cells are worked out as if with white."""
    return paints.white or TUBES[WHITE]


def dark_of(paints: PaintSet) -> tuple[Part, ...]:
    """Give the set's black, or its best mixed dark."""
    for tube in paints.tubes:
        if tube.role is Role.BLACK:
            return (Part(tube=tube, amount=1.0),)
    mixed = darks(paints.tubes, 1)
    if not mixed:
        raise BadExercise(
            gettext(
                "The set %(label)s has no black and mixes no neutral dark: add "
                "black, or a pair such as crimson and phthalo green.",
                label=paints.label,
            )
        )
    return mixed[0].parts


def named_hue(ground: Ground, name: str) -> NamedHue:
    """Find one of the 24 named hues."""
    try:
        return ground.table.of(name)
    except BadHueTable as wrong:
        raise BadExercise(str(wrong)) from wrong


def pure(ground: Ground, name: str) -> tuple[Part, ...]:
    """Give the purest a set has of a hue: a tube of that name, or the most intense mix.

    Empty when the set can't give it at all.
    """
    paints = ground.paints
    if any(tube.name == name for tube in paints.tubes):
        return (Part(tube=paints.tube(name), amount=1.0),)
    hue = named_hue(ground, name)
    own = tubes_of_hue(paints.tubes, name, ground.table)
    if own:
        nearest = min(own, key=lambda tube: _off(tube, hue))
        return (Part(tube=nearest, amount=1.0),)
    return purest(paints.tubes, hue.hue100, paints.binder.dry)


@lru_cache(maxsize=512)
def purest(tubes: tuple[Tube, ...], hue100: float, surface: Surface) -> tuple[Part, ...]:
    """Give the most intense mix of a hue, tuned to it; with white only where it needs white.

    Students lighten in rows of their own, so a hue deep enough to show is asked for unlightened.
    """
    deep = tuple(tube for tube in tubes if tube.role is not Role.WHITE)
    plain = _nearest_mix(deep, hue100, surface) if deep else ()
    if plain and _chroma(plain, surface) >= _SHOWS:
        return plain
    light = _nearest_mix(tubes, hue100, surface)
    if not plain or (light and _chroma(light, surface) > _LIGHT_GAINS * _chroma(plain, surface)):
        return light
    return plain


@lru_cache(maxsize=512)
def shown_with_white(
    parts: tuple[Part, ...], white: Tube, hue100: float, from_value: float, surface: Surface
) -> tuple[Part, ...]:
    """Let a mix down until it is from a value on at its most intense, its hue the one asked for."""
    volume = sum(part.amount for part in parts)
    let = [(*parts, Part(tube=white, amount=float(more * volume))) for more in _MORE_WHITE]
    tried = _all_tuned(let, hue100, surface)
    hvcs = hvcs_of(np.array([lab_of_parts(one, surface) for one in tried]))
    # The lightest, where none gets so light.
    best = max(range(len(tried)), key=lambda n: (min(hvcs[n].value, from_value), hvcs[n].chroma))
    return tried[best]


def eyes_middle(one: Tube, other: Tube, ground: Ground) -> Stop:
    """Give the mix that looks as far from one tube as from the other."""
    surface = ground.paints.binder.dry
    way = way_of_tubes(one, other, surface)
    return stops_at(way, even_places(way.labs, 3, Even.DISTANCE)[1:2], surface)[0]


def _nearest_mix(tubes: tuple[Tube, ...], hue100: float, surface: Surface) -> tuple[Part, ...]:
    close = best_mix(tubes, hue100, _CLOSE) or best_mix(tubes, hue100)
    return tuned(close, hue100, surface)


def tuned(parts: tuple[Part, ...], hue100: float, surface: Surface) -> tuple[Part, ...]:
    """Shift the balance of a mix's two colours until its hue is the very one."""
    return _all_tuned([parts], hue100, surface)[0]


def _all_tuned(
    mixes: Sequence[tuple[Part, ...]], hue100: float, surface: Surface
) -> list[tuple[Part, ...]]:
    """Tune several mixes of the same tubes, worked out together."""
    tubes = [part.tube for part in mixes[0]]
    coloured = [n for n, tube in enumerate(tubes) if tube.role is not Role.WHITE]
    if len(coloured) < 2:
        return list(mixes)
    plain = np.array([[part.amount for part in parts] for parts in mixes])
    amounts = np.repeat(plain[:, None, :], len(_FINE), axis=1)
    amounts[:, :, coloured[0]] *= _FINE
    labs = mix_labs(tubes, amounts.reshape(-1, len(tubes)), surface)
    off = hue_gap(lab_to_hvc(labs)[:, 0], hue100).reshape(len(mixes), -1)
    best = np.argmin(np.where(np.isfinite(off), off, np.inf), axis=1)
    return [parts_of(tubes, some[n]) for some, n in zip(amounts, best, strict=True)]


@dataclass(frozen=True, kw_only=True)
class GreyPair:
    """Two tubes and the greyest they mix to."""

    tubes: tuple[Tube, Tube]
    parts: tuple[Part, ...]
    chroma: float


def greyest_pairs(ground: Ground, count: int) -> tuple[GreyPair, ...]:
    """Give the pairs of a set's colours that come nearest to cancelling, the best first."""
    surface = ground.paints.binder.dry
    found = []
    for one, other in combinations(ground.paints.colours, 2):
        way = way_of_tubes(one, other, surface)
        stop = stops_at(way, np.array([float(greyest_place(way))]), surface)[0]
        # Let down, so that a dark mix doesn't pass for a grey one.
        chroma = let_down(stop.parts).chroma
        found.append(GreyPair(tubes=(one, other), parts=stop.parts, chroma=chroma))
    found.sort(key=lambda pair: pair.chroma)
    # A pair that never goes neutral is no row of greys; where none does, the nearest stands in.
    neutral = [pair for pair in found if pair.chroma < NEUTRAL_ENOUGH]
    return tuple((neutral or found[:1])[:count])


def _chroma(parts: tuple[Part, ...], surface: Surface) -> float:
    return hvc_of(lab_of_parts(parts, surface)).chroma


def _off(tube: Tube, hue: NamedHue) -> float:
    shown = qualities(tube).shown
    if shown.hue100 is None:
        return 50.0
    return abs(hue_step(hue.hue100, shown.hue100)) - 0.2 * shown.chroma
