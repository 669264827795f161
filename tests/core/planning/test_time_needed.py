"""Time for a sheet."""

import pytest

from noema.core.exercises.media import Medium
from noema.core.planning.time_needed import time_needed
from tests.core.exercises.grounds import asked, choose


def test_more_cells_and_more_tubes_take_longer():
    minutes = [
        time_needed(asked(kind, wanted, "split-six"), Medium.ACRYLIC).painting_min
        for kind, wanted in (
            ("colour-wheel", choose(hues=6)),
            ("colour-wheel", choose(hues=12)),
            ("colour-wheel", choose(hues=12, rings=("tint-in", "neutral-2"))),
        )
    ]
    assert minutes == sorted(set(minutes))
    assert all(minute % 5 == 0 for minute in minutes)


@pytest.mark.parametrize(
    ("medium", "said"),
    [
        (Medium.ACRYLIC, "dry in 20 to 60 minutes"),
        (Medium.OIL, "dry in 2 to 7 days"),
        (Medium.PENCIL, "nothing to dry"),
    ],
)
def test_drying_is_said_in_a_painters_units(medium, said):
    wheel = asked("colour-wheel", choose(hues=12, rings=("tint-in",)), "split-six")
    assert said in time_needed(wheel, medium).said
