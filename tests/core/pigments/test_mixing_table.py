"""How real tubes behave: each row of the painters' table, with a margin.

Hue ranges are in hue100: red 0-10, yellow-red 10-20, yellow 20-30, green-yellow 30-40, green 40-50,
blue-green 50-60, blue 60-70, purple-blue 70-80, purple 80-90, red-purple 90-100.
"""

import pytest

from noema.core.pigments.shelf import TUBES
from tests.core.pigments.paint import least_chroma, mixed, most_intense, near, way

REDS_FOR_VIOLET = ("rose", "crimson")
REDS_AGAINST_IT = ("scarlet", "cadmium-red-hue")
DEEP_BLUES = ("ultramarine", "cobalt-blue")
STRONG_HUES = ("lemon-yellow", "warm-yellow", "orange", "scarlet", "cadmium-red-hue")


def test_lemon_and_phthalo_make_a_far_cleaner_green_than_warm_yellow_and_ultramarine():
    clean = most_intense(way("lemon-yellow", "phthalo-blue"), 38, 48)
    dull = most_intense(way("warm-yellow", "ultramarine"), 30, 48)
    assert clean > 6.0
    assert clean > 1.5 * dull


def test_warm_yellow_and_ultramarine_make_a_dull_olive_green():
    olive = mixed("warm-yellow:2, ultramarine:1")
    assert near(olive.hue100, 27, 42)
    assert 1.0 < olive.chroma < 4.5
    assert olive.value < 4.5


@pytest.mark.parametrize("red", ["crimson", "rose"])
def test_warm_red_and_warm_yellow_make_the_more_intense_orange(red):
    intense = most_intense(way("warm-yellow", "scarlet"), 10, 17)
    duller = most_intense(way("lemon-yellow", red), 10, 17)
    assert intense > 12.5
    assert intense > duller + 1.5


@pytest.mark.parametrize("red", REDS_FOR_VIOLET)
def test_rose_or_crimson_and_ultramarine_make_a_violet(red):
    assert near(mixed(f"{red}:1, ultramarine:1").hue100, 79, 95)
    let_down = way(red, "ultramarine", white=5)
    assert most_intense(let_down, 80, 92) > 5.0


@pytest.mark.parametrize("red", REDS_AGAINST_IT)
@pytest.mark.parametrize("cool", REDS_FOR_VIOLET)
def test_orange_leaning_reds_make_no_violet_with_ultramarine(red, cool):
    brownish = most_intense(way(red, "ultramarine", white=5), 82, 92)
    clear = most_intense(way(cool, "ultramarine", white=5), 82, 92)
    assert brownish < clear - 1.5
    assert mixed(f"{red}:1, ultramarine:1").chroma < 1.5


@pytest.mark.parametrize("red", REDS_AGAINST_IT)
def test_with_cerulean_it_is_greyer_still(red):
    with_cerulean = way(red, "cerulean", white=2)
    with_ultramarine = way(red, "ultramarine", white=2)
    violet = (80, 92)
    assert most_intense(with_cerulean, *violet) < most_intense(with_ultramarine, *violet)


@pytest.mark.parametrize("yellow", ["lemon-yellow", "warm-yellow"])
@pytest.mark.parametrize("parts", [3, 4])
def test_magenta_and_a_little_yellow_make_red(yellow, parts):
    red = mixed(f"magenta:{parts}, {yellow}:1")
    assert near(red.hue100, 1, 9)
    assert red.chroma > 8.0


def test_ultramarine_and_burnt_sienna_make_a_steerable_grey():
    grey = way("burnt-sienna", "ultramarine")
    assert least_chroma(grey) < 0.7
    cool, warm = mixed("burnt-sienna:1, ultramarine:3"), mixed("burnt-sienna:3, ultramarine:1")
    assert near(cool.hue100, 65, 85)
    assert near(warm.hue100, 5, 25)


@pytest.mark.parametrize("red", ["crimson", "scarlet"])
def test_phthalo_green_and_a_strong_red_are_almost_black(red):
    darkest = min(way(red, "phthalo-green"), key=lambda mix: mix.chroma)
    assert darkest.chroma < 1.0
    assert darkest.value < 2.4


@pytest.mark.parametrize("red", ["scarlet", "cadmium-red-hue"])
@pytest.mark.parametrize("green", ["permanent-green-light", "viridian-hue", "phthalo-green"])
def test_red_and_green_pass_through_brown(red, green):
    browns = [
        mix
        for mix in way(red, green)
        if mix.hue100 is not None and near(mix.hue100, 7, 22) and 0.8 < mix.chroma < 6
    ]
    assert browns
    assert all(mix.value < 4.2 for mix in browns)


def test_orange_goes_through_green_with_phthalo_blue_and_grey_with_ultramarine():
    green = way("orange", "phthalo-blue", white=5)
    grey = way("orange", "ultramarine", white=5)
    assert most_intense(green, 33, 58) > 1.5
    assert most_intense(grey, 33, 58) < 1.0
    assert least_chroma(grey) < 1.0
    assert least_chroma(way("orange", "ultramarine")) < 0.4


@pytest.mark.parametrize("yellow", ["lemon-yellow", "warm-yellow"])
def test_violet_and_a_little_yellow_turn_to_burgundy_brown(yellow):
    violet, turned = mixed("dioxazine-violet:1"), mixed(f"dioxazine-violet:1, {yellow}:2")
    assert near(violet.hue100, 80, 90)
    assert near(turned.hue100, 92, 12)
    assert turned.value < 3.0


def test_yellow_and_a_touch_of_violet_turn_to_ochre():
    gold = mixed("warm-yellow:40, dioxazine-violet:1")
    assert near(gold.hue100, 15, 25)
    assert 4.0 < gold.chroma < 9.0
    assert 3.5 < gold.value < 6.5


@pytest.mark.parametrize("yellow", ["lemon-yellow", "warm-yellow"])
def test_yellow_and_black_make_olive_green(yellow):
    olive, bright = mixed(f"{yellow}:6, ivory-black:1"), mixed(f"{yellow}:1")
    assert near(olive.hue100, 25, 40)
    assert olive.hue100 > bright.hue100 + 3.0
    assert 1.0 < olive.chroma < 5.0


def test_a_little_white_makes_crimson_more_intense_and_much_white_less():
    plain, little, much = (mixed(f"crimson:1, white:{w}") for w in (0.001, 0.25, 30))
    assert little.chroma > plain.chroma + 0.7
    assert much.chroma < plain.chroma
    assert much.value > little.value > plain.value


@pytest.mark.parametrize("tube", [t for t in TUBES if t not in ("titanium-white", "ivory-black")])
def test_much_white_makes_any_hue_lighter_and_less_intense(tube):
    a_tint, paler, palest = (mixed(f"{tube}:1, white:{w}") for w in (20, 100, 500))
    assert a_tint.value < paler.value < palest.value
    assert a_tint.chroma > paler.chroma > palest.chroma


@pytest.mark.parametrize("tube", ["scarlet", "crimson", "rose", "magenta"])
def test_white_cools_reds_towards_violet(tube):
    masstone, tint = mixed(f"{tube}:1"), mixed(f"{tube}:1, white:10")
    assert near(tint.hue100, 80, masstone.hue100 - 0.3)


@pytest.mark.parametrize("tube", ["lemon-yellow", "warm-yellow"])
def test_white_cools_yellows_towards_green(tube):
    assert mixed(f"{tube}:1, white:10").hue100 > mixed(f"{tube}:1").hue100 + 1.0


@pytest.mark.parametrize("tube", DEEP_BLUES)
def test_white_shifts_deep_blues_towards_violet(tube):
    masstone, tint, pale = (mixed(f"{tube}:1, white:{w}").hue100 for w in (0.001, 10, 50))
    assert tint > masstone + 0.3
    assert pale > masstone + 0.3


def test_ultramarine_tints_move_clearly_towards_violet():
    assert mixed("ultramarine:1, white:10").hue100 > mixed("ultramarine:1").hue100 + 0.5


def test_phthalo_overwhelms_lemon():
    equal = mixed("lemon-yellow:1, phthalo-blue:1")
    assert near(equal.hue100, 55, 75)
    assert mixed("lemon-yellow:5, phthalo-blue:1").hue100 > 46
    assert near(mixed("lemon-yellow:10, phthalo-blue:1").hue100, 43, 50)


def test_similar_neighbours_stay_intense():
    neighbours = least_chroma(way("warm-yellow", "orange"))
    apart = least_chroma(way("warm-yellow", "rose"))
    opposite = least_chroma(way("warm-yellow", "ultramarine"))
    assert neighbours > apart > opposite + 3.0


def test_all_three_primaries_make_mud():
    assert mixed("warm-yellow:5, cadmium-red-hue:2, ultramarine:3").chroma < 2.5
