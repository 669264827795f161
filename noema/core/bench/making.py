"""Tasks made from a set: each can be done with these tubes, and a mix that does it is known."""

from collections.abc import Callable, Iterable, Sequence
from dataclasses import replace

import numpy as np
from numpy.random import Generator
from numpy.typing import ArrayLike

from noema.core.bench.acts import CLINGS_ML
from noema.core.bench.doing import Act, BeginPile, MixPile, Squeeze, Take, Wipe
from noema.core.bench.seen import Lab
from noema.core.bench.task import ALL_AXES, Amount, BenchTask, Goal, TaskKind
from noema.core.colour.axis import Axis
from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import HVC, hvc_of, hvc_to_lab, lab_of
from noema.core.colour.names import HueTable
from noema.core.errors import BadPaint
from noema.core.exercises.levels import Level
from noema.core.language import gettext
from noema.core.pigments.amounts import can_be_measured, parts_of
from noema.core.pigments.bridge import bridge
from noema.core.pigments.mix import Part, lab_of_parts, mix_labs
from noema.core.pigments.next_move import next_move
from noema.core.pigments.partners import (
    Partner,
    darks,
    partners,
    white_to_show,
)
from noema.core.pigments.qualities import strengths
from noema.core.pigments.reach import CLEAN_FROM, best_mix
from noema.core.pigments.recipe import nearest_parts
from noema.core.pigments.shelf import TUBES, WHITE, PaintSet
from noema.core.pigments.tube import Role, Tube

CLEAN_HUES = ("violet", "green", "orange")
PILES = ("a", "b", "c", "d", "e")
FIRST_PILE, STEPS = PILES[0], len(PILES)
GIVEN_ML = 1.5  # of a pile that lies there to begin with

_TUBES = {Level.BEGINNER: 2, Level.INTERMEDIATE: 3, Level.ADVANCED: 3}
_PULLS = {Level.BEGINNER: 1.5, Level.INTERMEDIATE: 2.5, Level.ADVANCED: 4.0}  # doublings
_WHITES = (-2.0, 2.5)  # doublings of white's volume over the colours'
_GREY_VALUE, _GREY_CHROMA, _WARM, _COOL = 6.0, 2.0, 15.0, 70.0  # a warm grey leans to orange
_TRIES = 40
_APART = 8.0  # CIEDE2000 a match lies from every tube
_ADDITIONS = 4
_LIGHTER, _HELD = 1.0, 0.85  # values an orange rises; share of its chroma that stays
_TONED = 0.55  # share of a green's chroma


def free_task() -> BenchTask:
    """Nothing is asked."""
    return BenchTask(kind=TaskKind.FREE)


def match_task(paints: PaintSet, level: Level, rng: Generator) -> BenchTask:
    """Ask for a mix drawn by chance, further from the tubes and less plain by level."""
    for _ in range(_TRIES):
        count = min(_TUBES[level], len(paints.colours))
        picked = [paints.colours[n] for n in rng.choice(len(paints.colours), count, replace=False)]
        pulls = 2.0 ** rng.uniform(-_PULLS[level] / 2, _PULLS[level] / 2, count)
        amounts = list(pulls / strengths(tuple(picked)))
        if paints.white is not None and (level is not Level.BEGINNER or rng.random() < 0.5):
            picked.append(paints.white)
            amounts.append(sum(amounts) * 2.0 ** rng.uniform(*_WHITES))
        parts = parts_of(picked, amounts)
        if can_be_measured(amounts) and not _is_a_tube(lab_of_parts(parts), paints):
            return _task(TaskKind.MATCH, paints, [parts], shows=True)
    raise BadPaint(gettext("With so few tubes there is nothing to match: choose a larger set."))


def match_of(paints: PaintSet, lab: Lab, about: Sequence[str]) -> BenchTask:
    """Ask for a colour from elsewhere, or for the nearest these tubes give."""
    return _task(TaskKind.MATCH, paints, [_nearest(lab, paints)], about=about, shows=True)


def greying_pairs(paints: PaintSet, table: HueTable) -> tuple[Partner, ...]:
    """Give the tubes that meet in a neutral with one other, each pair once."""
    found = {
        frozenset((one.tube, *one.by)): one
        for one in partners(paints.tubes, table)
        if one.goes_neutral and len(one.by) == 1
    }
    return tuple(found.values())


def neutral_task(paints: PaintSet, pair: Partner) -> BenchTask:
    """Ask for the neutral of a pair."""
    tubes = (pair.tube, *pair.by)
    return _task(
        TaskKind.NEUTRAL,
        paints,
        [pair.parts],
        counts=(Axis.CHROMA,),
        at_most=(Axis.CHROMA,),
        tubes=_with_white(paints, tubes),
        about=[tube.label for tube in tubes],
        let_down=True,
    )


def steps_task(paints: PaintSet, pair: tuple[Tube, Tube]) -> BenchTask:
    """Ask for five even steps from one tube to another, its ends among them."""
    steps = bridge(*pair, STEPS, surface=paints.binder.dry).steps
    if not can_be_measured([step.amounts for step in steps[1:-1]]).all():
        raise BadPaint(
            gettext(
                "%(other)s is too strong for five steps from %(one)s: choose another pair.",
                one=pair[0].label,
                other=pair[1].label,
            )
        )
    return _task(
        TaskKind.STEPS,
        paints,
        [parts_of(pair, step.amounts) for step in steps],
        tubes=tuple(tube.name for tube in pair),
        about=[tube.label for tube in pair],
    )


def clean_task(paints: PaintSet, hue: str, table: HueTable) -> BenchTask:
    """Ask for a secondary as intense as these tubes give it."""
    parts = best_mix(paints.tubes, table.of(hue).hue100)
    if not parts or hvc_of(lab_of_parts(parts)).chroma < CLEAN_FROM / 2:
        raise BadPaint(gettext("These tubes give no %(hue)s: choose another hue.", hue=hue))
    counts = (Axis.HUE, Axis.CHROMA)
    return _task(
        TaskKind.CLEAN, paints, [parts], counts=counts, at_least=(Axis.CHROMA,), about=[hue]
    )


def dark_task(paints: PaintSet) -> BenchTask:
    """Ask for the darkest neutral these tubes mix, black aside."""
    found = darks(paints.tubes, 1)
    if not found:
        raise BadPaint(gettext("These tubes mix no neutral dark: choose another set."))
    counts = (Axis.VALUE, Axis.CHROMA)
    colours = tuple(tube.name for tube in paints.tubes if tube.role is not Role.BLACK)
    return _task(
        TaskKind.DARK, paints, [found[0].parts], counts=counts, at_most=counts, tubes=colours
    )


def greys_task(paints: PaintSet, table: HueTable) -> BenchTask:
    """Ask for a warm and a cool grey of one value."""
    hues = [(hue, _GREY_VALUE, _GREY_CHROMA) for hue in (_WARM, _COOL)]
    piles = [_nearest(_three(hvc_to_lab(hvc)), paints) for hvc in hues]
    task = _task(TaskKind.GREYS, paints, piles)
    greys = [hvc_of(goal.lab) for goal in task.goals]
    leans = [table.lean(grey).hue for grey in greys]
    if any(grey.chroma < _GREY_CHROMA / 2 for grey in greys) or leans[0] == leans[1]:
        raise BadPaint(gettext("These tubes mix no two greys: choose another set."))
    return replace(task, about=tuple(lean or "" for lean in leans))


def lighten_task(paints: PaintSet, table: HueTable) -> BenchTask:
    """Lay an orange there and ask for it lighter, its intensity kept."""

    def lighter(hvc: HVC) -> HVC:
        return HVC(hue100=hvc.hue100, value=hvc.value + _LIGHTER, chroma=_HELD * hvc.chroma)

    def is_so(before: HVC, after: HVC) -> bool:
        return after.value - before.value > _LIGHTER / 2 and after.chroma > 0.7 * before.chroma

    def by(before: HVC, after: HVC) -> str:
        return f"{after.value - before.value:.1f}"

    return _changed(TaskKind.LIGHTEN, paints, "orange", table, lighter, is_so, by)


def tone_down_task(paints: PaintSet, table: HueTable) -> BenchTask:
    """Lay a green there and ask for it duller, still the same green and no darker."""

    def duller(hvc: HVC) -> HVC:
        return HVC(hue100=hvc.hue100, value=hvc.value, chroma=_TONED * hvc.chroma)

    def is_so(before: HVC, after: HVC) -> bool:
        named = None if after.hue100 is None else table.nearest(after.hue100, 6).name
        alive = 0.35 * before.chroma < after.chroma < 0.8 * before.chroma
        return named == "green" and alive and abs(after.value - before.value) < 1.0

    def left(before: HVC, after: HVC) -> str:
        return f"{after.chroma / before.chroma:.0%}"

    return _changed(TaskKind.TONE_DOWN, paints, "green", table, duller, is_so, left)


def shown_with_white(parts: Sequence[Part], paints: PaintSet) -> Lab:
    """Give a mix's colour let down with as much white as shows its hue."""
    return _three(lab_of_parts(with_white(parts, paints), paints.binder.dry))


def with_white(parts: Sequence[Part], paints: PaintSet) -> tuple[Part, ...]:
    """Give a mix with as much white as shows its hue."""
    return (*parts, Part(tube=paints.white or TUBES[WHITE], amount=white_to_show(parts)))


def laid(parts: Iterable[Amount], pile: str, ml: float) -> tuple[Act, ...]:
    """Give the acts of a clean hand that lays a mix of known parts: wiped after each tube."""
    acts: list[Act] = [BeginPile(pile=pile)]
    parts = list(parts)
    whole = sum(part.volume for part in parts)
    for part in parts:
        # As much more as stays on the knife.
        taken = ml * part.volume / whole + CLINGS_ML
        if taken < 2 * CLINGS_ML:
            taken = 2.0 * ml * part.volume / whole  # of so little, half stays there
        acts += [
            Squeeze(tube=part.tube, ml=taken),
            Take(source=part.tube, ml=taken, pile=pile),
            Wipe(),
        ]
    return (*acts, MixPile(pile=pile), Wipe())


def _changed(
    kind: TaskKind,
    paints: PaintSet,
    hue: str,
    table: HueTable,
    change: Callable[[HVC], HVC],
    is_so: Callable[[HVC, HVC], bool],
    say_change: Callable[[HVC, HVC], str],
) -> BenchTask:
    """Lay the cleanest mix of a hue there and ask for what adding to it brings near a change."""
    begun = best_mix(paints.tubes, table.of(hue).hue100)
    if not begun:
        raise BadPaint(gettext("These tubes give no %(hue)s: choose another hue.", hue=hue))
    before = hvc_of(lab_of_parts(begun, paints.binder.dry))
    parts = _led(begun, lab_of([change(before)])[0], paints)
    after = hvc_of(lab_of_parts(parts, paints.binder.dry))
    if not is_so(before, after):
        raise BadPaint(gettext("These tubes can't change this %(hue)s so.", hue=hue))
    task = _task(kind, paints, [parts], about=[hue, say_change(before, after)])
    lies_there = laid(
        [Amount(tube=one.tube.name, volume=one.amount) for one in begun], FIRST_PILE, GIVEN_ML
    )
    return replace(task, given=lies_there)


def _led(begun: Sequence[Part], lab: ArrayLike, paints: PaintSet) -> tuple[Part, ...]:
    """Lead a mix towards a colour by adding alone, a few times."""
    parts = tuple(begun)
    for _ in range(_ADDITIONS):
        here = lab_of_parts(parts, paints.binder.dry)
        move = next_move(here, parts, lab, paints.tubes, paints.binder.dry)
        if move.add is None or move.after > move.before:
            break
        held = {part.tube: part.amount for part in move.contents}
        held[move.add] = held.get(move.add, 0.0) + move.share
        parts = tuple(Part(tube=tube, amount=amount) for tube, amount in held.items())
    return parts


def _task(
    kind: TaskKind,
    paints: PaintSet,
    piles: Sequence[Sequence[Part]],
    *,
    counts: tuple[Axis, ...] = ALL_AXES,
    at_most: tuple[Axis, ...] = (),
    at_least: tuple[Axis, ...] = (),
    tubes: tuple[str, ...] = (),
    about: Sequence[str] = (),
    shows: bool = False,
    let_down: bool = False,
) -> BenchTask:
    goals = tuple(
        Goal(
            pile=name,
            lab=_three(
                shown_with_white(parts, paints)
                if let_down
                else lab_of_parts(parts, paints.binder.dry)
            ),
            parts=tuple(Amount(tube=one.tube.name, volume=one.amount) for one in parts),
            counts=counts,
            at_most=at_most,
            at_least=at_least,
            let_down=let_down,
        )
        for name, parts in zip(PILES, piles, strict=False)
    )
    return BenchTask(kind=kind, goals=goals, tubes=tubes, about=tuple(about), shows=shows)


def _nearest(lab: Lab, paints: PaintSet) -> tuple[Part, ...]:
    return nearest_parts(lab, paints.tubes, paints.binder.dry)[0]


def _with_white(paints: PaintSet, tubes: Sequence[Tube]) -> tuple[str, ...]:
    white = () if paints.white is None else (paints.white.name,)
    return (*(tube.name for tube in tubes), *white)


def _is_a_tube(lab: ArrayLike, paints: PaintSet) -> bool:
    tubes = mix_labs(paints.tubes, np.eye(len(paints.tubes)), paints.binder.dry)
    return bool((ciede2000(tubes, lab) < _APART).any())


def _three(lab: ArrayLike) -> Lab:
    lightness, a, b = np.asarray(lab, dtype=float).tolist()
    return lightness, a, b
