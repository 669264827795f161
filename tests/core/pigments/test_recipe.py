"""Recipes, next moves and their words."""

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvc_to_lab
from noema.core.colour.names import USUAL_HUES
from noema.core.errors import BadPaint
from noema.core.pigments.mix import Part, lab_of_parts, mix_labs
from noema.core.pigments.next_move import next_move
from noema.core.pigments.recipe import recipe
from noema.core.pigments.says import say_left, say_move, say_parts
from noema.core.pigments.shelf import TUBES, builtin_set
from noema.formats.mix_text import mix_from_text

CUPBOARD = (
    *builtin_set("split-six+black").tubes,
    *(TUBES[name] for name in ("burnt-sienna", "yellow-ochre", "crimson", "phthalo-green")),
)
ALL = builtin_set("all")


def parts(text):
    return mix_from_text(text, ALL)


def lab(text):
    return lab_of_parts(parts(text))


def measurable(found):
    amounts = [part.amount for part in found.parts]
    return len(amounts) <= 4 and all(a == round(a) for a in amounts) and max(amounts) <= 40


@pytest.mark.parametrize(
    "text",
    [
        "rose:1",
        "warm-yellow:5, scarlet:1",
        "rose:3, ultramarine:2, titanium-white:12",
        "burnt-sienna:2, ultramarine:1, titanium-white:6",
        "lemon-yellow:9, phthalo-blue:1",
        "ivory-black:2, titanium-white:7",
    ],
)
def test_a_mix_of_the_set_is_found_again_with_no_more_tubes(text):
    found = recipe(lab(text), CUPBOARD)
    assert found.away < 1.0
    assert len(found.parts) <= len(parts(text))
    assert measurable(found)


def test_random_mixes_are_matched_closely_and_simply():
    rng = np.random.default_rng(11)
    for _ in range(25):
        chosen = rng.choice(len(CUPBOARD), rng.integers(1, 5), replace=False)
        wanted = mix_labs([CUPBOARD[i] for i in chosen], rng.integers(1, 9, len(chosen)))
        found = recipe(wanted, CUPBOARD)
        assert found.away < 2.0
        assert measurable(found)
        assert found.away == pytest.approx(ciede2000(lab_of_parts(found.parts), wanted))


def test_what_cannot_be_reached_is_said():
    found = recipe(hvc_to_lab([85.0, 4.0, 14.0]), CUPBOARD)
    assert found.away > 6.0
    said = say_left(found, USUAL_HUES)
    assert said.startswith("as near as these paints come: ")
    assert "short" in said
    assert say_left(recipe(lab("rose:1"), CUPBOARD), USUAL_HUES) == ""


def test_fewer_tubes_are_preferred_when_nearly_as_near():
    wanted = lab("scarlet:4, rose:1, crimson:1, titanium-white:3")
    assert len(recipe(wanted, CUPBOARD).parts) <= 3


def test_a_set_of_one_tube_has_one_recipe():
    found = recipe([50.0, 40.0, 20.0], (TUBES["rose"],))
    assert say_parts(found.parts) == "rose"
    with pytest.raises(BadPaint, match="at least one tube"):
        recipe([50.0, 0.0, 0.0], ())


@pytest.mark.parametrize(
    ("pile", "tube", "missing"),
    [
        ("lemon-yellow:20, phthalo-blue:1", "phthalo-blue", 1),
        ("ivory-black:1, titanium-white:5", "ivory-black", 1),
        ("warm-yellow:12, scarlet:1", "scarlet", 1),
        ("rose:2, titanium-white:5", "ultramarine", 1),
    ],
)
def test_the_next_move_is_the_missing_tube_in_the_missing_amount(pile, tube, missing):
    move = next_move(lab(pile), parts(pile), lab(f"{pile}, {tube}:{missing}"), CUPBOARD)
    assert move.add is TUBES[tube]
    assert move.keep == 1.0
    assert move.after < 1.0 < move.before
    volume = sum(part.amount for part in parts(pile))
    assert move.share == pytest.approx(missing / volume, rel=0.25)


def test_following_the_move_gets_where_it_says_although_the_pile_is_not_as_the_model_has_it():
    true_pile = lab("rose:3, titanium-white:9") + [1.5, -2.0, 1.0]
    move = next_move(true_pile, parts("rose:1, titanium-white:4"), lab("rose:1"), CUPBOARD)
    assert move.after < 0.5 * move.before
    assert ciede2000(move.predicted_lab, lab("rose:1")) == pytest.approx(move.after, abs=1e-6)


def test_a_pile_that_is_there_is_left_alone():
    move = next_move(lab("rose:1"), parts("rose:1"), lab("rose:1") + [0.5, 0.5, 0.0], CUPBOARD)
    assert move.is_there
    assert say_move(move) == "leave it: it is there"


def test_a_pile_that_went_too_far_is_cut_first():
    too_black = "ivory-black:2, titanium-white:5"
    move = next_move(
        lab(too_black), parts(too_black), lab("ivory-black:1, titanium-white:7"), CUPBOARD
    )
    assert move.add is TUBES["titanium-white"]
    assert move.keep < 1.0
    assert say_move(move).startswith(("keep a half of the pile", "keep a quarter of the pile"))


def test_white_is_never_added_where_it_would_fade_an_intense_target():
    dull = "scarlet:6, phthalo-green:1"
    move = next_move(lab(dull), parts(dull), lab("scarlet:1"), CUPBOARD)
    assert move.add is not TUBES["titanium-white"]


def test_mud_is_started_again():
    mud = "scarlet:3, phthalo-green:1, titanium-white:5"
    move = next_move(lab(mud), parts(mud), lab("scarlet:1"), CUPBOARD)
    assert move.add is None
    assert say_move(move) == "start again: scarlet"


def test_amounts_are_said_as_painters_do():
    pile = "lemon-yellow:20, phthalo-blue:1"
    move = next_move(
        lab(pile), parts(pile), lab("lemon-yellow:10, phthalo-blue:1"), builtin_set("all").tubes
    )
    assert say_move(move) == "a touch of phthalo blue: about 1 part to 20"
    assert say_parts([Part(tube=TUBES["rose"], amount=2.0)]) == "rose"
