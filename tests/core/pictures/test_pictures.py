"""Values, spots and few tubes of pictures whose truth is known."""

from itertools import combinations

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.colour.names import USUAL_HUES
from noema.core.colour.value import value_to_lab
from noema.core.errors import Refused
from noema.core.pictures.colours import colours_of_picture, shares_of_colours
from noema.core.pictures.few_tubes import WITHIN, few_tubes
from noema.core.pictures.spots import spot_at
from noema.core.pictures.values import STEPS, value_plan
from noema.core.pigments.shelf import builtin_set
from tests.core.pictures.painted import painted, shown

SIX = builtin_set("split-six")


def greys(*values, rows=50):
    """Stripes of neutral values side by side, ten pixels each."""
    return shown(value_to_lab(np.repeat(values, 10))[None].repeat(rows, axis=0))


@pytest.mark.parametrize("steps", STEPS)
def test_the_share_of_each_value_is_the_area_it_takes(steps):
    values = [0.7, 1.5, 2.6, 3.4, 4.4, 5.3, 6.4, 7.7, 8.4, 9.4]
    plan = value_plan(colours_of_picture(greys(*values)), steps)
    assert len(plan.shares) == steps
    assert sum(one.share for one in plan.shares) == pytest.approx(1.0)
    for one in plan.shares:
        inside = sum(one.lowest <= value < one.highest for value in values) / len(values)
        assert one.share == pytest.approx(inside, abs=0.01)


def test_the_darkest_and_the_lightest_place_are_found():
    plan = value_plan(colours_of_picture(greys(5.0, 1.0, 6.0, 9.0, 4.0)), 5)
    assert plan.darkest[0] == pytest.approx(0.3, abs=0.08)
    assert plan.lightest[0] == pytest.approx(0.7, abs=0.08)


def test_a_large_picture_is_averaged_in_light():
    halves = np.array([[[100.0, 0.0, 0.0], [0.0, 0.0, 0.0]]])
    checked = shown(np.tile(halves, (800, 400, 1)))
    lab = colours_of_picture(checked).lab
    assert max(lab.shape[:2]) <= 400
    grey = lab[10, 10]
    assert 70.0 < grey[0] < 80.0  # half the light is L* 76, half the numbers 53


def test_a_spot_is_the_colour_that_is_there_and_its_recipe_gives_it():
    picture = painted(SIX, ["warm-yellow", "scarlet"], 3)
    colours = colours_of_picture(picture)
    for row, column in ((2, 7), (11, 20), (23, 0)):
        spot = spot_at(colours, (column + 0.5) / 24, (row + 0.5) / 24, SIX)
        assert ciede2000(spot.lab, colours.lab[6 * row + 3, 6 * column + 3]) < 1.0
        assert spot.recipe.away < 4.0
    with pytest.raises(Refused, match="from 0 to 1"):
        spot_at(colours, 1.2, 0.5, SIX)


def test_shares_of_colours_make_up_the_whole():
    shares = shares_of_colours(colours_of_picture(greys(2.0, 2.0, 8.0)))
    assert shares.share.sum() == pytest.approx(1.0)
    assert shares.share[0] == pytest.approx(2.0 / 3.0)


PAIRS = list(combinations([tube.name for tube in SIX.colours], 2))


@pytest.mark.parametrize("pair", PAIRS[::2], ids="-".join)
def test_the_pair_a_picture_was_painted_with_is_named_first(pair):
    shares = shares_of_colours(colours_of_picture(painted(SIX, pair, 7)))
    best, second, *rest = few_tubes(shares, SIX, 2, USUAL_HUES)
    assert {tube.name for tube in best.tubes} == set(pair)
    assert best.share_within > 0.9
    assert best.median_de < WITHIN / 2
    assert second.share_within <= best.share_within
    assert [one.share_within for one in rest] == sorted(
        (one.share_within for one in rest), reverse=True
    )


def test_what_a_choice_loses_is_said():
    picture = painted(SIX, ["scarlet", "rose"], 5)
    shares = shares_of_colours(colours_of_picture(picture))
    lost = {
        frozenset(tube.name for tube in one.tubes): one.lost
        for one in few_tubes(shares, SIX, 2, USUAL_HUES)
    }
    assert lost[frozenset(("scarlet", "rose"))] == ""
    assert "red" in lost[frozenset(("ultramarine", "phthalo-blue"))]


def test_more_tubes_reach_no_less():
    picture = painted(SIX, ["lemon-yellow", "rose", "phthalo-blue"], 9)
    shares = shares_of_colours(colours_of_picture(picture))
    two, three = (few_tubes(shares, SIX, count, USUAL_HUES)[0] for count in (2, 3))
    assert three.share_within > two.share_within
    assert {tube.name for tube in three.tubes} == {"lemon-yellow", "rose", "phthalo-blue"}
    with pytest.raises(Refused, match="choose at most"):
        few_tubes(shares, builtin_set("three-printers"), 4, USUAL_HUES)
