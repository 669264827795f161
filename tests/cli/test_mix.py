"""noema mix and noema hvc from a shell: answers, and refusals in one line."""

import json

import orjson
import pytest

from noema.core.pigments.mix import mix_labs
from noema.core.pigments.shelf import TUBES
from tests.cli.test_commands import noema


def test_mix_prints_a_line_for_each_mix():
    mixes = ["lemon-yellow:4, phthalo-blue:1", "rose:1, white:6"]
    answer = noema("mix", "--set", "split-six", *mixes, "--json")
    lines = [json.loads(line) for line in answer.stdout.splitlines()]
    assert answer.returncode == 0
    assert [line["mix"] for line in lines] == mixes
    assert all(set(line) == {"mix", "lab", "hvc", "lean"} for line in lines)
    truth = mix_labs([TUBES["lemon-yellow"], TUBES["phthalo-blue"]], [4, 1])
    assert lines[0]["lab"] == pytest.approx(truth, abs=1e-3)
    assert lines[0]["lean"] == "green, leans to blue"
    assert lines[1]["hvc"]["value"] > 5


def test_mix_without_json_speaks_to_people():
    answer = noema("mix", "ultramarine:1, white:9")
    assert answer.stdout.startswith("ultramarine:1, white:9: ")
    assert "blue, leans to violet; middle, strong" in answer.stdout


def test_mix_lists_sets_and_tubes():
    answer = noema("mix", "--list")
    assert "split-six: lemon-yellow, warm-yellow" in answer.stdout
    assert answer.stdout.count("\n") == 5 + 1 + 25


def test_mix_reads_a_set_from_a_file_in_its_own_medium(tmp_path):
    file = tmp_path / "ours.json"
    body = {"format": "noema-set/1", "name": "ours", "medium": "gouache", "tubes": ["rose"]}
    file.write_bytes(orjson.dumps(body))
    gouache = json.loads(noema("mix", "--set", file, "rose", "--json").stdout)
    acrylic = json.loads(noema("mix", "rose", "--json").stdout)
    assert gouache["hvc"]["value"] > acrylic["hvc"]["value"]


@pytest.mark.parametrize(
    ("arguments", "sentence"),
    [
        (["rose:1", "rose:2, mauve"], "mix 2, column 9: There is no “mauve”"),
        (["rose:x"], "mix 1, column 6: the amount “x” is not a number"),
        (["--set", "nothing", "rose"], "There is no paint set “nothing”"),
        (["--set", "missing.json", "rose"], "missing.json"),
        ([], "Name at least one mix"),
    ],
)
def test_bad_calls_end_with_2_and_one_line(arguments, sentence):
    answer = noema("mix", *arguments)
    assert answer.returncode == 2
    assert sentence in answer.stderr
    assert answer.stderr.count("\n") == 1
    assert answer.stdout == ""


def test_hvc_refuses_by_line_and_column():
    answer = noema("hvc", given="50,1,2\n50,1,2\n50,1,two\n")
    assert answer.returncode == 2
    assert "line 3: b* is not a number" in answer.stderr
