"""What cells share, taken off before one is held against its step."""

import numpy as np
import pytest

from noema.core.exercises.tube_shifts import TubeShifts
from noema.core.judging.shared_drift import along_a_row, drifts_of, shared_drift
from noema.core.pigments.bending import BENDS, independently

RNG = np.random.default_rng(4)
GREENS = np.array([45.0, -35.0, 20.0]) + RNG.normal(0.0, 3.0, (6, 3))
REDS = np.array([45.0, 50.0, 25.0]) + RNG.normal(0.0, 3.0, (6, 3))
ASKED = np.concatenate([GREENS, REDS])
IS_GREEN = np.arange(12) < 6
SIGMA = np.full(12, 4.0)
PUSHED = np.where(IS_GREEN[:, None], (2.0, 7.0, -5.0), 0.0)
STEADY = 1.2  # CIEDE2000 that a hand misses


def steady_hands(count, moves=None):
    """A hand's unsteadiness, and a tube whose first bend moves cells so, (n, 3), if it does."""
    by_bends = np.zeros((count, 3, 1, BENDS))
    if moves is not None:
        by_bends[:, :, 0, 0] = moves
    hand = np.broadcast_to(STEADY**2 * np.eye(3), (count, 3, 3))
    return TubeShifts(tubes=("one",), by_bends=by_bends, by_hand=hand)


def drift_of(painted, sigma=SIGMA, asked=ASKED, shifts=None):
    drifts = drifts_of(asked, painted, sigma, sigma, shifts or steady_hands(len(asked)))
    return shared_drift(drifts, independently(1))


@pytest.mark.parametrize("cast", [(3.0, 2.0, 4.0), (-4.0, 3.0, -3.0)])
def test_what_all_cells_stray_is_mostly_the_lamps(cast):
    left = np.abs(drift_of(ASKED + cast).lab - cast)
    assert (left < 0.5 * np.abs(cast)).all()


def test_alike_colours_stray_alike_and_others_dont():
    shared = drift_of(ASKED + PUSHED).lab
    assert np.abs(shared[IS_GREEN] - PUSHED[IS_GREEN]).max() < 3.0
    assert np.abs(shared[~IS_GREEN]).max() < 1.5


def test_a_cell_is_held_against_the_others_and_hardly_pulls_them():
    painted = ASKED.copy()
    painted[2] += (15.0, 30.0, -25.0)
    shared = np.abs(drift_of(painted).lab)
    assert shared.max() < 2.5
    assert shared[2].max() < 1.0


def test_where_the_reader_is_sure_a_drift_is_the_painters():
    sure = drift_of(ASKED + PUSHED, np.full(12, 0.2)).lab
    assert np.abs(sure).max() < 1.0


def test_cells_of_one_tube_tell_what_it_is():
    moves = np.where(IS_GREEN[:, None], (10.0, 0.0, 30.0), (5.0, 0.0, 20.0))
    by_the_tube = ASKED + 0.3 * moves
    sure = np.full(12, 0.2)
    known = drift_of(by_the_tube, sure, shifts=steady_hands(12, moves)).lab
    assert np.abs(known - 0.3 * moves).max() < 1.5
    assert np.abs(drift_of(by_the_tube, sure).lab).max() < 2.0


def test_a_colour_among_its_like_is_surer_than_one_by_itself():
    alone = np.concatenate([ASKED, [[30.0, 15.0, -45.0]]])
    left = drift_of(alone, np.full(13, 4.0), alone).left
    doubt = np.sqrt(np.trace(left, axis1=1, axis2=2))
    assert doubt[-1] > 1.2 * doubt[:-1].max()


def test_one_cell_shares_nothing():
    found = drift_of(ASKED[:1] + 5.0, SIGMA[:1], ASKED[:1])
    assert np.allclose(found.lab, 0.0)
    assert np.sqrt(found.left[0, 0, 0]) == pytest.approx(4.0, abs=0.5)


def test_a_cell_without_doubt_is_no_riddle():
    found = drift_of(ASKED + PUSHED, np.zeros(12))
    assert np.isfinite(found.lab).all()


def test_along_a_row_neighbours_err_together():
    row = np.linspace([30.0, 10.0, -50.0], [90.0, 0.0, -5.0], 7)
    drifts = drifts_of(row, row, np.full(7, 3.0), np.full(7, 3.0), steady_hands(7))
    covariance = along_a_row(row, drifts, independently(1))
    sigma = np.sqrt(np.diagonal(covariance))
    alike = covariance / np.outer(sigma, sigma)
    assert (np.linalg.eigvalsh(covariance) > 0.0).all()
    assert (np.diff(alike[0]) < 0.0).all()
    assert alike[0, 1] > 0.4
