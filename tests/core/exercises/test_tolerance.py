"""Rooms for drift."""

import pytest

from noema.core.errors import BadExercise
from noema.core.exercises.catalogue import KINDS, usual_tolerance
from noema.core.exercises.levels import Level
from noema.core.exercises.tolerance import Tolerance


@pytest.mark.parametrize("kind", KINDS)
def test_every_kind_tightens_by_level_in_all_it_asks(kind):
    rooms = [usual_tolerance(kind, level) for level in Level]
    for name in ("hue", "value", "chroma"):
        sizes = [getattr(room, name) for room in rooms]
        if None not in sizes:
            assert sizes == sorted(set(sizes), reverse=True)
        else:
            assert sizes == [None] * 3


@pytest.mark.parametrize("rooms", [(0.0, 0.5, 1.0), (4.0, -1.0, 1.0), (4.0, 0.5, 90.0)])
def test_a_senseless_room_is_refused(rooms):
    hue, value, chroma = rooms
    with pytest.raises(BadExercise, match="choose one between"):
        Tolerance(hue=hue, value=value, chroma=chroma)
