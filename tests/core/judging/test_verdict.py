"""A verdict only where the doubt allows one."""

import pytest

from noema.core.judging.verdict import Verdict, verdict_of

HOLDS, DRIFTS, OFF, LOOK = Verdict

TABLE = [
    (0.0, 0.1, HOLDS),
    (-0.4, 0.1, HOLDS),
    (0.5, 0.01, LOOK),
    (0.75, 0.1, DRIFTS),
    (-0.75, 0.1, DRIFTS),
    (0.75, 0.6, LOOK),
    (1.0, 0.05, DRIFTS),
    (1.4, 0.1, OFF),
    (-3.0, 0.6, OFF),
    (0.0, 0.9, LOOK),
]


@pytest.mark.parametrize(("drift", "sigma", "expected"), TABLE)
def test_verdicts(drift, sigma, expected):
    assert verdict_of(drift, sigma, 0.5) is expected


@pytest.mark.parametrize("sigma", [0.05, 0.2, 0.5])
def test_direction_doesnt_matter(sigma):
    drifts = [n / 20 for n in range(60)]
    assert [verdict_of(d, sigma, 0.5) for d in drifts] == [
        verdict_of(-d, sigma, 0.5) for d in drifts
    ]
