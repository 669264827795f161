"""Known mistakes, and what is said of them."""

from dataclasses import replace

import numpy as np
import pytest

from noema.core.colour.lab import lab_to_xyz, xyz_to_lab
from noema.core.exercises.asked import CellRole
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.part import part_of
from noema.core.judging.judge import judge
from noema.core.judging.judgement import FindingKind
from noema.core.judging.verdict import Verdict
from noema.core.photo.reading import CellFlag
from noema.core.words.findings import finding_words
from noema.core.words.reasons import reason_words
from tests.core.exercises.grounds import asked, choose, plain
from tests.core.judging.readings import SPLIT, mixed, read_labs

WHEEL = asked("colour-wheel", choose(hues=12), "split-six+black")
CHART = asked("intensity-chart", choose(steps=5, sides=True), "split-six+black")
TINTS = asked("tint-ladder", choose(steps=7), "split-six+black")
PAIRS = asked("secondary-pairs", choose(), "split-six+black")
DARKS = asked("mixed-darks", choose(), "split-six+black")
RINGED = asked("colour-wheel", choose(hues=12, rings=("tint-in",)), "split-six+black")


def found(exercise, changed=None, **how):
    """What is found on a sheet painted as asked but for some cells."""
    reading = read_labs(exercise, changed, **how)
    return judge(reading, exercise, Key.PAINTS, Level.BEGINNER, paints=SPLIT).findings


def cell_of(exercise, label):
    return next(cell for cell in exercise.cells if cell.label == label)


def leaning(cell, tube, by):
    """A cell's own mix with one tube's volume multiplied."""
    volumes = {
        part.tube.name.replace("-", "_"): part.amount * (by if part.tube.name == tube else 1.0)
        for part in cell.parts
    }
    return mixed(**volumes)


@pytest.mark.parametrize("exercise", [WHEEL, CHART, TINTS, PAIRS, DARKS, RINGED])
def test_nothing_is_found_on_a_sheet_painted_right(exercise):
    assert found(exercise) == ()


@pytest.mark.parametrize("cast", [(0.0, 0.0, 4.0), (3.0, -2.0, 0.0), (0.0, 3.0, -3.0)])
@pytest.mark.parametrize("exercise", [WHEEL, TINTS, PAIRS])
def test_a_lamps_cast_over_the_whole_sheet_is_nobodys_mistake(exercise, cast):
    assert found(exercise, cast=cast) == ()


def test_a_mix_that_leans_is_named_with_its_tube():
    orange = cell_of(WHEEL, "orange")
    reading = read_labs(WHEEL, {orange.id: leaning(orange, "scarlet", 15.0)})
    judgement = judge(reading, WHEEL, Key.PAINTS, Level.BEGINNER, paints=SPLIT)
    first = judgement.findings[0]
    assert (first.kind, first.cells, first.tube) == (FindingKind.LEANS, (orange.id,), "scarlet")
    assert finding_words(first, judgement) == "Orange leans to its scarlet."


def test_several_leans_are_one_finding_the_farthest_first():
    orange, green = cell_of(WHEEL, "orange"), cell_of(WHEEL, "green")
    changed = {
        orange.id: leaning(orange, "scarlet", 15.0),
        green.id: leaning(green, "lemon-yellow", 4.0),
    }
    (finding,) = found(WHEEL, changed)
    assert set(finding.cells) == {orange.id, green.id}


def test_a_dirty_yellow_is_told_from_the_other_yellows():
    dirty = mixed(lemon_yellow=40.0, ultramarine=1.0)
    first = found(PAIRS, {"r1p1a": dirty})[0]
    assert (first.kind, first.cells) == (FindingKind.CONTAMINATED, ("r1p1a",))
    assert first.own == "lemon-yellow"


def test_a_yellow_that_differs_on_every_cell_is_the_cameras_doing():
    yellows = {
        c.id: (c.lab[0], c.lab[1] + 9.0, c.lab[2]) for c in PAIRS.cells if "yellow" in c.label
    }
    assert all(finding.kind is not FindingKind.CONTAMINATED for finding in found(PAIRS, yellows))


def test_another_tube_than_asked_is_named():
    violet = next(c for c in PAIRS.cells if c.id == "r3p3m")  # rose and ultramarine
    assert {part.tube.name for part in violet.parts} == {"rose", "ultramarine"}
    first = found(PAIRS, {violet.id: mixed(scarlet=1.0, ultramarine=2.0)})[0]
    assert (first.kind, first.tube, first.own) == (FindingKind.WRONG_TUBE, "scarlet", "rose")


def test_two_cells_in_each_others_place_are_found():
    one, other = cell_of(WHEEL, "orange"), cell_of(WHEEL, "red")
    first = found(WHEEL, {one.id: other.lab, other.id: one.lab})[0]
    assert (first.kind, set(first.cells)) == (FindingKind.SWAPPED, {one.id, other.id})


def test_a_row_painted_from_the_wrong_end_is_found_whole():
    row = TINTS.bands[2].cells
    turned = {cell.id: other.lab for cell, other in zip(row, row[::-1], strict=True)}
    first = found(TINTS, turned)[0]
    assert first.kind is FindingKind.SWAPPED
    assert len(first.cells) == len(row)


@pytest.mark.parametrize(("power", "end"), [(1.7, 1), (0.55, 7)])
def test_crowded_steps_are_found_with_their_end(power, end):
    row = TINTS.bands[3]
    labs = np.array([cell.lab for cell in row.cells])
    places = np.linspace(0.0, 1.0, len(labs))
    bent = np.stack([np.interp(places**power, places, column) for column in labs.T], axis=-1)
    changed = {c.id: tuple(lab) for c, lab in zip(row.cells, bent.tolist(), strict=True)}
    first = found(TINTS, changed)[0]
    assert first.kind is FindingKind.BUNCHED
    assert first.towards == f"{row.label} {end}"


def test_a_neutral_that_leans_says_where():
    neutral = next(c for c in CHART.cells if c.label == "from red")
    first = found(
        CHART, {neutral.id: (neutral.lab[0], neutral.lab[1] + 18.0, neutral.lab[2] + 6.0)}
    )
    assert (first[0].kind, first[0].towards) == (FindingKind.NOT_NEUTRAL, "red")


def test_sides_that_meet_in_different_greys_are_found():
    neutral = next(c for c in CHART.cells if c.label == "from red")
    lighter = (neutral.lab[0] + 16.0, neutral.lab[1], neutral.lab[2])
    kinds = [finding.kind for finding in found(CHART, {neutral.id: lighter})]
    assert FindingKind.TWO_NEUTRALS in kinds


def test_a_dark_that_isnt_dark_is_found():
    dark = next(cell for cell in DARKS.cells if cell.label == "dark")
    kinds = [f.kind for f in found(DARKS, {dark.id: (dark.lab[0] + 30.0, 0.0, 0.0)})]
    assert FindingKind.VALUES in kinds


def test_light_laid_over_all_paint_is_wetness_and_hides_the_rest():
    white = lab_to_xyz(np.array([100.0, 0.0, 0.0]))
    lit = {
        cell.id: tuple(xyz_to_lab(0.75 * lab_to_xyz(np.array(cell.lab)) + 0.25 * white).tolist())
        for cell in WHEEL.cells
    }
    findings = found(WHEEL, lit)
    assert [finding.kind for finding in findings] == [FindingKind.WET]


def test_glare_from_a_lamp_on_good_paint_is_no_wetness():
    flags = {cell.id: (CellFlag.GLARE,) for cell in WHEEL.cells[:7]}
    assert found(WHEEL, flags=flags) == ()


def test_thin_paint_is_thin_and_isnt_judged_for_colour():
    orange = cell_of(WHEEL, "orange")
    pale = (orange.lab[0] + 20.0, orange.lab[1] / 2, orange.lab[2] / 2)
    findings = found(WHEEL, {orange.id: pale}, coverage={orange.id: 0.7})
    assert [finding.kind for finding in findings] == [FindingKind.THIN]


def test_paint_over_many_lines_is_said():
    spill = {cell.id: 0.5 for cell in WHEEL.cells[:6]}
    assert [finding.kind for finding in found(WHEEL, spill=spill)] == [FindingKind.OVER_LINE]


def test_a_third_colour_in_a_mix_dulls_it():
    green = cell_of(WHEEL, "yellow-green")
    muddy = mixed(lemon_yellow=12.0, phthalo_blue=0.3, rose=0.7)
    [finding] = found(WHEEL, {green.id: muddy})
    assert (finding.kind, finding.cells) == (FindingKind.DULL, (green.id,))


def test_a_ring_whose_hue_wanders_is_found():
    ring = [cell for cell in RINGED.cells if cell.id.startswith("tint")][2:6]
    turned = {}
    for cell in ring:
        turn = np.radians(30.0)
        a, b = cell.lab[1:]
        turned[cell.id] = (
            cell.lab[0],
            a * np.cos(turn) - b * np.sin(turn),
            a * np.sin(turn) + b * np.cos(turn),
        )
    [finding] = found(RINGED, turned)
    assert (finding.kind, finding.cells) == (FindingKind.WANDERS, tuple(turned))


def test_greys_that_lean_all_along_are_a_cast_only_beyond_doubt():
    scale = asked("value-scale", choose(steps=7), "split-six+black")
    slight, strong = (
        {c.id: (c.lab[0], c.lab[1], c.lab[2] + by) for c in scale.cells} for by in (5, 22)
    )
    assert FindingKind.CAST not in [finding.kind for finding in found(scale, slight)]
    assert FindingKind.CAST in [finding.kind for finding in found(scale, strong)]


def test_what_the_paints_cant_give_is_never_held_against_anybody():
    exercise = asked("colour-wheel", choose(hues=12), "muted-earths+black")
    limited = next(cell for cell in exercise.cells if cell.limit)
    far = (limited.lab[0] + 15.0, limited.lab[1] + 20.0, limited.lab[2])
    reading = read_labs(exercise, {limited.id: far})
    judgement = judge(reading, exercise, Key.PAINTS, Level.ADVANCED)
    cell = next(one for one in judgement.cells if one.id == limited.id)
    assert cell.verdict is Verdict.LOOK
    assert reason_words(cell.reason).startswith("Not counted: these paints can't")
    assert all(limited.id not in finding.cells for finding in judgement.findings)


def test_a_grey_that_leans_the_other_way_is_seen_though_its_chroma_is_the_same():
    neutral = next(c for c in CHART.cells if c.label == "from red")
    reddish = replace(neutral, lab=(neutral.lab[0], 6.0, 2.0))
    reading = read_labs(CHART, {neutral.id: (neutral.lab[0], -12.0, 2.0)})
    judgement = judge(reading, CHART, Key.PAINTS, Level.ADVANCED)
    cell = next(one for one in judgement.cells if one.id == reddish.id)
    assert cell.verdict is Verdict.OFF
    assert "leans to green" in reason_words(cell.reason).lower()


def test_a_wheel_whose_yellow_isnt_the_lightest_misses_its_point():
    yellow, orange = cell_of(WHEEL, "yellow"), cell_of(WHEEL, "yellow-orange")
    changed = {
        yellow.id: (yellow.lab[0] - 12.0, yellow.lab[1], yellow.lab[2]),
        orange.id: (orange.lab[0] + 12.0, orange.lab[1], orange.lab[2]),
    }
    points = [one for one in found(WHEEL, changed) if one.kind is FindingKind.VALUES]
    assert [one.cells for one in points] == [(yellow.id, orange.id)]


def test_a_clean_pair_gone_grey_looks_mixed_with_another_blue():
    clean = next(c for c in PAIRS.cells if c.id == "r2p2m")  # lemon yellow and phthalo blue
    grey = (clean.lab[0], 0.15 * clean.lab[1], 0.15 * clean.lab[2])
    [finding] = found(PAIRS, {clean.id: grey})
    assert (finding.kind, finding.cells) == (FindingKind.WRONG_TUBE, (clean.id,))
    assert (finding.tube, finding.own) == ("ultramarine", "phthalo-blue")


def test_a_muted_pair_louder_than_the_clean_one_misses_the_point():
    greens = [c for c in PAIRS.cells if c.role is CellRole.SECONDARY and c.label == "green"]
    clean, muted = (f(greens, key=lambda c: c.hvc.chroma) for f in (max, min))
    dulled = (clean.lab[0], 0.62 * clean.lab[1], 0.62 * clean.lab[2])
    findings = found(PAIRS, {clean.id: dulled, muted.id: clean.lab})
    dull = [one for one in findings if one.kind is FindingKind.DULL]
    assert [one.cells for one in dull] == [(clean.id,)]


def test_darks_of_a_sheet_of_only_some_cells_can_still_be_darker():
    mix = next(c for c in DARKS.cells if c.role is CellRole.DARK)
    row = next(band for band in DARKS.bands if mix in band.cells)
    again = part_of(DARKS, [cell.id for cell in row.cells])
    light = (mix.lab[0] + 30.0, mix.lab[1], mix.lab[2])
    dark = [one for one in found(again, {mix.id: light}) if one.kind is FindingKind.VALUES]
    assert [(one.cells, one.towards) for one in dark] == [((mix.id,), "dark")]


def test_two_neutrals_are_named_where_their_row_isnt_in_sight():
    neutral = next(c for c in CHART.cells if c.role is CellRole.NEUTRAL)
    twin = next(c for c in CHART.cells if c.of == neutral.id)
    again = part_of(CHART, [neutral.id, twin.id])
    apart = {
        neutral.id: (neutral.lab[0] + 9.0, neutral.lab[1], neutral.lab[2]),
        twin.id: (twin.lab[0] - 9.0, twin.lab[1], twin.lab[2]),
    }
    judgement = judge(read_labs(again, apart), again, Key.PAINTS, Level.BEGINNER, paints=SPLIT)
    [finding] = [f for f in judgement.findings if f.kind is FindingKind.TWO_NEUTRALS]
    assert finding.cells == (neutral.id, twin.id)
    assert finding_words(finding, judgement) == (
        "From red and from green should be one neutral, and differ."
    )


def test_a_swap_across_the_place_where_a_ring_closes_is_found():
    first, last = WHEEL.cells[0], WHEEL.cells[-1]
    finding = found(WHEEL, {first.id: last.lab, last.id: first.lab})[0]
    assert (finding.kind, set(finding.cells)) == (FindingKind.SWAPPED, {first.id, last.id})


def test_colour_where_grey_was_asked_is_found_whatever_the_tolerances():
    scale = plain(7)
    step = scale.cells[3]
    lightness = step.lab[0]

    def judged(lab):
        reading = read_labs(scale, {step.id: lab})
        return judge(reading, scale, Key.NAMED, Level.BEGINNER)

    orange = judged((lightness, 30.0, 45.0))
    [finding] = [one for one in orange.findings if one.kind is FindingKind.COLOURED]
    assert finding.cells == (step.id,)
    assert "orange where grey was asked" in finding_words(finding, orange)
    told = next(cell for cell in orange.cells if cell.id == step.id)
    assert told.verdict in (Verdict.DRIFTS, Verdict.OFF)
    assert "leans to orange" in reason_words(told.reason).lower()
    nobodys = judged((lightness, 1.0, 3.0))
    assert FindingKind.COLOURED not in [one.kind for one in nobodys.findings]
    assert next(c for c in nobodys.cells if c.id == step.id).verdict is Verdict.HOLDS


def test_cells_exchanged_across_the_sheet_are_found():
    one, other = TINTS.bands[0].cells[1], TINTS.bands[3].cells[2]
    first = found(TINTS, {one.id: other.lab, other.id: one.lab})[0]
    assert (first.kind, set(first.cells)) == (FindingKind.SWAPPED, {one.id, other.id})


def test_two_cells_that_stray_to_colours_of_their_own_are_not_exchanged():
    one, other = TINTS.bands[0].cells[1], TINTS.bands[3].cells[2]
    changed = {one.id: other.lab, other.id: (60.0, 0.0, 40.0)}
    kinds = [finding.kind for finding in found(TINTS, changed)]
    assert FindingKind.SWAPPED not in kinds


def test_a_dark_end_more_than_a_step_short_is_said_before_two_steps_that_sit_together():
    scale = asked("value-scale", choose(steps=9), "split-six+black")
    cells = sorted(scale.cells, key=lambda cell: cell.hvc.value)
    stride = cells[1].lab[0] - cells[0].lab[0]
    changed = {cells[0].id: (cells[0].lab[0] + 1.6 * stride, 0.0, 0.0)}
    changed[cells[5].id] = (cells[6].lab[0] - 0.5, 0.0, 0.0)
    kinds = [finding.kind for finding in found(scale, changed)]
    assert FindingKind.TOGETHER in kinds
    assert kinds.index(FindingKind.SHORT_DARK) < kinds.index(FindingKind.TOGETHER)
