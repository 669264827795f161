"""What is said of spots is true of the colours that are there."""

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import HVC, hvc_of, hvc_to_lab
from noema.core.colour.names import USUAL_HUES
from noema.core.pictures.colours import colours_of_picture
from noema.core.pictures.spots import (
    contrast_words,
    degree_of_neutral,
    degree_words,
    light_and_shadow,
    look_at,
)
from noema.core.pictures.way import way_of
from noema.core.pigments.mix import lab_of_parts
from noema.core.pigments.recipe import recipe
from noema.core.pigments.shelf import builtin_set
from tests.core.pictures.painted import shown

SIX = builtin_set("split-six")
DRY = SIX.binder.dry


def of(hue, value, chroma):
    return HVC(
        hue100=None if hue is None else USUAL_HUES.of(hue).hue100, value=value, chroma=chroma
    )


def lab_of(hue, value, chroma):
    return tuple(hvc_to_lab([USUAL_HUES.of(hue).hue100, value, chroma]).tolist())


def test_a_spot_is_what_is_in_the_disc_and_not_what_is_round_it():
    labs = np.tile(np.array([80.0, 0.0, 0.0]), (60, 60, 1))
    labs[25:36, 25:36] = (40.0, 30.0, 20.0)
    lab, around = look_at(colours_of_picture(shown(labs)), 0.5, 0.5, 0.06)
    assert ciede2000(lab, (40.0, 30.0, 20.0)) < 1.0
    assert around[0] > 70.0


def test_the_degree_of_neutral_falls_as_chroma_grows():
    degrees = [degree_of_neutral(of("orange", 6.0, chroma), SIX) for chroma in (2, 5, 9, 13)]
    assert degrees == sorted(degrees, reverse=True)
    assert degrees[0] > 0.7
    assert degrees[-1] < 0.2
    assert degree_of_neutral(of("orange", 6.0, 0.4), SIX) is None
    assert degree_words(degrees[-1]) in ("as pure as these tubes are", "a little way to neutral")


@pytest.mark.parametrize(
    ("spot", "around", "said"),
    [
        (of(None, 5.0, 0.0), of(None, 8.0, 0.0), "looks darker"),
        (of(None, 5.0, 0.0), of(None, 2.0, 0.0), "looks lighter"),
        (of("blue", 5.0, 1.5), of("orange", 5.0, 9.0), "Beside so much orange it looks more blue"),
        (of("red", 5.0, 9.0), of("green", 5.0, 9.0), ""),
        (of(None, 5.0, 0.0), of(None, 5.5, 0.0), ""),
    ],
)
def test_a_neighbour_is_named_where_it_changes_a_look_and_only_there(spot, around, said):
    words = contrast_words(spot, around, USUAL_HUES)
    assert said in words
    assert bool(said) == bool(words)


def test_light_and_shadow_of_a_thing_differ_by_value_then_by_hue():
    light, shadow = lab_of("orange", 7.0, 8.0), lab_of("red", 4.0, 5.0)
    said = light_and_shadow(light, shadow, USUAL_HUES)
    assert said.startswith("The shadow is 3.0 values darker")
    assert "leans to red" in said
    assert "greyer" in said
    assert "look again" in light_and_shadow(light, light, USUAL_HUES)
    assert "look again" in light_and_shadow(shadow, light, USUAL_HUES)


COLOURS = [
    lab_of(hue, value, chroma)
    for hue in ("yellow", "orange", "red", "violet", "blue", "green")
    for value, chroma in ((3.0, 3.0), (5.0, 6.0), (7.5, 3.0))
]


@pytest.mark.parametrize("lab", COLOURS)
def test_a_way_holds_all_of_the_recipe_and_says_what_each_step_does(lab):
    made = recipe(lab, SIX.tubes, DRY)
    steps = way_of(made, USUAL_HUES, DRY)
    assert {step.part for step in steps} == set(made.parts)
    assert ciede2000(steps[-1].lab, made.lab) < 0.1
    assert steps[0].said.startswith("Start from ")
    for before, after in zip(steps, steps[1:], strict=False):
        one, two, said = hvc_of(before.lab), hvc_of(after.lab), after.said
        assert after.part.tube.label in said
        assert ("lighter" in said) <= (two.value > one.value)
        assert ("darker" in said) <= (two.value < one.value)
        assert ("greyer" in said) <= (two.chroma < one.chroma)
        assert ("more intense" in said) <= (two.chroma > one.chroma)
        assert "add more" not in said.lower()


def test_a_way_starts_from_a_main_tube_that_comes_nearest():
    made = recipe(lab_of("orange", 6.5, 9.0), SIX.tubes, DRY)
    start, *rest = [step.part for step in way_of(made, USUAL_HUES, DRY)]
    assert start.amount >= 0.25 * max(part.amount for part in made.parts)
    nearest = ciede2000(lab_of_parts([start], DRY), made.lab)
    for part in rest:
        if part.amount >= 0.25 * max(one.amount for one in made.parts):
            assert nearest <= ciede2000(lab_of_parts([part], DRY), made.lab)
