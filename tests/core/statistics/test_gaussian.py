"""Gaussian formulas against what they stand for, worked out the long way."""

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.statistics.gaussian import (
    leave_one_out,
    negative_log_likelihood,
    posterior_mean,
    squared_exponential,
    updated,
)

RNG = default_rng(7)
PLACES = RNG.uniform(0.0, 100.0, (9, 2))
SHARED = 2.0 * squared_exponential(PLACES[:, None] - PLACES[None], 30.0)
NOISE = RNG.uniform(0.1, 0.5, 9)
VALUES = RNG.normal(size=(9, 3))


def test_a_correlation_falls_with_distance_over_its_reach():
    apart = np.array([[0.0, 0.0], [30.0, 0.0], [0.0, 60.0]])
    assert squared_exponential(apart, 30.0) == pytest.approx(np.exp([0.0, -0.5, -2.0]))
    assert squared_exponential(apart, (30.0, 60.0))[2] == pytest.approx(np.exp(-0.5))


def test_the_likelihood_is_that_of_the_normal_distribution():
    covariance = SHARED + np.diag(NOISE)
    each = [
        value @ np.linalg.inv(covariance) @ value + np.log(np.linalg.det(covariance))
        for value in VALUES.T
    ]
    assert negative_log_likelihood(VALUES[:, 0], covariance) == pytest.approx(each[0])
    assert negative_log_likelihood(VALUES, covariance) == pytest.approx(np.mean(each))


@pytest.mark.parametrize("left_out", range(9))
def test_leaving_one_out_is_fitting_all_others(left_out):
    found = leave_one_out(SHARED, NOISE, VALUES)
    others = [n for n in range(9) if n != left_out]
    known = np.linalg.inv((SHARED + np.diag(NOISE))[np.ix_(others, others)])
    near = SHARED[left_out, others]
    expected = near @ known @ VALUES[others]
    variance = SHARED[left_out, left_out] + NOISE[left_out] - near @ known @ near
    assert VALUES[left_out] - found.miss[left_out] == pytest.approx(expected)
    assert found.variance[left_out] == pytest.approx(variance)


def test_a_posterior_mean_is_that_of_the_conditional_distribution():
    mean = posterior_mean(SHARED, np.diag(NOISE), VALUES[:, 0])
    # The same through precisions: equation 2.8 with a design of ones.
    precision = np.linalg.inv(SHARED) + np.diag(1.0 / NOISE)
    assert mean == pytest.approx(np.linalg.solve(precision, VALUES[:, 0] / NOISE))


def test_an_update_by_values_at_once_is_that_of_one_after_another():
    design, wanted = RNG.normal(size=(5, 3)), RNG.normal(size=5)
    error = np.diag(RNG.uniform(0.5, 2.0, 5))
    mean, covariance = np.ones(3), np.diag([1.0, 2.0, 3.0])
    at_once = updated(mean, covariance, design, wanted, error)
    for n in range(5):
        mean, covariance = updated(
            mean, covariance, design[n : n + 1], wanted[n : n + 1], error[n : n + 1, n : n + 1]
        )
    assert at_once[0] == pytest.approx(mean)
    assert at_once[1] == pytest.approx(covariance)
