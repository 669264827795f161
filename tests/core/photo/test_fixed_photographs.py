"""Kept photographs are read to the last kept digit as they were before.

Only where another processor rounds otherwise may that digit be its neighbour.
"""

import json
from collections.abc import Iterator
from pathlib import Path

import pytest

from noema.core.photo.read import read_photo
from noema.formats.layout_json import layout_from_text
from noema.formats.photo_file import open_photo
from noema.formats.reading_json import reading_to_json

PHOTOGRAPHS = sorted(Path(__file__).parent.glob("fixed/*.jpg"))


def test_some_photographs_are_kept():
    assert len(PHOTOGRAPHS) == 4


@pytest.mark.parametrize("photograph", PHOTOGRAPHS, ids=lambda path: path.stem)
def test_a_kept_photograph_is_read_as_before(photograph):
    layout = layout_from_text(photograph.with_suffix(".layout.json").read_text(encoding="utf-8"))
    kept = json.loads(photograph.with_suffix(".reading.json").read_text(encoding="utf-8"))
    reading = read_photo(open_photo(photograph.read_bytes()), layout).reading
    (now, words), (before, words_before) = (
        parted(one) for one in (reading_to_json(reading, photograph.stem), kept)
    )
    assert words == words_before
    assert len(now) == len(before)
    assert [(a, b) for a, b in zip(now, before, strict=True) if abs(a - b) > last_digit(b)] == []


def last_digit(kept: float) -> float:
    """Give a little more than what a kept number's last digit is worth."""
    return 1.1 * 10.0 ** -len(str(kept).partition(".")[2])


def parted(given: object) -> tuple[list[float], list[object]]:
    """Give all numbers of plain values, and all else, each in order."""
    leaves = list(leaves_of(given))
    numbers = [one for one in leaves if isinstance(one, float)]
    return numbers, [one for one in leaves if not isinstance(one, float)]


def leaves_of(given: object) -> Iterator[object]:
    if isinstance(given, dict):
        for name, part in sorted(given.items()):
            yield name
            yield from leaves_of(part)
    elif isinstance(given, list):
        for part in given:
            yield from leaves_of(part)
    else:
        yield given
