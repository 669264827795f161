"""Progress is only called progress when the camera could tell."""

import pytest

from noema.core.exercises.levels import Key, Level
from noema.core.judging.judge import judge
from noema.core.judging.judgement import FindingKind
from noema.core.judging.review import Review, ReviewState
from noema.core.judging.tally import tally_of
from noema.core.judging.verdict import Verdict
from noema.core.progress.states import PhotoState, WorkState, work_state
from noema.core.progress.value_accuracy import accuracy_of, change_words, gained
from tests.core.exercises.grounds import plain
from tests.core.judging.scales import read_as

SCALE = plain(8)


def judged(off_by: float, sigma: float = 0.05):
    values = [2.5 + n + off_by * (-1) ** n for n in range(8)]
    return tally_of(judge(read_as(values, sigma), SCALE, Key.NAMED, Level.BEGINNER))


def test_accuracy_is_the_mean_drift_of_what_counts():
    accuracy = accuracy_of(judged(0.4), Review())
    assert accuracy.mean_drift == pytest.approx(0.4, abs=0.06)
    assert (accuracy.holds, accuracy.counted) == (8, 8)


def test_the_teachers_word_counts_first():
    review = Review(left_out=frozenset({"c1"}), overruled={"c2": Verdict.OFF})
    accuracy = accuracy_of(judged(0.1), review)
    assert (accuracy.holds, accuracy.counted) == (6, 7)


def test_a_clear_gain_is_said_and_noise_is_not():
    def change(before, after, sigma):
        return change_words(
            accuracy_of(judged(before, sigma), Review()),
            accuracy_of(judged(after, sigma), Review()),
        )

    assert "closer" in change(0.5, 0.1, 0.1)
    assert "further out" in change(0.1, 0.5, 0.1)
    assert change(0.30, 0.28, 0.1) == "About as close as the last one."
    assert change_words(None, None).startswith("Too little")


def test_troubles_that_are_gone_are_said():
    assert gained([FindingKind.ORDER], []) == ["the steps run in order"]
    assert gained([FindingKind.ORDER], [FindingKind.ORDER]) == []


def test_work_states():
    assert work_state(False, None, None) is WorkState.NOT_PRINTED
    assert work_state(True, None, None) is WorkState.WAITING
    assert work_state(True, PhotoState.READING, None) is WorkState.READING
    assert work_state(True, PhotoState.UNREADABLE, None) is WorkState.UNREADABLE
    assert work_state(True, PhotoState.READ, ReviewState.OPEN) is WorkState.TO_REVIEW
    assert work_state(True, PhotoState.READ, ReviewState.SENT_BACK) is WorkState.SENT_BACK
    assert work_state(True, PhotoState.READ, ReviewState.ACCEPTED) is WorkState.ACCEPTED
