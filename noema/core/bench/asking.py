"""What is told at the bench when it is asked for, and never more than was asked."""

from dataclasses import dataclass, replace
from enum import Enum

from noema.core.bench.acts import Bench
from noema.core.bench.making import with_white
from noema.core.bench.palette import Pile
from noema.core.bench.practice import Practice, parts_in
from noema.core.bench.seen import Lab
from noema.core.bench.task import THERE, BenchTask, Goal
from noema.core.colour.axis import Axis
from noema.core.colour.hvc import HVC, hvc_of
from noema.core.colour.names import HueTable, hue_step
from noema.core.language import N_
from noema.core.pigments.next_move import NextMove, keep_of, next_touch
from noema.core.pigments.tube import Role, Tube

_SEEN = 0.3  # CIEDE2000 under which nobody sees that a touch changed anything
_HUE_SHOWS = 0.8  # chroma from which a hue can be spoken of


class Nearer(Enum):
    """Whether the last touch brought a pile nearer."""

    YES = N_("Yes, nearer.")
    NO = N_("No, further away.")
    AS_NEAR = N_("As near as before: that touch changed too little to see.")
    THERE = N_("It is there: side by side, few would see a difference.")
    FIRST = N_("That was the first touch: there is nothing to compare it with yet.")
    EMPTY = N_("There is nothing in this pile yet.")


class Towards(Enum):
    """What is wrong with a pile beside its goal."""

    TOO_LIGHT = N_("it is too light")
    TOO_DARK = N_("it is too dark")
    TOO_INTENSE = N_("it is too intense")
    TOO_DULL = N_("it is too dull")
    LEANS = N_("it leans too far to %(hue)s")


@dataclass(frozen=True, kw_only=True)
class Furthest:
    """In what a pile differs most, and which way."""

    axis: Axis
    towards: Towards
    hue: str = ""  # of six, where it leans


def nearer(practice: Practice, goal: Goal) -> Nearer:
    """Say whether the last touch of a goal's pile brought it nearer."""
    lab = practice.lab_for(goal)
    if lab is None:
        return Nearer.EMPTY
    if goal.away(lab) <= THERE:
        return Nearer.THERE
    last = practice.last_touch(goal.pile)
    if last is None or last.before is None:
        return Nearer.FIRST
    if abs(last.after - last.before) < _SEEN:
        return Nearer.AS_NEAR
    return Nearer.YES if last.after < last.before else Nearer.NO


def furthest(goal: Goal, lab: Lab, table: HueTable) -> Furthest | None:
    """Say in which of value, hue and intensity a pile is furthest; None where it is there."""
    if goal.away(lab) <= THERE:
        return None
    axis = max(goal.counts, key=lambda one: goal.away_by(one, lab))
    wanted, given = hvc_of(goal.beside(lab)), hvc_of(lab)
    if axis is Axis.VALUE:
        lighter = lab[0] > goal.lab[0]
        return Furthest(axis=axis, towards=Towards.TOO_LIGHT if lighter else Towards.TOO_DARK)
    if axis is Axis.HUE or goal.let_down:
        return Furthest(axis=axis, towards=Towards.LEANS, hue=_leans_to(wanted, given, table))
    more = given.chroma > wanted.chroma
    return Furthest(axis=axis, towards=Towards.TOO_INTENSE if more else Towards.TOO_DULL)


def hint(practice: Practice, goal: Goal) -> NextMove | None:
    """Find the next addition among the tubes a task leaves free; None for an empty pile."""
    pile = practice.palette.piles.get(goal.pile, Pile())
    if pile.ml <= 0.0:
        return None
    bench, lab = practice.bench, practice.seen_for(goal, pile)
    parts, tubes = parts_in(pile, bench), allowed_tubes(bench, practice.task)
    surface = bench.paints.binder.dry
    if not goal.let_down:
        return next_touch(lab, parts, goal.beside(lab), tubes, surface)
    # The white is only there to look: what is added is measured against the pile without it.
    seen = with_white(parts, bench.paints)
    colours = tuple(tube for tube in tubes if tube.role is Role.COLOUR)
    move = next_touch(lab, seen, goal.beside(lab), colours, surface)
    volume = sum(part.amount for part in seen) / sum(part.amount for part in parts)
    return replace(move, share=move.share * volume, keep=keep_of(move.share * volume))


def allowed_tubes(bench: Bench, task: BenchTask) -> tuple[Tube, ...]:
    """Give the tubes that may be used for a task."""
    if not task.tubes:
        return bench.paints.tubes
    return tuple(tube for tube in bench.paints.tubes if tube.name in task.tubes)


def _leans_to(wanted: HVC, given: HVC, table: HueTable) -> str:
    """Name the hue of six that a colour strays to; of a grey, the one it has."""
    if given.hue100 is None:
        return ""
    own = table.nearest(given.hue100, 6)
    if wanted.hue100 is None or wanted.chroma < _HUE_SHOWS:
        return own.name
    turn = hue_step(wanted.hue100, given.hue100)
    ahead = [
        (abs(hue_step(wanted.hue100, hue.hue100)), hue.name)
        for hue in table.hues(6)
        if hue_step(wanted.hue100, hue.hue100) * turn > 0.0
        and hue.name != table.nearest(wanted.hue100, 6).name
    ]
    return min(ahead)[1] if ahead else own.name
