"""Exercises kept as JSON come back the same."""

import json

import pytest

from noema.core.exercises.catalogue import KINDS
from noema.core.pigments.shelf import builtin_set
from noema.formats.asked_json import asked_from_json, asked_to_json
from tests.core.exercises.grounds import asked, choose


@pytest.mark.parametrize("kind", KINDS)
def test_an_exercise_comes_back(kind):
    before = asked_to_json(asked(kind, choose(), "split-six+black"))
    kept = json.loads(json.dumps(before))
    after = asked_from_json(kept, builtin_set("split-six+black"))
    again = asked_to_json(after)
    for cell, same in zip(again["cells"], before["cells"], strict=True):
        # The notation is rounded from numbers that are themselves rounded when kept.
        assert (cell["hvc"].pop("hue") == "N") == (same["hvc"].pop("hue") == "N")
        assert cell.pop("parts") == pytest.approx(same.pop("parts"), rel=1e-4)
    assert again == before
