"""What practice books agree on about mixing, each fact by its meaning.

Hue ranges are in hue100, as in test_mixing_table.
"""

import pytest

from noema.core.colour.names import USUAL_HUES
from noema.core.pigments.mix import film_labs
from noema.core.pigments.partners import NEUTRAL_ENOUGH, partner
from noema.core.pigments.qualities import qualities
from noema.core.pigments.shelf import TUBES, builtin_set
from tests.core.pigments.paint import least_chroma, mixed, most_intense, near, way

BLUES = ("ultramarine", "cobalt-blue", "phthalo-blue", "cerulean", "cyan")
GREEN, ORANGE, VIOLET = (35, 55), (10, 19), (80, 94)


def value(text):
    return mixed(text).value


def chroma(text):
    return mixed(text).chroma


def turned(one, other):
    """By how many hue steps a mix lies further round than another, -50..50."""
    return (mixed(other).hue100 - mixed(one).hue100 + 50.0) % 100.0 - 50.0


FACTS = {
    "cyan and lemon give a green half again as intense as ultramarine and warm yellow": lambda: (
        most_intense(way("lemon-yellow", "cyan"), *GREEN)
        >= 1.5 * most_intense(way("warm-yellow", "ultramarine"), *GREEN)
    ),
    "white with a fortieth of lemon and a little warm yellow is a cream, not a yellow": lambda: (
        chroma("white:40, lemon-yellow:1, warm-yellow:0.25") <= 6.0
        and value("white:40, lemon-yellow:1, warm-yellow:0.25") > 9.0
    ),
    "orange with six of white fades to peach": lambda: (
        chroma("white:6, orange:1") < 0.7 * chroma("orange:1")
    ),
    "orange and phthalo blue pass through a green one can see": lambda: (
        most_intense(way("orange", "phthalo-blue", white=3), 33, 58) >= 2.0
    ),
    "orange and ultramarine go through grey": lambda: (
        least_chroma(way("orange", "ultramarine", white=3)) < 0.7
    ),
    "lemon and ultramarine are no true partners": lambda: (
        not partner(TUBES["lemon-yellow"], builtin_set("split-six").tubes, USUAL_HUES).goes_neutral
    ),
    "warm yellow and ultramarine grey each other": lambda: (
        least_chroma(way("warm-yellow", "ultramarine", white=3)) < NEUTRAL_ENOUGH
    ),
    "black and lemon give an olive green": lambda: near(
        mixed("lemon-yellow:6, ivory-black:1").hue100, 27, 40
    ),
    "black and warm yellow give an olive, browner than with lemon": lambda: (
        turned("lemon-yellow:6, ivory-black:1", "warm-yellow:6, ivory-black:1") < 0.0
    ),
    "black and orange give a brown": lambda: (
        near(mixed("orange:8, ivory-black:1").hue100, 8, 20)
        and value("orange:8, ivory-black:1") < 5.0
    ),
    "black and scarlet give a maroon": lambda: (
        near(mixed("scarlet:6, ivory-black:1").hue100, 95, 12)
        and value("scarlet:6, ivory-black:1") < 4.0
    ),
    "black and white give a grey cooler than either": lambda: (
        mixed("white:6, ivory-black:1").hue100 is None
        or near(mixed("white:6, ivory-black:1").hue100, 50, 85)
    ),
    "a little black dulls a yellow more than a violet": lambda: (
        chroma("lemon-yellow:20, ivory-black:1") / chroma("lemon-yellow:1")
        < chroma("dioxazine-violet:20, ivory-black:1") / chroma("dioxazine-violet:1")
    ),
    "white makes scarlet pinker": lambda: turned("scarlet:1", "scarlet:1, white:10") < 1.0,
    "white makes cadmium-type red less intense": lambda: (
        chroma("cadmium-red-hue:1, white:8") < 0.8 * chroma("cadmium-red-hue:1")
    ),
    "white first makes phthalo blue more intense": lambda: (
        chroma("phthalo-blue:1, white:4") > 1.5 * chroma("phthalo-blue:1")
    ),
    "white first makes ultramarine more intense": lambda: (
        chroma("ultramarine:1, white:2") > chroma("ultramarine:1")
    ),
    "much white fades every blue": lambda: all(
        chroma(f"{blue}:1, white:200") < chroma(f"{blue}:1, white:10") for blue in BLUES
    ),
    "white never darkens": lambda: all(
        value(f"{name}:1, white:1") > value(f"{name}:1")
        for name in TUBES
        if name != "titanium-white"
    ),
    "phthalo blue takes far more white to a middle value than ultramarine": lambda: (
        value("phthalo-blue:1, white:10") < value("ultramarine:1, white:10")
    ),
    "lemon with a trace of scarlet is orange before it is red": lambda: near(
        mixed("lemon-yellow:20, scarlet:1").hue100, 12, 26
    ),
    "lemon and rose give a duller orange than warm yellow and scarlet": lambda: (
        most_intense(way("lemon-yellow", "rose"), *ORANGE)
        < most_intense(way("warm-yellow", "scarlet"), *ORANGE)
    ),
    "magenta and lemon give a red": lambda: near(mixed("magenta:3, lemon-yellow:1").hue100, 1, 10),
    "magenta and cyan give a clean violet or blue": lambda: (
        most_intense(way("magenta", "cyan", white=3), 70, 92) > 5.0
    ),
    "rose and ultramarine give a cleaner violet than scarlet and ultramarine": lambda: (
        most_intense(way("rose", "ultramarine", white=4), *VIOLET)
        > 1.5 * most_intense(way("scarlet", "ultramarine", white=4), *VIOLET)
    ),
    "rose and phthalo blue give a violet bluer than rose and ultramarine": lambda: (
        most_intense(way("rose", "phthalo-blue", white=4), 78, 90)
        < most_intense(way("rose", "ultramarine", white=4), 78, 90) + 2.0
    ),
    "crimson and phthalo green give a near black": lambda: (
        value("crimson:2, phthalo-green:1") < 2.3
        and least_chroma(way("crimson", "phthalo-green")) < 0.8
    ),
    "burnt sienna and phthalo blue give a dark green or black": lambda: (
        value("burnt-sienna:4, phthalo-blue:1") < 2.8
    ),
    "burnt sienna and white give a flesh tint": lambda: near(
        mixed("burnt-sienna:1, white:8").hue100, 9, 20
    ),
    "ochre and ultramarine give a muted green": lambda: (
        0.5 < most_intense(way("yellow-ochre", "ultramarine", white=1), 30, 56) < 4.0
    ),
    "ochre is a muted yellow": lambda: (
        near(mixed("yellow-ochre:1").hue100, 15, 24) and chroma("yellow-ochre:1") < 9.0
    ),
    "cerulean and lemon give a lighter green than phthalo blue and lemon": lambda: (
        value("cerulean:1, lemon-yellow:2") > value("phthalo-blue:1, lemon-yellow:2")
    ),
    "phthalo green with lemon gives a spring green": lambda: (
        near(mixed("phthalo-green:1, lemon-yellow:15").hue100, 33, 48)
        and chroma("phthalo-green:1, lemon-yellow:15") > 7.0
    ),
    "phthalo green is calmed by a little red": lambda: (
        chroma("phthalo-green:6, white:20, crimson:1") < chroma("phthalo-green:6, white:20")
    ),
    "permanent green is warmed by yellow": lambda: (
        turned("permanent-green-light:1", "permanent-green-light:1, lemon-yellow:2") < 0.0
    ),
    "violet and yellow dull each other to a brown": lambda: (
        least_chroma(way("dioxazine-violet", "warm-yellow", white=1)) < 4.0
        and near(mixed("dioxazine-violet:1, warm-yellow:6").hue100, 0, 22)
    ),
    "red and green neutralise": lambda: least_chroma(way("crimson", "viridian-hue", white=1)) < 1.3,
    "blue and orange neutralise": lambda: (
        least_chroma(way("ultramarine", "orange", white=1)) < NEUTRAL_ENOUGH
    ),
    "a complement dulls before it darkens a light colour much": lambda: (
        chroma("orange:20, ultramarine:1") < 0.85 * chroma("orange:1")
    ),
    "neighbours on the wheel stay clean": lambda: (
        least_chroma(way("lemon-yellow", "warm-yellow")) > 11.0
    ),
    "three primaries make mud": lambda: (
        chroma("warm-yellow:3, cadmium-red-hue:1, ultramarine:2") < 2.5
    ),
    "raw umber is nearly neutral": lambda: chroma("raw-umber:1") < 2.0,
    "raw umber with white is a warm grey": lambda: near(
        mixed("raw-umber:1, white:6").hue100, 12, 28
    ),
    "payne's grey leans blue": lambda: near(mixed("payne-grey-type:1, white:6").hue100, 65, 85),
    "yellows are the lightest tubes and violet the darkest of the colours": lambda: (
        value("lemon-yellow:1")
        > value("orange:1")
        > value("scarlet:1")
        > value("dioxazine-violet:1")
    ),
    "dioxazine violet overwhelms ultramarine": lambda: (
        turned("ultramarine:10", "ultramarine:10, dioxazine-violet:1") > 0.0
        or chroma("ultramarine:10, dioxazine-violet:1") < chroma("ultramarine:10")
    ),
    "equal parts of phthalo blue and lemon are a blue-green, not a middle green": lambda: (
        mixed("phthalo-blue:1, lemon-yellow:1").hue100 > 52
    ),
    "titanium white is stronger than any tint needs: a touch of colour in it shows": lambda: (
        value("white:100, phthalo-blue:1") < value("white:1") - 0.5
    ),
    "Naples yellow lightens red without chalk": lambda: (
        turned("scarlet:1, white:4", "scarlet:1, naples-yellow:4") > 1.0
    ),
    "red oxide covers, crimson glazes": lambda: (
        qualities(TUBES["red-oxide"]).cover > 2.0 * qualities(TUBES["crimson"]).cover
    ),
    "thin transparent red glows more than it covers": lambda: (
        film_labs([TUBES["crimson"]], [[1.0]], [0.15])[0, 0]
        > film_labs([TUBES["crimson"]], [[1.0]], [4.0])[0, 0] + 5.0
    ),
}


@pytest.mark.parametrize("fact", FACTS)
def test_painters_agree(fact):
    assert FACTS[fact]()
