"""A stand-in beginner mixes nearer with feedback than without, and pays for every touch."""

from statistics import median

from numpy.random import default_rng

from noema.core.bench.acts import Bench
from noema.core.bench.making import match_task
from noema.core.bench.practice import TUBE_ML, Practice
from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.levels import Level
from noema.core.pigments.shelf import builtin_set
from noema.stand_ins.beginner import Beginner

TASKS, TOUCHES = 14, 8


def mixed(seed, *, asks):
    bench = Bench(paints=builtin_set("three-printers"), tube_holds_ml=TUBE_ML)
    task = match_task(bench.paints, Level.BEGINNER, default_rng(seed))
    hand = Beginner(rng=default_rng(500 + seed), asks=asks)
    practice = Practice(bench=bench, task=task)
    return hand.mixes(practice, task.goals[0], USUAL_HUES, TOUCHES)


def test_feedback_is_worth_a_third_and_more():
    alone, told = (
        median(mixed(seed, asks=asks).away() for seed in range(TASKS)) for asks in (False, True)
    )
    assert told <= 0.67 * alone


def test_no_more_touches_are_made_than_were_asked_for():
    for seed in range(4):
        practice = mixed(seed, asks=True)
        assert 1 <= len(practice.touches) <= TOUCHES
        assert practice.squeezed_ml > 0.0
