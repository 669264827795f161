"""What cells share, taken off before one is held against its step."""

import numpy as np
import pytest

from noema.core.judging.shared_drift import along_a_row, shared_drift

RNG = np.random.default_rng(4)
GREENS = np.array([45.0, -35.0, 20.0]) + RNG.normal(0.0, 3.0, (6, 3))
REDS = np.array([45.0, 50.0, 25.0]) + RNG.normal(0.0, 3.0, (6, 3))
ASKED = np.concatenate([GREENS, REDS])
IS_GREEN = np.arange(12) < 6
SIGMA = np.full(12, 4.0)
PUSHED = np.where(IS_GREEN[:, None], (2.0, 9.0, -6.0), 0.0)


def drift_of(painted, sigma=SIGMA):
    return shared_drift(ASKED, painted, sigma, sigma)


@pytest.mark.parametrize("cast", [(3.0, 2.0, 6.0), (-4.0, 3.0, -5.0)])
def test_what_all_cells_stray_is_mostly_the_lamps(cast):
    left = np.abs(drift_of(ASKED + cast).lab - cast)
    assert (left < 0.5 * np.abs(cast)).all()


def test_alike_colours_stray_alike_and_others_dont():
    shared = drift_of(ASKED + PUSHED).lab
    assert np.abs(shared[IS_GREEN] - PUSHED[IS_GREEN]).max() < 3.0
    assert np.abs(shared[~IS_GREEN]).max() < 1.0


def test_a_cell_is_held_against_the_others_and_hardly_pulls_them():
    painted = ASKED.copy()
    painted[2] += (15.0, 30.0, -25.0)
    assert np.abs(drift_of(painted).lab).max() < 1.5


def test_where_the_reader_is_sure_a_drift_is_the_painters():
    sure = drift_of(ASKED + PUSHED, np.full(12, 0.4)).lab
    assert np.abs(sure).max() < 1.0


def test_a_colour_among_its_like_is_surer_than_one_by_itself():
    alone = np.concatenate([ASKED, [[30.0, 15.0, -45.0]]])
    found = shared_drift(alone, alone, np.full(13, 4.0), np.full(13, 4.0))
    for left in (found.left_of_value, found.left_of_colour):
        assert left[-1] > 1.2 * left[:-1].max()
        assert left.max() <= 1.0


def test_one_cell_shares_nothing():
    found = shared_drift(ASKED[:1], ASKED[:1] + 5.0, SIGMA[:1], SIGMA[:1])
    assert not found.lab.any()
    assert found.left_of_value == pytest.approx(1.0, abs=0.05)


def test_a_cell_without_doubt_is_no_riddle():
    found = drift_of(ASKED + PUSHED, np.zeros(12))
    assert np.isfinite(found.lab).all()


def test_along_a_row_neighbours_err_together():
    row = np.linspace([30.0, 10.0, -50.0], [90.0, 0.0, -5.0], 7)
    covariance = along_a_row(row, np.full(7, 3.0), np.full(7, 4.0))
    sigma = np.sqrt(np.diagonal(covariance))
    alike = covariance / np.outer(sigma, sigma)
    assert (np.linalg.eigvalsh(covariance) > 0.0).all()
    assert (np.diff(alike[0]) < 0.0).all()
    assert alike[0, 1] > 0.4
