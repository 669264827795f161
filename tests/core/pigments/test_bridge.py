"""Bridges and triangles."""

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.errors import BadPaint
from noema.core.pigments.bridge import Thinned, bridge, triangle, triangle_rows
from noema.core.pigments.cautions import cautions_of, pigment_caution
from noema.core.pigments.drying import Binder
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.shelf import TUBES

SCARLET, PHTHALO, LEMON = (TUBES[n] for n in ("scarlet", "phthalo-blue", "lemon-yellow"))
WHITE = TUBES["titanium-white"]


@pytest.mark.parametrize("steps", [3, 9, 15])
@pytest.mark.parametrize("thinned", [Thinned(), Thinned(white=WHITE, white_volumes=3.0)])
def test_steps_are_equally_far_apart_and_start_and_end_at_the_tubes(steps, thinned):
    made = bridge(SCARLET, PHTHALO, steps, thinned)
    labs = np.array([step.lab for step in made.steps])
    apart = ciede2000(labs[1:], labs[:-1])
    assert len(made.steps) == steps
    assert made.steps[0].amounts == (1.0, 0.0)
    assert made.steps[-1].amounts == (0.0, 1.0)
    if steps == 15:
        assert apart.max() < 1.15 * apart.min()


def test_the_neutral_is_the_least_intense_mix_and_says_its_parts():
    made = bridge(SCARLET, PHTHALO, 9)
    assert made.neutral.hvc.chroma <= min(step.hvc.chroma for step in made.steps) + 1e-9
    assert made.neutral.hvc.chroma < 0.6
    assert made.neutral.amounts[0] > 4 * made.neutral.amounts[1]


def test_water_thins_over_paper():
    washed = bridge(SCARLET, PHTHALO, 5, Thinned(coats=0.03), Binder.WATERCOLOUR.dry)
    opaque = bridge(SCARLET, PHTHALO, 5, surface=Binder.WATERCOLOUR.dry)
    for thin, thick in zip(washed.steps, opaque.steps, strict=True):
        assert thin.hvc.value > thick.hvc.value


def test_a_bridge_needs_two_tubes_and_sensible_steps():
    with pytest.raises(BadPaint, match="two different tubes"):
        bridge(SCARLET, SCARLET, 5)
    with pytest.raises(BadPaint, match="3 to 15 steps"):
        bridge(SCARLET, PHTHALO, 2)
    with pytest.raises(BadPaint, match="three different tubes"):
        triangle((SCARLET, PHTHALO, SCARLET))


def test_a_triangle_has_the_tubes_at_its_corners():
    steps = triangle((SCARLET, PHTHALO, LEMON))
    rows = triangle_rows(steps)
    assert [len(row) for row in rows] == [1, 2, 3, 4, 5, 6, 7]
    corners = (rows[0][0], rows[-1][0], rows[-1][-1])
    for corner, tube in zip(corners, (SCARLET, PHTHALO, LEMON), strict=True):
        assert corner.lab == pytest.approx(mix_labs([tube], [1]))
    assert sum(rows[4][2].amounts) == pytest.approx(1.0)


def test_cautions_follow_the_pigments_and_the_medium():
    assert pigment_caution(TUBES["rose"]) == ""
    assert pigment_caution(TUBES["cobalt-blue"]).startswith("Holds cobalt")
    said = cautions_of([TUBES["cerulean"], TUBES["raw-umber"], LEMON], Binder.OIL)
    assert said[0].startswith("Read the label")
    assert any("cobalt (cerulean)" in line for line in said)
    assert any("manganese (raw umber)" in line for line in said)
    assert any("Oily rags" in line for line in said)
    assert any("rinse water" in line for line in cautions_of([LEMON], Binder.ACRYLIC))
