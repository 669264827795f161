"""Readings and judgements come back from JSON as they went."""

import json

import pytest

from noema.core.errors import BadFile
from noema.core.exercises.levels import Key, Level
from noema.core.judging.judge import judge
from noema.core.judging.tally import tally_of
from noema.core.photo.reading import CellFlag
from noema.formats.judgement_json import (
    judgement_from_json,
    judgement_to_json,
    tally_from_json,
    tally_to_json,
)
from noema.formats.reading_json import reading_from_json, reading_from_text, reading_to_json
from tests.core.exercises.grounds import plain
from tests.core.judging.scales import read_as

READING = read_as((2.5, 4.1, 6.3, 5.9, 9.5), flags={2: (CellFlag.UNEVEN,)}, coverage={3: 0.8})
JUDGEMENT = judge(READING, plain(5), Key.OWN_ENDS, Level.ADVANCED)


def through_text(values):
    return json.loads(json.dumps(values))


def test_a_reading_comes_back():
    back = reading_from_json(through_text(reading_to_json(READING, "a.jpg")))
    assert [cell.flags for cell in back.cells] == [cell.flags for cell in READING.cells]
    assert reading_to_json(back, "a.jpg") == reading_to_json(READING, "a.jpg")


def test_a_judgement_comes_back():
    back = judgement_from_json(through_text(judgement_to_json(JUDGEMENT)))
    assert judgement_to_json(back) == judgement_to_json(JUDGEMENT)
    assert [cell.verdict for cell in back.cells] == [cell.verdict for cell in JUDGEMENT.cells]
    assert [finding.kind for finding in back.findings] == [f.kind for f in JUDGEMENT.findings]


def test_a_tally_says_the_same_as_its_judgement():
    tally = tally_from_json(through_text(tally_to_json(tally_of(JUDGEMENT))))
    assert tally.ids == tuple(cell.id for cell in JUDGEMENT.cells)
    assert tally.verdicts == tuple(cell.verdict for cell in JUDGEMENT.cells)
    assert tally.drifts == pytest.approx([cell.drift for cell in JUDGEMENT.cells], abs=1e-3)
    assert tally.said == tally_of(JUDGEMENT).said
    assert tally.skills == {}


def test_a_tally_keeps_what_skills_are_summed_up_from():
    written = tally_of(JUDGEMENT)
    back = tally_from_json(through_text(tally_to_json(written)), skills=True)
    assert back.skills.keys() == written.skills.keys() != set()
    for skill, by_cell in written.skills.items():
        for cell, pair in by_cell.items():
            assert back.skills[skill][cell] == pytest.approx(pair, abs=1e-3)


def test_a_reading_by_another_reader_needs_no_extras():
    given = through_text(reading_to_json(READING, None))
    for cell in given["cells"]:
        for extra in ("sigma_value", "sigma_step", "coverage"):
            del cell[extra]
    del given["reader"]
    back = reading_from_json(given)
    assert back.reader == "unknown"
    assert back.cells[0].sigma_value == pytest.approx(0.1)


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("", "not JSON"),
        ("not json", "not JSON"),
        ("[]", "incomplete"),
        ('{"sheet": null, "found": true}', "incomplete"),
        ('{"sheet": "x", "found": true, "flags": ["odd"], "cells": []}', "odd"),
        ('{"sheet": "x", "found": true, "flags": [], "cells": [{"id": "c1"}]}', "incomplete"),
    ],
)
def test_other_readings_are_refused(text, reason):
    with pytest.raises(BadFile, match=reason):
        reading_from_text(text)
