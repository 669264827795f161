"""What all cells share, taken off before one is held against its step."""

import numpy as np
import pytest

from noema.core.judging.shared_drift import FEWEST_CELLS, shared_drift

RNG = np.random.default_rng(4)
ASKED = np.stack([RNG.uniform(25, 90, 24), RNG.uniform(-50, 50, 24), RNG.uniform(-50, 50, 24)], 1)
SIGMA = np.full(24, 2.0)


@pytest.mark.parametrize("cast", [(2.0, 0.0, 3.0), (-3.0, 2.0, -2.0)])
def test_an_offset_of_all_cells_is_found(cast):
    shared = shared_drift(ASKED, ASKED + cast, SIGMA)
    assert np.abs(shared - cast).max() < 1.0


def test_a_gain_in_saturation_is_found():
    painted = ASKED * [1.0, 1.05, 1.05]
    left = painted - ASKED - shared_drift(ASKED, painted, SIGMA)
    assert np.abs(left).max() < 0.4 * np.abs(painted - ASKED).max()


def test_a_few_cells_far_off_hardly_pull():
    painted = ASKED.copy()
    painted[:4] += (20.0, 15.0, -25.0)
    assert np.abs(shared_drift(ASKED, painted, SIGMA)).max() < 0.5


def test_a_mistake_all_over_a_sheet_isnt_wholly_taken_for_the_lamp():
    painted = ASKED + (15.0, 0.0, 0.0)
    assert shared_drift(ASKED, painted, np.full(24, 4.0))[:, 0].max() < 14.0


def test_too_few_cells_share_nothing():
    few = FEWEST_CELLS - 1
    assert not shared_drift(ASKED[:few], ASKED[:few] + 5.0, SIGMA[:few]).any()
