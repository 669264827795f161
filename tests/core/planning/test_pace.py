"""Minutes follow what a class really took."""

import numpy as np
import pytest

from noema.core.planning.pace import Pace, Went, learned

USUAL_MIN = 24.0


def three_lessons(true_factor, rng, *, says):
    """Let a class paint three lessons, planned each time by what was learned so far."""
    known = []
    for _ in range(3):
        factor = learned(known).factor
        planned = USUAL_MIN * factor
        took = USUAL_MIN * true_factor * rng.lognormal(0.0, 0.1)
        known.append((says(planned, took, rng), factor))
    return learned(known)


def to_five_minutes(planned, took, _rng):
    return Went(planned_min=planned, over_min=5.0 * round((took - planned) / 5.0))


@pytest.mark.parametrize("true_factor", [0.67, 1.0, 1.5])
def test_after_three_lessons_plans_are_within_15_percent(true_factor):
    """In the middle of 200 simulated classes, and for most of them."""
    rng = np.random.default_rng(3)
    found = [three_lessons(true_factor, rng, says=to_five_minutes) for _ in range(200)]
    off = np.array([abs(one.factor / true_factor - 1.0) for one in found])
    assert np.median(off) <= 0.15
    assert np.mean(off <= 0.15) >= 0.7


def test_doubt_shrinks_and_holds_the_truth():
    rng = np.random.default_rng(4)
    found = [three_lessons(1.5, rng, says=to_five_minutes) for _ in range(200)]
    assert all(one.sigma < Pace().sigma / 2 for one in found)
    inside = [abs(np.log(1.5) - one.log_factor) <= 1.645 * one.sigma for one in found]
    assert np.mean(inside) >= 0.8


def test_unfinished_sheets_make_it_slower_and_tell_less():
    half = learned([(Went(planned_min=20, unfinished=0.5), 1.0)])
    over = learned([(Went(planned_min=20, over_min=6), 1.0)])
    assert 1.0 < half.factor < over.factor
    assert half.sigma > over.sigma


def test_nothing_known_is_the_usual_time():
    assert learned([]) == Pace()
    assert Pace().factor == 1.0
    assert Pace().said(30) == "20 to 50 minutes"
