"""One go at a task: what was done, what came of each touch, what it cost."""

from dataclasses import dataclass, replace
from functools import cached_property

from noema.core.bench.acts import Bench
from noema.core.bench.doing import Act, LetPileDown, Take, played
from noema.core.bench.making import shown_with_white
from noema.core.bench.palette import Palette, Pile
from noema.core.bench.seen import Lab, colours_of
from noema.core.bench.task import BenchTask, Goal
from noema.core.pigments.mix import Part

TUBE_ML = 12.0
"""What a tube holds for one go: enough, and yet it runs out where somebody only adds. Chosen."""

_BACK = 1.0  # CIEDE2000 by which a touch leads away before it counts as a way back


@dataclass(frozen=True, kw_only=True)
class Touch:
    """Paint or water that came into a goal's pile, and how far it was before and after."""

    number: int  # of the act, from 1
    pile: str
    before: float | None  # CIEDE2000 to go; None where nothing was there
    after: float

    @property
    def led_away(self) -> bool:
        """Whether it went back rather than on."""
        return self.before is not None and self.after > self.before + _BACK


@dataclass(frozen=True, kw_only=True)
class Practice:
    """A task, the tubes, and what was done; its palettes are worked out once."""

    bench: Bench
    task: BenchTask
    acts: tuple[Act, ...] = ()

    @cached_property
    def palettes(self) -> tuple[Palette, ...]:
        """What lay there before the first act and after each."""
        begun = played(self.bench, self.task.given)[-1]
        palettes = [begun]
        for act in self.acts:
            palettes.append(act.on(self.bench, palettes[-1]))
        return tuple(palettes)

    @property
    def palette(self) -> Palette:
        """What lies there now."""
        return self.palettes[-1]

    def doing(self, *acts: Act) -> "Practice":
        """Give the practice with more done; refuses what can't be."""
        more = replace(self, acts=(*self.acts, *acts))
        _ = more.palettes
        return more

    def lab_for(self, goal: Goal, palette: Palette | None = None) -> Lab | None:
        """Give a goal's pile as it is held against it, dry; None where nothing is there."""
        pile = (palette or self.palette).piles.get(goal.pile)
        return None if pile is None or pile.ml <= 0.0 else self.seen_for(goal, pile)

    def seen_for(self, goal: Goal, pile: Pile) -> Lab:
        """Give how a pile looks for a goal: let down with white where that shows its hue."""
        if goal.let_down:
            return shown_with_white(parts_in(pile, self.bench), self.bench.paints)
        held = Palette(piles={goal.pile: pile})
        return colours_of(held, self.bench.paints)[goal.pile].lab

    def away(self, palette: Palette | None = None) -> float | None:
        """Give the CIEDE2000 to go of the goal that is furthest; None while one isn't begun."""
        left = [self._away_of(goal, palette or self.palette) for goal in self.task.goals]
        known = [one for one in left if one is not None]
        return max(known) if known and len(known) == len(left) else None

    @property
    def touches(self) -> tuple[Touch, ...]:
        """Give what came into the goals' piles, one by one."""
        found = (self._touch(number) for number in range(1, len(self.acts) + 1))
        return tuple(touch for touch in found if touch is not None)

    def last_touch(self, pile: str) -> Touch | None:
        """Give the latest of a pile's touches."""
        for number in range(len(self.acts), 0, -1):
            act = self.acts[number - 1]
            if isinstance(act, Take | LetPileDown) and act.pile == pile:
                return self._touch(number)
        return None

    def _touch(self, number: int) -> Touch | None:
        act = self.acts[number - 1]
        goal = self.task.goal_of(act.pile) if isinstance(act, Take | LetPileDown) else None
        now = None if goal is None else self._away_of(goal, self.palettes[number])
        if goal is None or now is None:
            return None
        was = self._away_of(goal, self.palettes[number - 1])
        return Touch(number=number, pile=goal.pile, before=was, after=now)

    @property
    def squeezed_ml(self) -> float:
        """What came out of tubes since it was begun."""
        return sum(self.palette.squeezed.values()) - sum(self.palettes[0].squeezed.values())

    def _away_of(self, goal: Goal, palette: Palette) -> float | None:
        lab = self.lab_for(goal, palette)
        return None if lab is None else goal.away(lab)


def parts_in(pile: Pile, bench: Bench) -> tuple[Part, ...]:
    """Give what a pile holds."""
    return tuple(
        Part(tube=bench.paints.tube(name), amount=ml) for name, ml in pile.paint.items() if ml > 0.0
    )
