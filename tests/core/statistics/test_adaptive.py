"""A threshold is found in few answers, and the doubt about it is honest."""

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.statistics.adaptive import begin

TRUTHS = np.geomspace(0.15, 1.2, 40)


def answered(truth, seed, answers=40, guess=0.25):
    """An observer of a Weibull law answers what is asked."""
    rng, quest = default_rng(seed), begin(guess=guess, lowest=0.05, highest=3.0, usual=0.4)
    for _ in range(answers):
        level = quest.next_level()
        sees = guess + (1.0 - guess - 0.02) * (1.0 - np.exp(-((level / truth) ** 2.0)))
        quest = quest.after(level, right=bool(rng.random() < sees))
    return quest.found()


def test_forty_answers_find_most_thresholds_within_a_quarter():
    found = [answered(truth, seed) for seed, truth in enumerate(TRUTHS)]
    ratios = np.array([one.threshold / truth for one, truth in zip(found, TRUTHS, strict=True)])
    assert np.mean(np.abs(ratios - 1.0) <= 0.25) >= 0.8
    holds = [one.low <= truth <= one.high for one, truth in zip(found, TRUTHS, strict=True)]
    assert np.mean(holds) >= 0.85


def test_more_answers_leave_less_doubt():
    assert answered(0.4, 3, 60).sigma_log < answered(0.4, 3, 20).sigma_log < 0.9


def test_who_only_guesses_is_known_to_be_unsure_of():
    rng, quest = default_rng(1), begin(guess=0.25, lowest=0.05, highest=3.0, usual=0.4)
    for _ in range(40):
        quest = quest.after(quest.next_level(), right=bool(rng.random() < 0.25))
    assert quest.found().high > 2.8


def test_the_share_right_is_chance_below_and_nearly_all_above():
    quest = begin(guess=0.5, lowest=0.05, highest=3.0, usual=0.4)
    assert quest.after(0.001, right=True).found().threshold == pytest.approx(
        quest.found().threshold, rel=0.01
    )
    assert quest.after(3.0, right=False).found().threshold > quest.found().threshold


def test_an_earlier_result_is_begun_from_a_little_less_surely():
    before = answered(0.4, 5)
    again = begin(guess=0.25, lowest=0.05, highest=3.0, usual=1.5, before=before).found()
    assert again.threshold == pytest.approx(before.threshold, rel=0.1)
    assert again.sigma_log > before.sigma_log
