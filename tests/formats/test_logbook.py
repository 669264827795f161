"""A logbook keeps what stands in it, in every form."""

import json
from xml.etree import ElementTree

from hypothesis import given, settings
from hypothesis import strategies as st

from noema.core.bench.task import Amount
from noema.core.logbook.entry import Entry, EntryKind, nearest
from noema.formats.logbook import (
    logbook_cgats,
    logbook_csv,
    logbook_from_csv,
    logbook_gpl,
    logbook_json,
    logbook_svg,
)
from noema.formats.measurements import samples_from_text

words = st.text(st.characters(exclude_categories=["C", "Z"]), min_size=1, max_size=30)
entries = st.builds(
    Entry,
    kind=st.sampled_from(EntryKind),
    title=words,
    lab=st.tuples(st.floats(0, 100), st.floats(-100, 100), st.floats(-100, 100)),
    parts=st.lists(
        st.builds(
            Amount, tube=st.sampled_from(["rose", "cyan"]), volume=st.sampled_from([0.5, 1.0, 24.0])
        ),
        max_size=3,
    ).map(tuple),
    words=st.one_of(st.just(""), words),
)
TWO = (
    Entry(kind=EntryKind.NOTE, title="=grey & <warm>", lab=(50.0, 1.0, 2.0)),
    Entry(kind=EntryKind.CELL, title="red", lab=(45.0, 60.0, 40.0), asked=(46.0, 58.0, 41.0)),
)


@settings(deadline=None)
@given(st.lists(entries, max_size=5))
def test_what_goes_out_as_csv_comes_back(given_entries):
    back = logbook_from_csv(logbook_csv(given_entries))
    assert [one.title for one in back] == [one.title for one in given_entries]
    for one, other in zip(back, given_entries, strict=True):
        assert (one.kind, one.parts, one.words) == (other.kind, other.parts, other.words)
        assert all(abs(x - y) <= 0.0051 for x, y in zip(one.lab, other.lab, strict=True))


def test_a_spreadsheet_takes_no_title_for_a_formula():
    assert "\nnote,'=grey" in logbook_csv(TWO).replace("\r\n", "\n")


def test_other_programs_can_read_it():
    told = json.loads(logbook_json(TWO))
    assert told["format"] == "noema-logbook/1"
    assert told["entries"][1]["asked"] == [46.0, 58.0, 41.0]
    assert [sample.lab for sample in samples_from_text(logbook_cgats(TWO))] == [
        one.lab for one in TWO
    ]
    drawn = ElementTree.fromstring(logbook_svg(TWO))
    assert [rect.get("fill") for rect in drawn] != []
    assert drawn[0][0].text == "=grey & <warm>"
    palette = logbook_gpl(TWO, "Ada").splitlines()
    assert palette[:2] == ["GIMP Palette", "Name: Ada"]
    assert len(palette[-1].split("\t")[0].split()) == 3
    assert palette[-1].endswith("\tred")


def test_nothing_has_no_nearest():
    assert nearest([], (50.0, 0.0, 0.0)) == ()
    assert logbook_from_csv("L,a,b\n") == ()
