"""The record folds to the state now; undo takes back exactly one decision."""

import random

import pytest

from noema.core.errors import Refused
from noema.core.judging.review import Decision, ReviewState, Verb, review_of
from noema.core.judging.verdict import Verdict

UNDO = Decision(verb=Verb.UNDO)
SOME = [
    Decision(verb=Verb.ACCEPT),
    Decision(verb=Verb.SEND_BACK, sentence="A touch darker."),
    Decision(verb=Verb.LEAVE_OUT, cell="c2"),
    Decision(verb=Verb.COUNT, cell="c2"),
    Decision(verb=Verb.OVERRULE, cell="c3", verdict=Verdict.HOLDS),
    Decision(verb=Verb.OVERRULE, cell="c3", verdict=Verdict.OFF),
]


@pytest.mark.parametrize("seed", range(20))
def test_undoing_anything_gives_back_the_state_before(seed):
    rng = random.Random(seed)
    record = [rng.choice([*SOME, UNDO]) for _ in range(12)]
    for decision in SOME:
        assert review_of([*record, decision, UNDO]) == review_of(record)


def test_undoing_an_empty_record_changes_nothing():
    assert review_of([UNDO, UNDO]) == review_of([])


def test_the_last_word_counts():
    review = review_of(SOME)
    assert review.state is ReviewState.SENT_BACK
    assert review.sentence == "A touch darker."
    assert review.left_out == frozenset()
    assert review.overruled == {"c3": Verdict.OFF}


@pytest.mark.parametrize(
    "wrong",
    [
        {"verb": Verb.SEND_BACK, "sentence": "  "},
        {"verb": Verb.LEAVE_OUT},
        {"verb": Verb.OVERRULE, "cell": "c1"},
        {"verb": Verb.OVERRULE, "cell": "c1", "verdict": Verdict.LOOK},
    ],
)
def test_half_a_decision_is_refused(wrong):
    with pytest.raises(Refused):
        Decision(**wrong)
