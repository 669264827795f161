"""Exercises made from what a picture tells."""

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.colour.names import USUAL_HUES
from noema.core.errors import BadExercise
from noema.core.exercises.asked import CellRole, Ground
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.from_picture import PictureFacts
from noema.core.exercises.media import Medium
from noema.core.pigments.shelf import builtin_set
from tests.core.exercises.grounds import asked, choose

SPOTS = ((45.0, 40.0, 30.0), (60.0, 15.0, 25.0), (70.0, -5.0, 20.0), (40.0, 5.0, -20.0))
FACTS = PictureFacts(
    spots=SPOTS, spot=SPOTS[0], pair=("ultramarine", "warm-yellow"), values=(2.0, 5.5, 8.6)
)
GROUND = Ground(paints=builtin_set("split-six"), table=USUAL_HUES)


def from_picture(facts):
    """What each kind makes of a picture, by its name."""
    return {
        kind.name: kind.asked(chosen, GROUND)
        for kind in KINDS.values()
        if kind.from_picture is not None and (chosen := kind.from_picture(facts)) is not None
    }


def test_five_kinds_are_made_from_a_picture():
    made = from_picture(FACTS)
    assert set(made) == {
        "colour-match",
        "family-chart",
        "progression",
        "value-scale",
        "neutral-degrees",
    }
    for exercise in made.values():
        assert len(exercise.cells) > 2


def test_a_match_asks_for_the_spots_and_prints_them():
    match = from_picture(FACTS)["colour-match"]
    assert match.shows_targets
    away = ciede2000([cell.lab for cell in match.cells], SPOTS)
    assert np.median(away) < 3.0
    assert "colour-match" not in from_picture(PictureFacts(spots=SPOTS[:3]))


def test_a_progression_starts_from_the_spot():
    progression = from_picture(FACTS)["progression"]
    assert "the spot" in progression.title
    with pytest.raises(BadExercise, match="one colour"):
        asked("progression", choose(spot=SPOTS), "split-six")
    with pytest.raises(BadExercise, match="this one is white"):
        asked("progression", choose(spot=((96.0, -0.7, 1.3),)), "split-six")


def test_a_value_plan_asks_for_the_picture_s_own_values():
    plan = from_picture(FACTS)["value-scale"]
    values = [cell.hvc.value for cell in plan.cells]
    assert values == pytest.approx([2.0, 5.5, 8.6], abs=0.15)
    plainly = kind_of("value-scale")
    chosen = plainly.from_picture(FACTS)
    plain = plainly.asked_plainly(chosen, Medium.PENCIL)
    assert [cell.hvc.value for cell in plain.cells] == pytest.approx([2.0, 5.5, 8.6], abs=0.02)
    with pytest.raises(BadExercise, match="the same"):
        asked("value-scale", choose(values=((50.0, 0, 0), (50.5, 0, 0))), "split-six")
    with pytest.raises(BadExercise, match="2 to 11 values, not 1"):
        asked("value-scale", choose(values=((50.0, 0, 0),)), "split-six")


def test_degrees_of_neutral_lie_where_the_picture_has_them():
    """The more chroma a colour has left, the nearer its cell to the pure end."""
    rows = from_picture(FACTS)["neutral-degrees"].bands
    for band in rows:
        roles = [cell.role for cell in band.cells]
        assert roles[0] is CellRole.END
        assert roles[-1] is CellRole.NEUTRAL
        chroma = [cell.hvc.chroma for cell in band.cells]
        assert chroma == sorted(chroma, reverse=True)
        for cell in band.cells[1:-1]:
            assert cell.hvc.chroma / chroma[0] == pytest.approx(
                float(cell.label[:-1]) / 100, abs=0.1
            )
    with pytest.raises(BadExercise, match="None of these colours"):
        asked("neutral-degrees", choose(colours=((50.0, 0.0, 0.0),)), "split-six")
