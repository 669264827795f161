"""Exercises and choices kept as JSON come back the same."""

import json

import pytest

from noema.core.errors import BadFile
from noema.core.exercises.asked import Wanted
from noema.core.exercises.catalogue import KINDS
from noema.core.exercises.levels import Level
from noema.core.pigments.shelf import builtin_set
from noema.formats.asked_json import (
    asked_from_json,
    asked_to_json,
    wanted_from_json,
    wanted_to_json,
)
from tests.core.exercises.grounds import asked


@pytest.mark.parametrize("kind", KINDS)
def test_an_exercise_comes_back(kind):
    before = asked_to_json(asked(kind, Wanted(), "split-six+black"))
    kept = json.loads(json.dumps(before))
    after = asked_from_json(kept, builtin_set("split-six+black"))
    again = asked_to_json(after)
    for cell, same in zip(again["cells"], before["cells"], strict=True):
        # The notation is rounded from numbers that are themselves rounded when kept.
        assert (cell["hvc"].pop("hue") == "N") == (same["hvc"].pop("hue") == "N")
        assert cell.pop("parts") == pytest.approx(same.pop("parts"), rel=1e-4)
    assert again == before


def test_choices_come_back():
    wanted = Wanted(
        steps=7,
        tubes=("rose", "white"),
        targets=((50.0, 1.0, 2.0),),
        tints=True,
        level=Level.ADVANCED,
    )
    kept = json.loads(json.dumps(wanted_to_json(wanted)))
    assert wanted_from_json(kept) == wanted
    assert set(kept) == {"steps", "tubes", "targets", "tints", "level"}


def test_an_unknown_choice_is_refused():
    with pytest.raises(BadFile, match="wings"):
        wanted_from_json({"wings": 2})
