"""Sentences to students are read by an eleven-year-old: grade by Flesch and Kincaid (1975).

Kincaid, Fishburne, Rogers and Chissom, "Derivation of New Readability Formulas for Navy Enlisted
Personnel", 1975: grade = 0.39 words a sentence + 11.8 syllables a word - 15.59. Age is grade and
five. Names of paints and hues are names: they count as one syllable, as the sheet in hand has them.
"""

import ast
import re
import tomllib
from pathlib import Path

import pyphen
import pytest

import noema
from noema.core.pigments.shelf import TUBES
from tests.core.exercises.grounds import EVERY, asked

OLDEST = 11.0
_ROOT = Path(noema.__file__).parent
_HYPHENS = pyphen.Pyphen(lang="en_GB")
_NAMES = re.compile("|".join(sorted((t.label for t in TUBES.values()), key=len, reverse=True)))
_FILLED = {
    "held": "5", "all": "9", "cells": "steps 2 and 3", "Cells": "Steps 2 and 3",
    "cell": "step 3", "Cell": "Step 3", "tube": "red", "own": "blue", "towards": "green",
    "move": "Add a touch of red.", "count": "3",
}  # fmt: skip


def syllables(word):
    """Count by where a word may be parted, and by its vowels; the larger is meant."""
    heard = re.sub(r"(?<=[^aeiouy])e(s|d)?$", "", word.lower())
    return max(len(_HYPHENS.inserted(word.lower()).split("-")), len(re.findall("[aeiouy]+", heard)))


def reading_age(text):
    sentences = [one for one in re.split(r"[.!?:;]+", text) if re.search(r"[a-z]", one)]
    words = re.findall(r"[A-Za-z’']+", text)
    grade = (
        0.39 * len(words) / len(sentences)
        + 11.8 * sum(syllables(word) for word in words) / len(words)
        - 15.59
    )
    return grade + 5.0


def to_children():
    data = tomllib.loads((_ROOT / "core/words/data/sentences.toml").read_text(encoding="utf-8"))
    for name, by_audience in data.items():
        for text in by_audience.get("child", ()):
            yield pytest.param(re.sub(r"\{(\w+)[^}]*\}", _fill, text), id=f"{name}: {text[:30]}")


def _fill(found):
    return _FILLED.get(found[1], "red")


def on_students_pages():
    folders = ("painting", "bench", "eye", "logbook", "joining")
    said = re.compile(r"_\('((?:[^'\\]|\\.)+)'\)")
    for folder in folders:
        for path in sorted((_ROOT / "web" / folder).glob("*.html")):
            for text in said.findall(path.read_text(encoding="utf-8")):
                if len(text.split()) >= 6:
                    yield pytest.param(text, id=f"{path.name}: {text[:40]}")


def in_python():
    """Sentences of modules that speak to students."""
    modules = (
        "web/painting",
        "web/returning/slip.py",
        "core/words/moves.py",
        "core/progress/seeing.py",
        "core/photo/aiming.py",
        "core/photo/hints.py",
        "core/photo/another.py",
    )
    for name in modules:
        path = _ROOT / name
        for file in sorted(path.glob("*.py")) if path.is_dir() else [path]:
            for node in ast.walk(ast.parse(file.read_text(encoding="utf-8"))):
                called = isinstance(node, ast.Call) and getattr(node.func, "id", "")
                if called in ("gettext", "N_") and isinstance(node.args[0], ast.Constant):
                    text = re.sub(r"%\((\w+)\)s", _fill, node.args[0].value)
                    if len(text.split()) >= 6:
                        yield pytest.param(text, id=f"{file.name}: {text[:40]}")


def on_sheets():
    """How to paint every kind, as it is printed."""
    for kind, wanted, name in EVERY:
        yield from asked(kind, wanted, name).how_to


@pytest.mark.parametrize("text", list(in_python()))
def test_a_child_can_read_what_pages_say_by_themselves(text):
    assert reading_age(text) <= OLDEST, round(reading_age(text), 1)


@pytest.mark.parametrize("text", sorted(set(on_sheets())))
def test_a_child_can_read_how_a_sheet_is_painted(text):
    assert reading_age(re.sub(_NAMES, "red", text)) <= OLDEST, text


@pytest.mark.parametrize("text", list(to_children()))
def test_a_child_can_read_what_is_said_of_their_sheet(text):
    assert reading_age(text) <= OLDEST, round(reading_age(text), 1)


@pytest.mark.parametrize("text", list(on_students_pages()))
def test_a_child_can_read_the_pages(text):
    assert reading_age(text) <= OLDEST, round(reading_age(text), 1)


def test_the_measure_tells_hard_from_easy():
    assert reading_age("Wash the brush. Take red from the tube.") < 8.0
    assert (
        reading_age(
            "Chromatic neutralisation requires comparatively sophisticated discrimination of hues."
        )
        > 16.0
    )
