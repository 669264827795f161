"""Progressions: branches of one hue, lightened by white or by a pale yellow."""

import json

import pytest
from click.testing import CliRunner

from noema.cli.command import noema as commands
from noema.core.errors import BadExercise
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.levels import Key, Level
from noema.core.judging.judge import judge
from noema.core.judging.verdict import Verdict
from noema.core.photo.read import read_photo
from noema.core.pigments.shelf import builtin_set
from noema.core.sheet.drawn_worksheet import Printed, draw_worksheet
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import worksheet_layout
from noema.formats.photo_file import open_photo
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.painter import Hand
from noema.stand_ins.sitting import recipe_of
from noema.stand_ins.studio import take_picture
from tests.core.exercises.grounds import asked, choose

SPLIT = "split-six+black"


def branch(lighten: str, label: str):
    exercise = asked("progression", choose(lighten=lighten), SPLIT)
    return next(band.cells for band in exercise.bands if band.label == label)


def test_three_branches_start_from_one_hue_and_end_in_the_light():
    exercise = asked("progression", choose(), SPLIT)
    assert [len(band.cells) for band in exercise.bands] == [5, 5, 5]
    assert len({band.label for band in exercise.bands}) == 3
    assert all(band.cells[0].is_end and band.cells[-1].is_end for band in exercise.bands)
    assert len({band.cells[-1].lab for band in exercise.bands}) == 1
    values = [cell.hvc.value for cell in exercise.bands[0].cells]
    assert values == sorted(values)


def test_pale_yellow_keeps_a_warm_branch_livelier_than_white():
    chalky, lively = (branch(light, "to warm yellow") for light in ("white", "pale-yellow"))
    for white, pale in zip(chalky[1:], lively[1:], strict=True):
        assert pale.hvc.chroma > white.hvc.chroma + 0.3


@pytest.mark.parametrize("tubes", [("rose",), ("scarlet", "rose", "warm-yellow", "ultramarine")])
def test_chosen_tubes_are_the_branches_or_too_few(tubes):
    if len(tubes) < 3:
        with pytest.raises(BadExercise, match="3 to 5 branches"):
            asked("progression", choose(tubes=tubes), SPLIT)
        return
    exercise = asked("progression", choose(tubes=tubes, hue="yellow"), SPLIT)
    assert [band.label for band in exercise.bands] == [
        "to scarlet",
        "to rose",
        "to warm yellow",
        "to ultramarine",
    ]


def test_without_a_yellow_there_is_no_pale_yellow():
    with pytest.raises(BadExercise, match="has no yellow"):
        asked("progression", choose(lighten="pale-yellow"), "darks")
    with pytest.raises(BadExercise, match="no lighten “black”"):
        asked("progression", choose(lighten="black"), SPLIT)


def test_it_is_asked_for_from_a_shell_like_the_rest():
    arguments = ["expect", "progression", "--lighten", "pale-yellow", "--steps", "4", "--json"]
    answer = CliRunner().invoke(commands, arguments)
    assert answer.exit_code == 0
    assert len(json.loads(answer.output)["cells"]) == 12
    assert kind_of("progression").label in json.loads(answer.output)["title"]


def test_a_sheet_of_it_is_printed_painted_read_and_judged():
    exercise = asked("progression", choose(), SPLIT)
    layout = worksheet_layout(exercise, Paper.A4, "K7Q2-04", grey_only=False)
    pdf = sheets_pdf([draw_worksheet(layout, exercise, Paper.A4, Printed())], "sheet")
    recipes = {cell.id: recipe_of(cell) for cell in exercise.cells}
    hand = Hand(step_noise=0.0, bunching=0.0, recipes=recipes)
    picture = take_picture(layout, pdf, seed=5, preset="easy", hand=hand, size_px=(2400, 1800))
    reading = read_photo(open_photo(picture.jpeg), layout).reading
    judged = judge(reading, exercise, Key.PAINTS, Level.BEGINNER, paints=builtin_set(SPLIT))
    assert judged.exercise == "progression"
    assert judged.count(Verdict.HOLDS) >= 10
    assert judged.count(Verdict.OFF) == 0


@pytest.mark.parametrize(("paints", "is_alone"), [("three-traditional", True), (SPLIT, False)])
def test_a_branch_by_itself_is_not_told_to_be_led_to_a_tube(paints, is_alone):
    exercise = asked("progression", choose(), paints)
    assert any(band.label == "by itself" for band in exercise.bands) is is_alone
    said = " ".join(exercise.how_to)
    assert ("The one by itself begins with red." in said) is is_alone
