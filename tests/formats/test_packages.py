"""Packages, zips and archives from elsewhere: good ones are read, all others refused whole."""

import csv
import re
import zipfile
from io import BytesIO, StringIO
from random import Random

import orjson
import pytest
from hypothesis import HealthCheck, example, given, settings
from hypothesis import strategies as st

from noema.core.errors import Refused
from noema.formats.key_json import key_from_json
from noema.formats.measurements import samples_from_bytes
from noema.formats.oneroster import READ, read_package, write_package
from noema.formats.roster import read_roster, roster_text
from noema.formats.safe_zip import ZipLimits, read_zip, write_zip
from noema.stand_ins.school_system import Mess, made_up_system
from tests.opened import archive_of, opened

SYSTEM = made_up_system(Random(5))
PACKAGE = SYSTEM.package()
SMALL = ZipLimits(entries=10, bytes_in_all=2**20, bytes_an_entry=2**19)
FUZZ = settings(max_examples=120, deadline=None, suppress_health_check=[HealthCheck.too_slow])


def zipped(entries, compression=zipfile.ZIP_DEFLATED):
    out = BytesIO()
    with zipfile.ZipFile(out, "w", compression) as packed:
        for name, body in entries:
            packed.writestr(name, body)
    return out.getvalue()


@pytest.mark.parametrize(
    ("data", "why"),
    [
        (b"", "no whole zip"),
        (b"PK\x03\x04 not really", "no whole zip"),
        (PACKAGE[: len(PACKAGE) // 2], "no whole zip"),
        (zipped([("../users.csv", "a")]), "leads out of it"),
        (zipped([("/etc/users.csv", "a")]), "leads out of it"),
        (zipped([("..\\users.csv", "a")]), "leads out of it"),
        (zipped([("C:users.csv", "a")]), "leads out of it"),
        (zipped([("more.zip", zipped([("a", "b")]))]), "packed file inside"),
        (zipped([("bomb", b"\0" * 2**21)]), "far more than it should"),
        (zipped([("one", b"\0" * (2**19 + 1))]), "too large"),
        (zipped([(str(n), "") for n in range(11)]), "far more than it should"),
    ],
)
def test_zips_that_cant_be_trusted_are_refused(data, why):
    with pytest.raises(Refused, match=why):
        read_zip(data, SMALL)


def test_a_zip_that_lies_of_its_size_is_read_no_further():
    data = bytearray(zipped([("a", b"\0" * 2**20)]))
    at = data.rindex(b"PK\x01\x02")
    data[at + 24 : at + 28] = (10).to_bytes(4, "little")  # the size it says
    with pytest.raises(Refused):
        read_zip(bytes(data), SMALL)


def test_the_same_entries_give_the_same_zip():
    entries = {"b": b"1", "a": b"2" * 999}
    assert write_zip(entries) == write_zip(dict(reversed(entries.items())))
    assert read_zip(write_zip(entries), SMALL) == entries


def test_a_package_is_read_with_every_row_and_nothing_private():
    found = read_package(PACKAGE)
    assert {kind: len(rows) for kind, rows in found.tables.items()} == {
        kind: len(SYSTEM.tables[kind]) for kind in READ
    }
    private = {"email", "phone", "username"}
    assert not any(private & set(row) for row in found.tables["users"].values())


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
def test_a_messy_package_is_read_as_far_as_it_makes_sense(encoding):
    mess = Mess(encoding=encoding, repeats=3, lost=2, in_folder=True)
    found = read_package(SYSTEM.package(mess))
    assert len(found.tables["users"]) == len(SYSTEM.tables["users"])
    assert sum("stands twice" in doubt.words for doubt in found.doubts) == 3


def test_version_1_2_is_read_though_roles_stand_elsewhere():
    tables = {name: [dict(row) for row in rows] for name, rows in SYSTEM.tables.items()}
    for row in tables["users"]:
        row.pop("role")
    entries = read_zip(write_package(tables), SMALL)
    entries["manifest.csv"] = entries["manifest.csv"].replace(
        b"oneroster.version,1.1", b"oneroster.version,1.2"
    )
    entries["roles.csv"] = b"sourcedId,userSourcedId,role\r\n"
    assert read_package(write_zip(entries)).version == "1.2"


def test_written_tables_are_proper_csv():
    odd = {"sourcedId": 'a"b,\n', "title": "=1+1", "status": "active"}
    body = read_zip(write_package({"categories": [odd]}), SMALL)["categories.csv"].decode()
    assert next(csv.DictReader(StringIO(body)))["sourcedId"] == odd["sourcedId"]


ROWS = {"school": [{"id": 1, "name": "A"}], "student": []}
ARCHIVE = archive_of("1", ROWS, {})


def test_an_archive_comes_back_and_a_changed_one_doesnt():
    assert opened(ARCHIVE).rows == ROWS
    entries = read_zip(ARCHIVE, SMALL)
    entries["tables/school.jsonl"] = orjson.dumps({"id": 2, "name": "A"}) + b"\n"
    with pytest.raises(Refused, match="was changed"):
        opened(write_zip(entries))
    del entries["tables/school.jsonl"]
    with pytest.raises(Refused, match="hasn't the parts"):
        opened(write_zip(entries))


@st.composite
def mutated(draw, good):
    """A good file with some bytes changed, cut off, or doubled."""
    data = bytearray(good)
    for _ in range(draw(st.integers(1, 6))):
        at = draw(st.integers(0, len(data) - 1))
        data[at] = draw(st.integers(0, 255))
    cut = draw(st.integers(1, len(data)))
    return bytes(data[:cut]) if draw(st.booleans()) else bytes(data)


def read_or_refused(read, data):
    try:
        read(data)
    except Refused as refusal:
        said = str(refusal)
    else:
        said = "it was read"
    assert said.strip()


CGATS = b"""CGATS.17
BEGIN_DATA_FORMAT
SAMPLE_NAME LAB_L LAB_A LAB_B
END_DATA_FORMAT
NUMBER_OF_SETS 1
BEGIN_DATA
"a" 50 1 2
END_DATA
"""
NAMES = "given name,family name\nÉlise,Böhm\nJörg,Jung\n".encode()


@FUZZ
@given(mutated(PACKAGE))
def test_no_package_breaks_anything(data):
    read_or_refused(read_package, data)


def test_an_entry_without_a_name_is_refused():
    names = [place.start() for place in re.finditer(b"manifest.json", ARCHIVE)]
    nameless = bytearray(ARCHIVE)
    length = names[-1] - 46 + 28  # where the central directory says how long the name is
    nameless[length : length + 2] = b"\x00\x00"
    nameless[length + 4 : length + 6] = (13).to_bytes(2, "little")  # it is a comment instead
    with pytest.raises(Refused):
        opened(bytes(nameless))


@FUZZ
@given(mutated(ARCHIVE))
def test_no_archive_breaks_anything(data):
    read_or_refused(opened, data)


@FUZZ
@given(st.one_of(mutated(CGATS), st.binary(max_size=300)))
@example(b"\r\x00")
@example(b"l,a,b\n" + b"1" * 200_000)
def test_no_measurement_file_breaks_anything(data):
    read_or_refused(samples_from_bytes, data)


@FUZZ
@given(st.one_of(mutated(NAMES), st.binary(max_size=300)))
def test_no_roster_breaks_anything(data):
    read_or_refused(lambda sent: read_roster(roster_text(sent)), data)


@FUZZ
@given(
    st.one_of(
        st.binary(max_size=200),
        st.recursive(
            st.none() | st.booleans() | st.floats() | st.text(),
            lambda inner: (
                st.lists(inner, max_size=3) | st.dictionaries(st.text(), inner, max_size=3)
            ),
        ).map(orjson.dumps),
    )
)
def test_no_key_file_breaks_anything(data):
    read_or_refused(key_from_json, data)


@FUZZ
@given(
    st.dictionaries(
        st.sampled_from([f"{n}.csv" for n in READ]), st.text(max_size=120).map(str.encode)
    )
)
def test_no_tables_of_a_package_break_anything(entries):
    read_or_refused(read_package, write_zip(entries))


def test_text_that_is_a_formula_elsewhere_is_written_plainly_and_comes_back():
    name = "=1+1"
    data = write_package(
        {
            "classes": [{"sourcedId": "c", "title": name}],
            "users": [
                {"sourcedId": "u", "givenName": "@Ada", "familyName": "-x", "role": "student"}
            ],
            "enrollments": [],
        }
    )
    with zipfile.ZipFile(BytesIO(data)) as package:
        assert "'=1+1" in package.read("classes.csv").decode()
    tables = read_package(data).tables
    assert tables["classes"]["c"]["title"] == name
    assert (tables["users"]["u"]["givenName"], tables["users"]["u"]["familyName"]) == ("@Ada", "-x")
