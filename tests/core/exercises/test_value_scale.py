"""What a value scale of no paints in particular expects."""

import pytest

from noema.core.errors import BadExercise
from noema.core.exercises.catalogue import kind_of, usual_tolerance
from noema.core.exercises.levels import Level
from noema.core.exercises.media import REACH, Medium, cautions
from tests.core.exercises.grounds import plain


@pytest.mark.parametrize("steps", range(5, 12))
@pytest.mark.parametrize("medium", Medium)
def test_steps_are_even_from_end_to_end(steps, medium):
    values = [cell.hvc.value for cell in plain(steps, medium).cells]
    jumps = [after - before for before, after in zip(values, values[1:], strict=False)]
    assert len(values) == steps
    assert jumps == pytest.approx([jumps[0]] * (steps - 1), abs=0.001)
    reach = REACH[medium]
    assert (values[0], values[-1]) == pytest.approx((reach.darkest, reach.lightest), abs=0.001)


@pytest.mark.parametrize("steps", [-1, 0, 4, 12, 40])
def test_other_numbers_of_steps_are_refused(steps):
    with pytest.raises(BadExercise, match="5 to 11"):
        plain(steps)


def test_a_scale_of_a_hue_needs_paints():
    scale = kind_of("value-scale")
    with pytest.raises(BadExercise, match="Choose a set"):
        scale.asked_plainly(scale.chosen({"hue": "red"}), Medium.ACRYLIC)


def test_levels_tighten():
    rooms = [usual_tolerance("value-scale", level) for level in Level]
    assert [room.value for room in rooms] == [0.7, 0.5, 0.3]
    assert all(room.hue is None and room.chroma is None for room in rooms)


@pytest.mark.parametrize("medium", Medium)
def test_every_medium_has_two_lines_and_a_caution(medium):
    assert len(plain(5, medium).how_to) == 2
    assert "label" in cautions(medium)[0]
