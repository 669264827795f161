"""The glossary speaks of code that is there, and says each word once."""

import re
from collections import Counter
from importlib import import_module
from pathlib import Path

import pytest

ROWS = [
    [part.strip() for part in line.strip("|").split("|")]
    for line in (Path(__file__).parents[1] / "docs/glossary.md").read_text().splitlines()
    if line.startswith("| ") and not line.startswith(("| word", "|---"))
]
GONE = ("Taught", "weigh_exercise", "keep_pictures", "speak_to_class", "pupil", "learner")


@pytest.mark.parametrize("row", ROWS, ids=lambda row: row[0])
def test_every_word_is_at_home_where_it_says(row):
    word, meaning, _, code = row
    assert word
    assert meaning
    module, name = re.fullmatch(r"`([\w.]+):(\w+)`", code).groups()
    assert hasattr(import_module(module), name)


def test_each_word_is_said_once():
    words = [word for row in ROWS for word in row[0].split(", ")]
    assert len(words) == len(set(words)) > 40


def test_words_that_were_given_up_are_gone():
    package = Path(__file__).parents[1] / "noema"
    for path in package.rglob("*.py"):
        if "migrations" not in path.parts:
            found = set(re.findall(r"[A-Za-z_]+", path.read_text(encoding="utf-8")))
            assert not found & set(GONE), path


def test_no_two_classes_have_one_name():
    package = Path(__file__).parents[1] / "noema"
    names = Counter(
        name
        for path in package.rglob("*.py")
        for name in re.findall(r"^class (\w+)", path.read_text(encoding="utf-8"), re.MULTILINE)
    )
    assert [name for name, times in names.items() if times > 1] == []
