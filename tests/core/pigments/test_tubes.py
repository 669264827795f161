"""The built-in tubes against the masstones and tints they were tuned to, and their qualities."""

import tomllib
from pathlib import Path

import pytest

import noema.core.pigments.shelf as shelf
from noema.core.colour.difference import ciede2000
from noema.core.colour.names import USUAL_HUES
from noema.core.errors import BadPaint
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.qualities import qualities
from noema.core.pigments.shelf import SETS, TUBES, PaintSet, builtin_set, builtin_tube
from tools.tune_tubes import lab_of

ENTRIES = tomllib.loads((Path(shelf.__file__).parent / "data" / "tubes.toml").read_text())
TUNED = [name for name, entry in ENTRIES.items() if "masstone" in entry and name in TUBES]
WHITE = TUBES["titanium-white"]


@pytest.mark.parametrize("name", TUNED)
def test_masstone_and_tint_are_near_what_they_were_tuned_to(name):
    entry, tube = ENTRIES[name], TUBES[name]
    assert ciede2000(mix_labs([tube], [1]), lab_of(entry["masstone"])) < 4.0
    assert ciede2000(mix_labs([tube, WHITE], [1, 10]), lab_of(entry["tint"])) < 4.5


def test_every_tube_says_what_it_rests_on():
    assert all(tube.basis and tube.label for tube in TUBES.values())
    assert {n for n, t in TUBES.items() if t.metal} == {"cobalt-blue", "cerulean", "raw-umber"}


@pytest.mark.parametrize(
    ("name", "lean"),
    [
        ("lemon-yellow", "yellow, leans to green"),
        ("warm-yellow", "yellow, leans to orange"),
        ("scarlet", "red, leans to orange"),
        ("cadmium-red-hue", "red, leans to orange"),
        ("rose", "red, leans to violet"),
        ("crimson", "red, leans to violet"),
        ("magenta", "red, leans to violet"),
        ("ultramarine", "blue, leans to violet"),
        ("phthalo-blue", "blue, leans to green"),
        ("cerulean", "blue, leans to green"),
        ("cyan", "blue, leans to green"),
        ("dioxazine-violet", "violet"),
        ("phthalo-green", "green, leans to blue"),
        ("permanent-green-light", "green, leans to yellow"),
        ("yellow-ochre", "yellow, leans to orange"),
        ("ivory-black", "neutral"),
        ("titanium-white", "neutral"),
    ],
)
def test_tubes_lean_as_painters_know_them(name, lean):
    assert USUAL_HUES.lean(qualities(TUBES[name]).shown).words == lean


@pytest.mark.parametrize(
    ("name", "strength", "cover"),
    [
        ("lemon-yellow", "weak", "half transparent"),
        ("warm-yellow", "strong", "half opaque"),
        ("cobalt-blue", "middling", "half transparent"),
        ("ultramarine", "strong", "transparent"),
        ("phthalo-blue", "overwhelming", "transparent"),
        ("phthalo-green", "overwhelming", "transparent"),
        ("dioxazine-violet", "overwhelming", "transparent"),
        ("red-oxide", "strong", "opaque"),
        ("titanium-white", "weak", "opaque"),
    ],
)
def test_strength_and_cover_in_words(name, strength, cover):
    seen = qualities(TUBES[name])
    assert (seen.strength_word, seen.cover_word) == (strength, cover)


def test_the_same_paint_is_the_same_tube_and_another_is_not():
    assert builtin_tube("rose") == TUBES["rose"]
    assert hash(builtin_tube("rose")) == hash(TUBES["rose"])
    assert TUBES["rose"] != TUBES["scarlet"]
    assert TUBES["rose"] != "rose"


def test_sets_are_looked_up_by_name_and_role():
    paints = builtin_set("split-six+black")
    assert paints.tube("white") is WHITE
    assert paints.tube("black").name == "ivory-black"
    assert len(paints.colours) == 6
    with pytest.raises(BadPaint, match="no “cyan” in the set split-six"):
        builtin_set("split-six").tube("cyan")
    with pytest.raises(BadPaint, match="choose split-six"):
        builtin_set("nothing")
    with pytest.raises(BadPaint, match="names a tube twice"):
        PaintSet(name="x", label="x", says="", tubes=(WHITE, WHITE))
    with pytest.raises(BadPaint, match="1 to 24"):
        PaintSet(name="x", label="x", says="", tubes=())
    assert set(SETS) == {
        "split-six",
        "three-traditional",
        "three-printers",
        "muted-earths",
        "darks",
    }
