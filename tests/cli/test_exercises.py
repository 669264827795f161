"""noema expect and noema sheet for every kind, from a shell."""

import json

import jsonschema
import pytest
from click.testing import CliRunner

from noema.cli.command import noema as commands
from noema.core.exercises.catalogue import KINDS
from tests.cli.test_commands import noema
from tests.core.sheet.test_worksheet import SCHEMA


def here(*arguments):
    """The same commands without a process of their own, which takes a second to begin."""
    answer = CliRunner().invoke(commands, [str(argument) for argument in arguments])
    assert answer.exit_code == 0, answer.output
    return answer.output


@pytest.mark.parametrize("kind", KINDS)
def test_expect_and_sheet_name_the_same_cells(kind, tmp_path):
    expected = json.loads(here("expect", kind, "--set", "split-six+black", "--json"))
    out = tmp_path / "sheet"
    with_black = ("--set", "split-six+black")
    here("sheet", kind, *with_black, "--code", "K7Q2-04", "--key-sheet", "--out", out)
    layout = json.loads((out / "layout.json").read_text())
    jsonschema.validate(layout, SCHEMA)
    assert [c["id"] for c in layout["cells"]] == [c["id"] for c in expected["cells"]]
    for cell in expected["cells"]:
        assert set(cell) >= {"id", "label", "lab", "hvc", "parts", "note"}
        assert sum(cell["parts"].values()) == pytest.approx(1.0, abs=1e-3)
    assert (out / "sheet.pdf").read_bytes().startswith(b"%PDF")
    assert (out / "key.pdf").read_bytes().startswith(b"%PDF")
    assert "<svg" in (out / "sheet.svg").read_text()


def test_the_plain_scale_keeps_its_own_sheet(tmp_path):
    made = noema("sheet", "value-scale", "--steps", 9, "--code", "K7Q2-04", "--out", tmp_path)
    assert made.returncode == 0
    layout = json.loads((tmp_path / "layout.json").read_text())
    assert layout["print"]["grey_only"]
    assert [c["id"] for c in layout["cells"]] == [f"c{n}" for n in range(1, 10)]


def test_options_reach_the_exercise():
    wheel = here("expect", "colour-wheel", "--hues", 6, "--ring", "tint-in", "--json")
    assert len(json.loads(wheel)["cells"]) == 12
    ladder = here("expect", "tint-ladder", "--tubes", "rose,scarlet", "--steps", 5, "--json")
    assert [row["label"] for row in json.loads(ladder)["rows"]] == ["rose", "scarlet"]
    chart = here("expect", "intensity-chart", "--pairs", "red-green", "--steps", 9)
    assert "red and green:" in chart
    assert "! In red and green" in chart


def test_targets_come_from_a_file(tmp_path):
    file = tmp_path / "targets.csv"
    file.write_text("L,a,b\n60,30,10\n50,0,0\n70,5,60\n40,-20,-10\n")
    match = json.loads(noema("expect", "colour-match", "--targets", file, "--json").stdout)
    assert len(match["cells"]) == 4
    file.write_text("L,a,b\n60,30,x\n")
    assert "line 2: b* is not a number" in noema("expect", "colour-match", "--targets", file).stderr


@pytest.mark.parametrize(
    ("arguments", "sentence"),
    [
        (["expect", "finger-painting"], "There is no exercise “finger-painting”"),
        (["expect", "tint-ladder", "--steps", "0"], "3 to 11 steps, not 0"),
        (["expect", "tint-ladder", "--set", "nothing"], "There is no paint set “nothing”"),
        (["expect", "tint-ladder", "--tubes", "mauve"], "There is no “mauve”"),
        (["sheet", "colour-wheel", "--hues", "24", "--ring", "shade", "--code", "K7Q2-04",
          "--out", "x"], "under 12 mm"),
        (["sheet", "value-scale", "--steps", "0", "--code", "K7Q2-04", "--out", "x"], "5 to 11"),
        (["sheet", "value-scale", "--code", "what", "--out", "x"], "is no sheet code"),
    ],
)  # fmt: skip
def test_bad_calls_end_with_2_and_one_line(arguments, sentence):
    answer = noema(*arguments)
    assert answer.returncode == 2
    assert sentence in answer.stderr
    assert answer.stderr.count("\n") == 1
