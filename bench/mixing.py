"""How near a stand-in beginner comes in eight touches, with feedback and without.

The beginner and the hints look through one paint model: what the figures show is what being told
is worth, not how well the model mixes.
"""

from statistics import median

from numpy.random import default_rng

from noema.core.bench.acts import Bench
from noema.core.bench.making import match_task
from noema.core.bench.practice import TUBE_ML, Practice
from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.levels import Level
from noema.core.pigments.shelf import builtin_set
from noema.stand_ins.beginner import Beginner

TOUCHES, TASKS = 8, 40
BUILT_ON = ("split-six",)
HELD_OUT = ("three-printers", "muted-earths", "darks")
"""Sets that weren't looked at while the feedback was made."""


def left(set_name: str, level: Level, *, asks: bool) -> list[float]:
    """Give the CIEDE2000 to go after the touches, a number a task."""
    bench = Bench(paints=builtin_set(set_name), tube_holds_ml=TUBE_ML)
    found = []
    for seed in range(TASKS):
        task = match_task(bench.paints, level, default_rng(seed))
        who = Beginner(rng=default_rng(10_000 + seed), asks=asks)
        practice = Practice(bench=bench, task=task)
        mixed = who.mixes(practice, task.goals[0], USUAL_HUES, TOUCHES)
        found.append(mixed.away() or 0.0)
    return found


def main() -> None:
    """Print a line a set and level."""
    for name in (*BUILT_ON, *HELD_OUT):
        for level in Level:
            alone, told = (median(left(name, level, asks=asks)) for asks in (False, True))
            kind = "held out" if name in HELD_OUT else "built on"
            print(
                f"{name:16} {level.value:13} {kind:9} without {alone:5.1f}  with {told:5.1f}  "
                f"ratio {told / alone:.2f} (asked: at most 0.67)"
            )


if __name__ == "__main__":
    main()
