"""Robust scale and fits, with values among them that belong to something else."""

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.statistics.robust import quick_sigma, robust_sigma, trimmed_fit


@pytest.mark.parametrize("sigma_of", [robust_sigma, quick_sigma])
def test_a_tenth_of_strays_hardly_moves_sigma(sigma_of):
    values = default_rng(1).normal(0.0, 2.0, 5000)
    values[::10] += 500.0
    assert float(sigma_of(values)) == pytest.approx(2.0, rel=0.2)


def test_a_trimmed_fit_finds_the_line_most_values_lie_on():
    rng = default_rng(2)
    x = np.linspace(-1.0, 1.0, 200)
    terms = np.column_stack([np.ones_like(x), x])
    values = terms @ np.array([[1.0, 0.5], [2.0, -1.0]]) + rng.normal(0.0, 0.01, (200, 2))
    values[::9] += 3.0
    found = trimmed_fit(terms, values, far=3.0, least=1e-3, rounds=6)
    assert found.coefficients == pytest.approx(np.array([[1.0, 0.5], [2.0, -1.0]]), abs=0.01)
    assert found.sigma == pytest.approx(0.01, rel=0.4)
    plain = np.linalg.lstsq(terms, values)[0]
    assert abs(plain[0, 0] - 1.0) > 0.2
