"""noema values, spots and few-tubes: a picture from a shell."""

import json
import subprocess
import sys
from pathlib import Path

import pytest
from PIL import Image

from noema.core.pigments.shelf import builtin_set
from tests.core.pictures.painted import painted

NOEMA = Path(sys.executable).with_name("noema")


@pytest.fixture(scope="module")
def picture(tmp_path_factory):
    made = painted(builtin_set("split-six"), ["lemon-yellow", "ultramarine"], 2)
    path = tmp_path_factory.mktemp("pictures") / "harbour.png"
    Image.fromarray(made.rgb).save(path)
    return path


def run(*words):
    return subprocess.run([NOEMA, *map(str, words)], capture_output=True, text=True, check=False)


def test_values(picture):
    told = json.loads(run("values", picture, "--steps", 3, "--json").stdout)
    assert [one["value"] for one in told["shares"]] == [
        pytest.approx([10 * n / 3, 10 * (n + 1) / 3]) for n in range(3)
    ]
    assert sum(one["share"] for one in told["shares"]) == pytest.approx(1.0, abs=1e-3)
    assert all(0.0 <= part <= 1.0 for part in (*told["darkest"], *told["lightest"]))


def test_spots(picture):
    done = run("spots", picture, "--set", "split-six", "0.25,0.6", "0.9,0.1", "--json")
    first, second = (json.loads(line) for line in done.stdout.splitlines())
    assert first["place"] == [0.25, 0.6]
    assert set(first) == {"place", "lab", "hvc", "recipe", "reach"}
    assert second["recipe"]["parts"]


def test_few_tubes(picture):
    told = json.loads(
        run("few-tubes", picture, "--set", "split-six", "--tubes", 2, "--json").stdout
    )
    first = told["ranked"][0]
    assert set(first["tubes"]) == {"lemon-yellow", "ultramarine"}
    assert set(first) == {"tubes", "share_within", "median_de", "lost"}


@pytest.mark.parametrize(
    ("words", "sentence"),
    [
        (("spots", "{picture}", "--set", "split-six", "left"), "is no place"),
        (("spots", "{picture}", "--set", "split-six", "2,2"), "from 0 to 1"),
        (("few-tubes", "{picture}", "--set", "nothing"), "nothing"),
        (("values", "{text}"), "notes.txt"),
    ],
)
def test_what_cant_be_used_is_one_sentence(picture, tmp_path, words, sentence):
    text = tmp_path / "notes.txt"
    text.write_text("no picture")
    done = run(*(word.format(picture=picture, text=text) for word in words))
    assert done.returncode == 2
    assert len(done.stderr.splitlines()) == 1
    assert sentence in done.stderr
