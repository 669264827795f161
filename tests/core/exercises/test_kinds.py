"""What every kind of exercise asks of several sets."""

from itertools import pairwise

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import USUAL_HUES, hue_step
from noema.core.errors import BadExercise, BadPaint
from noema.core.exercises.asked import CellShape, Even, Ground
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.levels import Key
from noema.core.pigments.drying import Binder
from noema.core.pigments.mix import lab_of_parts
from noema.core.pigments.shelf import PaintSet, builtin_set
from tests.core.exercises.grounds import EVERY, SETS, asked, choose

_EVEN = 1.15  # the largest step to the smallest


@pytest.mark.parametrize(("kind", "wanted", "name"), EVERY)
def test_every_cell_has_a_colour_its_mix_gives_and_a_reason(kind, wanted, name):
    exercise = asked(kind, wanted, name)
    ids = [cell.id for cell in exercise.cells]
    assert len(set(ids)) == len(ids) > 2
    assert 2 <= len(exercise.how_to) <= 4
    tubes = set(builtin_set(name).tubes)
    for cell in exercise.cells:
        assert cell.note.endswith(".")
        assert {part.tube for part in cell.parts} <= tubes | {builtin_set("all").tube("white")}
        assert cell.hvc == hvc_of(cell.lab)
        if kind != "tube-swatches":  # thin films aren't opaque mixes
            assert ciede2000(lab_of_parts(cell.parts), cell.lab) < 0.5


@pytest.mark.parametrize(("kind", "wanted", "name"), EVERY)
def test_steps_are_even_unless_it_is_said_why_not(kind, wanted, name):
    exercise = asked(kind, wanted, name)
    excused = {cell for concern in exercise.concerns for cell in concern.cells}
    for band in exercise.bands:
        if excused & {cell.id for cell in band.cells} or band.even is Even.NOT:
            continue
        labs = np.array([cell.lab for cell in band.cells])
        if band.even is Even.DISTANCE:
            apart = ciede2000(labs[1:], labs[:-1])
        elif band.even is Even.VALUE:
            apart = np.abs(np.diff([cell.hvc.value for cell in band.cells]))
        else:
            continue
        assert apart.max() <= _EVEN * apart.min() + 0.02, band.label


@pytest.mark.parametrize("hues", [12, 24])
@pytest.mark.parametrize("name", ["split-six", "three-printers"])
def test_hue_steps_are_even_between_primaries_and_secondaries(hues, name):
    cells = asked("colour-wheel", choose(hues=hues, darks="straight"), name).bands[0].cells
    sixth = hues // 6
    round_again = (*cells, cells[0])
    for start in range(0, hues, sixth):
        part = round_again[start : start + sixth + 1]
        steps = [-hue_step(a.hvc.hue100, b.hvc.hue100) for a, b in pairwise(part)]
        assert max(steps) <= _EVEN * min(steps), part[0].label


def test_a_wheel_starts_with_yellow_and_darkens_downwards():
    cells = asked("colour-wheel", choose(darks="straight"), "split-six").bands[0].cells
    assert cells[0].label == "yellow"
    assert cells[0].hvc.value > 8
    assert min(cell.hvc.value for cell in cells) == pytest.approx(
        min(cell.hvc.value for cell in cells[5:9])
    )


def test_both_tubes_of_a_primary_stand_on_a_split_wheel():
    cells = asked("colour-wheel", choose(primaries=6), "split-six").bands[0].cells
    labels = [cell.label for cell in cells]
    for tube in builtin_set("split-six").colours:
        assert tube.label in labels
    assert len(cells) == 12


def test_split_primaries_give_the_clearer_violet():
    def violet(name):
        cells = asked("secondary-pairs", choose(), name).bands[-1].cells
        return max(c.hvc.chroma for c in cells if c.shape is CellShape.DIAMOND and not c.limit)

    pairs = asked("secondary-pairs", choose(), "split-six").bands[-1].cells
    muddy = next(
        mix
        for tube, mix, other in zip(pairs[::3], pairs[1::3], pairs[2::3], strict=True)
        if (tube.label, other.label) == ("scarlet", "phthalo blue")
    )
    assert muddy.limit
    said = asked("secondary-pairs", choose(), "split-six").concerns
    assert (muddy.id,) in [concern.cells for concern in said]
    assert violet("split-six") > 2.0


def test_a_hue_that_cannot_be_had_is_said_and_moved_to_what_can():
    wheel = asked("colour-wheel", choose(), "three-traditional")
    said = {concern.sentence for concern in wheel.concerns}
    assert any("can't give a clean green, because the blue (ultramarine)" in s for s in said)
    green = next(cell for cell in wheel.cells if cell.label == "green")
    assert green.limit
    assert ciede2000(lab_of_parts(green.parts), green.lab) < 0.5


def test_secondaries_stand_at_the_hues_that_bear_their_names():
    wheel = asked("colour-wheel", choose(), "split-six")
    for cell in wheel.bands[0].cells:
        if cell.label in ("orange", "violet", "green"):
            named = USUAL_HUES.of(cell.label).hue100
            assert abs(hue_step(named, cell.hvc.hue100)) < 50 / 12
            assert cell.hvc.chroma > 5.0


def test_hues_too_dark_to_show_are_let_down_unless_a_school_wants_them_straight():
    shown = asked("colour-wheel", choose(), "split-six").bands[0].cells
    straight = asked("colour-wheel", choose(darks="straight"), "split-six").bands[0].cells
    assert min(cell.hvc.value for cell in shown) > 2.9
    assert min(cell.hvc.value for cell in straight) < 2.5
    for cell, dark in zip(shown, straight, strict=True):
        if cell.parts != dark.parts:
            assert dark.hvc.value < 3.0
            assert abs(hue_step(cell.hvc.hue100, dark.hvc.hue100)) < 4.2


def test_a_hue_as_faint_as_a_tolerance_is_said_with_the_better_pair():
    wheel = asked("colour-wheel", choose(darks="straight"), "split-six")
    [violet] = [one for one in wheel.concerns if one.sentence.startswith("Violet")]
    assert "may pass for grey" in violet.sentence
    assert "cleaner" in violet.suggestion


def test_named_hues_stand_at_the_schools_own_table():
    for cell in asked("colour-wheel", choose(), "split-six", Key.NAMED).bands[0].cells:
        assert abs(hue_step(USUAL_HUES.of(cell.label).hue100, cell.hvc.hue100)) < 1.5


def test_a_tint_ladder_of_crimson_gains_chroma_before_it_loses_it():
    cells = asked("tint-ladder", choose(tubes=("crimson",)), "darks").cells
    chromas = [cell.hvc.chroma for cell in cells]
    peak = chromas.index(max(chromas))
    assert 0 < peak < len(chromas) - 2
    assert chromas[peak] > chromas[0] + 0.7
    assert chromas[-2] < chromas[0]


def test_in_watercolour_tints_are_made_with_water():
    pans = builtin_set("darks")
    paints = PaintSet(
        name="pans", label="pans", says="", tubes=pans.colours, binder=Binder.WATERCOLOUR
    )
    kind = kind_of("tint-ladder")
    ladder = kind.asked(
        kind.chosen({"tubes": ("crimson",)}), Ground(paints=paints, table=USUAL_HUES)
    )
    values = [cell.hvc.value for cell in ladder.cells]
    assert values == sorted(values)
    assert all(len(cell.parts) == 1 for cell in ladder.cells)
    assert "water" in ladder.how_to[1]


def test_a_blue_and_orange_that_pass_through_green_are_said_to():
    chart = asked("intensity-chart", choose(pairs=("phthalo-blue:orange",)), "all")
    assert any("passes through green" in concern.sentence for concern in chart.concerns)
    assert all("true partner" in c.suggestion or "leave it" in c.suggestion for c in chart.concerns)


@pytest.mark.parametrize(
    ("text", "label"),
    [
        ("phthalo-blue-orange", "phthalo-blue and orange"),
        ("red-violet-yellow-green", "red-violet and yellow-green"),
        ("blue-violet: warm-yellow", "blue-violet and warm-yellow"),
    ],
)
def test_pairs_of_names_with_dashes_are_understood(text, label):
    assert asked("intensity-chart", choose(pairs=(text,)), "all").bands[0].label == label


def test_complements_that_do_not_cancel_name_the_tube_that_would():
    chart = asked("intensity-chart", choose(pairs=("yellow-violet",)), "split-six")
    said = next(c for c in chart.concerns if "don't cancel" in c.sentence)
    assert "grey lemon yellow with ultramarine" in said.suggestion


def test_an_end_that_is_hardly_there_is_said_to_be():
    chart = asked("intensity-chart", choose(pairs=("yellow-violet",)), "three-traditional")
    said = [concern.sentence for concern in chart.concerns]
    assert any(
        s.startswith("The violet end is hardly violet") and "leans to orange" in s for s in said
    )


def test_the_neutral_is_a_diamond_in_the_middle_and_may_have_two_sides():
    chart = asked("intensity-chart", choose(pairs=("red-green",)), "split-six")
    cells = chart.bands[0].cells
    assert [c.shape for c in cells].index(CellShape.DIAMOND) == 3
    assert cells[3].hvc.chroma < 1.3
    two = asked("intensity-chart", choose(pairs=("red-green",), sides=True), "split-six")
    assert [c.label for c in two.bands[0].cells[3:5]] == ["from red", "from green"]


def test_a_scale_of_one_hue_runs_through_it():
    scale = asked("value-scale", choose(hue="red"), "split-six+black")
    chromas = [cell.hvc.chroma for cell in scale.cells]
    assert max(chromas[1:-1]) > 10
    assert chromas[0] < 1
    assert chromas[-1] < 1


def test_targets_out_of_reach_are_said_and_the_nearest_is_asked_instead():
    targets = ((50.0, 60.0, -60.0), (30.0, 0.0, 0.0), (80.0, 0.0, 80.0), (60.0, 30.0, 0.0))
    match = asked("colour-match", choose(targets=targets), "split-six")
    assert match.cells[0].limit.startswith("as near as these paints come")
    assert match.cells[1].limit == ""
    assert match.shows_targets


@pytest.mark.parametrize(
    ("kind", "wanted", "name", "sentence"),
    [
        ("tint-ladder", choose(steps=0), "split-six", "3 to 11 steps, not 0"),
        ("value-scale", choose(steps=99), "split-six", "5 to 11 steps"),
        ("value-scale", choose(hue="mauve"), "split-six", "no hue named"),
        ("intensity-chart", choose(steps=6), "split-six", "5, 7 or 9 steps"),
        ("intensity-chart", choose(pairs=("red",)), "split-six", "is no pair"),
        ("colour-wheel", choose(hues=7), "split-six", "6, 12 or 24 hues"),
        ("colour-wheel", choose(hues=24, rings=("shade",)), "split-six", "no ring but the pure"),
        ("colour-wheel", choose(rings=("glow",)), "split-six", "no ring “glow”"),
        ("colour-wheel", choose(primaries=4), "split-six", "3 or 6 primaries"),
        ("colour-wheel", choose(hues=6, primaries=6), "split-six", "take 12 or 24"),
        ("colour-wheel", choose(primaries=6), "three-printers", "no two tubes of yellow"),
        ("mixing-grid", choose(tubes=("rose",)), "split-six", "at least two tubes"),
        ("mixing-grid", choose(), "all", "room for 7 tubes"),
        ("tint-ladder", choose(tubes=("mauve",)), "split-six", "no “mauve”"),
        ("tint-ladder", choose(hues=6), "split-six", "takes no hues"),
        ("colour-match", choose(count=3), "split-six", "4 to 12 colours"),
        ("family-chart", choose(tubes=("rose",)), "split-six", "two tubes, not 1"),
        ("mixed-darks", choose(tubes=("lemon-yellow",)), "split-six", "neutral dark"),
        ("secondary-pairs", choose(tints=True), "split-six", "takes no tints"),
    ],
)
def test_what_makes_no_sense_is_refused_with_what_would(kind, wanted, name, sentence):
    with pytest.raises((BadExercise, BadPaint), match=sentence):
        asked(kind, wanted, name)


def test_every_kind_says_what_it_teaches():
    assert len(KINDS) >= 13
    assert all(kind.says.endswith((".", "?")) and kind.label for kind in KINDS.values())
    with pytest.raises(BadExercise, match="choose one of"):
        kind_of("finger-painting")
    assert len(SETS) >= 3
