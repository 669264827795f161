"""A beginner at the mixing bench: guesses which tube, misses amounts, and may ask.

They know which tube would help no better than their chance says, and take another than they mean
to. Who asks hears no more than the pages say, and goes by it.
"""

from dataclasses import dataclass

from numpy.random import Generator

from noema.core.bench.asking import Furthest, Nearer, Towards, allowed_tubes, furthest, hint, nearer
from noema.core.bench.doing import BeginPile, Halve
from noema.core.bench.practice import Practice
from noema.core.bench.practised import brought
from noema.core.bench.says import DOSES_ML
from noema.core.bench.task import Goal
from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import HueTable, hue_step
from noema.core.errors import Refused
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.next_move import NextMove
from noema.core.pigments.tube import Role, Tube

_FIRST_ML = 0.5  # a pea
_MOST_ML = 4.0  # that a hand brings in at once
_HINT_AFTER = 2  # answers of no, until a hint is asked for


@dataclass(frozen=True, kw_only=True)
class Beginner:
    """How somebody mixes who has hardly mixed before."""

    rng: Generator
    knows: float = 0.6  # how often they take the tube that helps
    misses: float = 2.0  # factor by which amounts are off, one sigma
    asks: bool = True

    def mixes(self, practice: Practice, goal: Goal, table: HueTable, touches: int) -> Practice:
        """Bring paint into a goal's pile a number of times, or until they hear it is there."""
        practice = self._begun(practice, goal)
        refused = 0
        for _ in range(touches - 1):
            told: Furthest | None = None
            helped = False
            if self.asks:
                answer = nearer(practice, goal)
                if answer is Nearer.THERE:
                    break
                refused = refused + 1 if answer in (Nearer.NO, Nearer.AS_NEAR) else 0
                lab = practice.lab_for(goal)
                told = None if lab is None else furthest(goal, lab, table)
                helped = refused >= _HINT_AFTER
            practice = self._touched(practice, goal, told, helped=helped)
        return practice

    def _begun(self, practice: Practice, goal: Goal) -> Practice:
        if goal.pile in practice.palette.piles:
            return practice
        colours = [
            tube
            for tube in allowed_tubes(practice.bench, practice.task)
            if tube.role is Role.COLOUR
        ]
        most = max(
            (part for part in goal.parts if part.tube in {tube.name for tube in colours}),
            key=lambda part: part.volume,
        )
        tube = practice.bench.paints.tube(most.tube) if self._knows() else self._any(colours)
        return practice.doing(BeginPile(pile=goal.pile), *brought(tube, _FIRST_ML, goal.pile))

    def _touched(
        self, practice: Practice, goal: Goal, told: Furthest | None, *, helped: bool
    ) -> Practice:
        pile = practice.palette.piles[goal.pile]
        move = hint(practice, goal)
        tubes = allowed_tubes(practice.bench, practice.task)
        tube, ml = self._meant(move, goal, practice, tubes, pile.ml)
        if not (helped or self._knows()):
            towards = [one for one in tubes if _helps(one, practice, goal, told)]
            tube = self._any(towards or tubes)
        ml *= self.misses ** float(self.rng.normal())
        ml = min(max(ml, DOSES_ML[0]), _MOST_ML)
        acts = brought(tube, ml, goal.pile)
        if helped and move is not None and move.keep < 1.0:
            aside = f"aside {len(practice.palette.piles)}"
            acts = (Halve(pile=goal.pile, aside=aside), *acts)
        try:
            return practice.doing(*acts)
        except Refused:  # a tube ran out: they stop there
            return practice

    def _meant(
        self,
        move: NextMove | None,
        goal: Goal,
        practice: Practice,
        tubes: tuple[Tube, ...],
        pile_ml: float,
    ) -> tuple[Tube, float]:
        """Give what would help, and how much; where no single addition does, what is lacking."""
        if move is not None and move.add is not None:
            return move.add, move.share * pile_ml
        pile = practice.palette.piles[goal.pile].paint
        whole = sum(part.volume for part in goal.parts)
        lacking = {
            part.tube: part.volume / whole - pile.get(part.tube, 0.0) / pile_ml
            for part in goal.parts
        }
        most = max(lacking, key=lambda name: lacking[name])
        return practice.bench.paints.tube(most), max(lacking[most], 0.02) * pile_ml

    def _knows(self) -> bool:
        return bool(self.rng.random() < self.knows)

    def _any(self, tubes: list[Tube] | tuple[Tube, ...]) -> Tube:
        return tubes[int(self.rng.integers(len(tubes)))]


def _helps(tube: Tube, practice: Practice, goal: Goal, told: Furthest | None) -> bool:
    """Say whether anybody would think of a tube who was told what is furthest; else all."""
    lab = practice.lab_for(goal)
    if told is None or lab is None:
        return True
    own = hvc_of(mix_labs([tube], [1.0]))
    now, wanted = hvc_of(lab), hvc_of(goal.beside(lab))
    if told.towards is Towards.TOO_DARK:
        return own.value > now.value
    if told.towards is Towards.TOO_LIGHT:
        return own.value < now.value
    if told.towards is Towards.TOO_DULL:
        return tube.role is Role.COLOUR
    if own.hue100 is None or now.hue100 is None or wanted.hue100 is None:
        return True
    if told.towards is Towards.TOO_INTENSE:
        return abs(hue_step(now.hue100, own.hue100)) > 20.0
    return hue_step(now.hue100, own.hue100) * hue_step(now.hue100, wanted.hue100) > 0.0
