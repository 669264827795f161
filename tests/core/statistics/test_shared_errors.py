"""What groups of values tell where each errs together."""

import numpy as np
import pytest

from noema.core.statistics.shared_errors import Told, Values, told_by

SHARED = np.array([[0.5, 0.1], [0.1, 0.3]])


@pytest.fixture
def groups():
    rng = np.random.default_rng(3)
    return [
        [
            Values(
                values=rng.normal(size=4),
                design=rng.normal(size=(4, 3)),
                shared=rng.normal(size=(4, 2)),
                error=np.diag(rng.uniform(0.1, 0.4, 4)),
            )
            for _ in range(size)
        ]
        for size in (3, 2)
    ]


def all_at_once(groups, prior):
    """Mean and covariance by the whole covariance of all values."""
    every = [one for group in groups for one in group]
    design = np.vstack([one.design for one in every])
    values = np.concatenate([one.values for one in every])
    whole = np.zeros((len(values), len(values)))
    start = 0
    for group in groups:
        shared = np.vstack([one.shared for one in group])
        stop = start + len(shared)
        whole[start:stop, start:stop] = shared @ SHARED @ shared.T
        for one in group:
            end = start + len(one.values)
            whole[start:end, start:end] += one.error
            start = end
    gain = prior @ design.T @ np.linalg.inv(design @ prior @ design.T + whole)
    return gain @ values, prior - gain @ design @ prior


def test_groups_tell_what_all_values_together_do(groups):
    prior = np.diag([1.0, 2.0, 0.5])
    told = Told.of(np.zeros(3), prior)
    for group in groups:
        told += told_by(group, SHARED)
    mean, covariance = told.moments()
    expected_mean, expected_covariance = all_at_once(groups, prior)
    assert mean == pytest.approx(expected_mean)
    assert covariance == pytest.approx(expected_covariance)


def test_one_more_error_on_all_adds_its_covariance():
    told = Told.of(np.array([1.0, 2.0]), np.diag([0.5, 1.0]))
    mean, covariance = told.blurred(SHARED).moments()
    assert mean == pytest.approx([1.0, 2.0])
    assert covariance == pytest.approx(np.diag([0.5, 1.0]) + SHARED)


def test_what_is_not_told_stays_untold_when_blurred():
    told = Told(precision=np.diag([4.0, 0.0]), weighted=np.array([8.0, 0.0])).blurred(SHARED)
    assert told.precision[1] == pytest.approx([0.0, 0.0])
    assert told.precision[0, 0] == pytest.approx(1.0 / (0.25 + 0.5))
