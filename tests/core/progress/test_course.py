"""Courses of skills: laws of the test, and known curves with known noise."""

import numpy as np
import pytest

from noema.core.progress.course import Point, Trend, _level_chances, course

RISING = np.linspace(1.0, 3.2, 12)
FLAT = np.full(12, 2.0)


def points(levels, noise, rng, sigma=0.25):
    return [
        Point(week=n + 1, points=float(level + rng.normal(0.0, noise)), sigma=sigma)
        for n, level in enumerate(levels)
    ]


def share(levels, way, trials=150, noise=0.4):
    rng = np.random.default_rng(3)
    return np.mean([course(points(levels, noise, rng)).way is way for _ in range(trials)])


@pytest.mark.parametrize(
    "levels",
    [RISING, np.minimum(3.2, 1.0 + np.arange(12) * 0.4), np.repeat([1.2, 3.0], 6)],
    ids=["climbs", "flattens", "jumps"],
)
def test_a_known_rise_is_called_one(levels):
    assert share(levels, Trend.RISING) >= 0.9
    assert share(levels[::-1], Trend.FALLING) >= 0.9


def test_noise_isnt_called_progress():
    assert share(FLAT, Trend.RISING) <= 0.05
    assert share(FLAT, Trend.FALLING) <= 0.05


def test_a_rise_that_was_lost_is_a_fall():
    assert share(np.concatenate([RISING, np.full(6, 1.2)]), Trend.FALLING) >= 0.9


@pytest.mark.parametrize("count", [1, 2])
def test_of_few_sheets_nothing_is_said(count):
    found = course([Point(week=n, points=float(n), sigma=0.1) for n in range(count)])
    assert found.way is Trend.UNSAID
    assert found.since is None


def test_a_doubtful_attempt_weighs_little():
    sure = [Point(week=n, points=2.0, sigma=0.1) for n in range(1, 6)]
    found = course([*sure, Point(week=6, points=4.0, sigma=2.0)])
    assert found.way is Trend.STEADY
    assert found.level == pytest.approx(2.0, abs=0.1)


def test_steady_since_is_said_in_weeks():
    levels = [1.0, 1.0, 1.0, 3.0, 3.0, 3.0, 3.0, 3.0]
    found = course([Point(week=n, points=p, sigma=0.1) for n, p in enumerate(levels, start=1)])
    assert found.way is Trend.RISING
    assert found.since == 4


def test_the_band_holds_the_level_and_the_curve_never_falls_while_rising():
    found = course(points(RISING, 0.3, np.random.default_rng(5)))
    assert all(a <= b for a, b in zip(found.curve, found.curve[1:], strict=False))
    assert all(
        low <= level <= high
        for low, level, high in zip(found.low, found.curve, found.high, strict=True)
    )


@pytest.mark.parametrize("k", range(1, 30))
def test_level_chances_are_chances(k):
    assert sum(_level_chances(k)) == pytest.approx(1.0)
    # The mean number of levels of k like values is the harmonic number (Bartholomew 1959).
    mean = sum(n * chance for n, chance in enumerate(_level_chances(k), start=1))
    assert mean == pytest.approx(sum(1 / n for n in range(1, k + 1)))
