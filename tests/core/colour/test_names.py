"""Hue names, leans and plain words."""

import pytest

from noema.core.colour.hvc import HVC
from noema.core.colour.names import (
    TWELVE_NAMES,
    USUAL_HUES,
    WarmBlue,
    chroma_word,
    hue_step,
    hue_table_of,
    temperature,
    value_word,
)
from noema.core.errors import BadHueTable


def seen(hue100, chroma=8.0):
    return HVC(hue100=hue100, value=5.0, chroma=chroma)


@pytest.mark.parametrize("count", [6, 12, 24])
def test_a_wheel_goes_once_round_from_yellow(count):
    hues = USUAL_HUES.hues(count)
    steps = [hue_step(a.hue100, b.hue100) for a, b in zip(hues, (*hues[1:], hues[0]), strict=True)]
    assert hues[0].name == "yellow"
    assert len(hues) == len({hue.name for hue in hues}) == count
    assert all(step < 0 for step in steps)
    assert sum(steps) == pytest.approx(-100.0)


def test_every_named_hue_is_nearest_to_itself():
    for count in (6, 12, 24):
        for hue in USUAL_HUES.hues(count):
            assert USUAL_HUES.nearest(hue.hue100, count) == hue


@pytest.mark.parametrize(
    ("hue100", "words"),
    [
        (5.0, "red"),
        (1.0, "red, leans to violet"),
        (98.0, "red, leans to violet"),
        (8.0, "red, leans to orange"),
        (27.5, "yellow, leans to green"),
        (21.0, "yellow, leans to orange"),
        (77.5, "blue, leans to violet"),
        (72.0, "blue, leans to green"),
        (88.0, "violet, leans to red"),
        (50.0, "green, leans to blue"),
        (38.0, "green, leans to yellow"),
    ],
)
def test_lean(hue100, words):
    assert USUAL_HUES.lean(seen(hue100)).words == words


def test_neutrals_lean_nowhere_and_near_neutrals_lean_to_a_hue():
    assert USUAL_HUES.lean(HVC(hue100=None, value=5.0, chroma=0.0)).words == "neutral"
    assert USUAL_HUES.lean(seen(75.0, 0.4)).words == "neutral"
    assert USUAL_HUES.lean(seen(75.0, 0.9)).words == "near neutral, leans to blue"


@pytest.mark.parametrize(
    ("name", "opposite"),
    [("yellow", "violet"), ("red", "green"), ("blue", "orange"), ("red-orange", "blue-green")],
)
def test_the_wheel_complement_is_straight_across(name, opposite):
    assert USUAL_HUES.opposite(name).name == opposite
    assert USUAL_HUES.opposite(opposite).name == name


def test_which_blue_is_warm_is_a_choice():
    violet_blue, green_blue = (USUAL_HUES.lean(seen(hue)) for hue in (77.5, 71.0))
    assert temperature(violet_blue, WarmBlue.VIOLET) == "warm"
    assert temperature(violet_blue, WarmBlue.GREEN) == "cool"
    assert temperature(green_blue, WarmBlue.GREEN) == "warm"
    assert temperature(USUAL_HUES.lean(seen(8.0)), WarmBlue.GREEN) == "warm"
    assert temperature(USUAL_HUES.lean(seen(5.0)), WarmBlue.GREEN) is None


def test_a_school_may_move_a_hue_but_not_past_its_neighbour():
    moved = {hue.name: hue.hue100 for hue in USUAL_HUES.twelve}
    moved["blue"] = 73.0
    assert hue_table_of(moved).lean(seen(75.0)).words == "blue, leans to violet"
    with pytest.raises(BadHueTable, match="wheel order"):
        hue_table_of({**moved, "blue": 90.0})
    with pytest.raises(BadHueTable, match="lacks green"):
        hue_table_of({name: hue for name, hue in moved.items() if name != "green"})
    with pytest.raises(BadHueTable, match="6, 12 or 24"):
        USUAL_HUES.hues(8)
    with pytest.raises(BadHueTable, match="no hue named"):
        USUAL_HUES.of("mauve")
    assert len(TWELVE_NAMES) == 12


def test_words_for_value_and_chroma():
    assert [value_word(v) for v in (1, 3, 4, 5, 7, 9, 9.6)] == [
        "near black",
        "very dark",
        "dark",
        "middle",
        "light",
        "very light",
        "near white",
    ]
    assert [chroma_word(c) for c in (0, 1, 3, 6, 10, 14)] == [
        "neutral",
        "near neutral",
        "muted",
        "moderate",
        "strong",
        "intense",
    ]
