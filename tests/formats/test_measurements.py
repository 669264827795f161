"""Measured colours in, and mixes and sets as people write them."""

import numpy as np
import orjson
import pytest

from noema.core.errors import BadFile, BadPaint
from noema.core.pigments.drying import Binder
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.shelf import TUBES, builtin_set
from noema.formats.measurements import (
    Sample,
    lab_from_text,
    samples_from_bytes,
    samples_from_text,
    samples_to_cgats,
)
from noema.formats.mix_text import mix_from_text, mix_to_text
from noema.formats.set_json import set_from_json, set_to_json

CGATS = """CGATS.17
ORIGINATOR "some meter"
NUMBER_OF_FIELDS 5
BEGIN_DATA_FORMAT
SAMPLE_ID SAMPLE_NAME LAB_L LAB_A LAB_B
END_DATA_FORMAT
NUMBER_OF_SETS 2
BEGIN_DATA
1 "crimson masstone" 28.10 39.20 17.00
2 tint 60.5 41.0 1.5
END_DATA
"""


def test_cgats_text_is_read_and_written():
    samples = samples_from_bytes(CGATS.encode())
    assert samples == (
        Sample(name="crimson masstone", lab=(28.1, 39.2, 17.0)),
        Sample(name="tint", lab=(60.5, 41.0, 1.5)),
    )
    assert samples_from_text(samples_to_cgats(samples)) == samples


@pytest.mark.parametrize(
    "text",
    [
        "name,L,a,b\nmasstone,45,60,40\n",
        "L*;a*;b*;label\n45,0;60,0;40,0;masstone\n",
        "name,L,a,b\rmasstone,45,60,40\r",
        "# D50\nLAB_L\tLAB_A\tLAB_B\tSAMPLE_NAME\n45\t60\t40\tmasstone\n\n",
    ],
)
def test_csv_of_several_kinds(text):
    assert samples_from_bytes(text.encode("utf-8-sig")) == (
        Sample(name="masstone", lab=(45.0, 60.0, 40.0)),
    )


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("L,a,b\n45,60,x\n", "line 2: b\\* is not a number"),
        ("L,a\n45,60\n", "line 2: no column for b\\*"),
        ("L,a,b\n45,60\n", "line 2: 2 columns where the header has 3"),
        ("L,a,b\n145,60,2\n", "line 2: L\\* lies outside 0 to 100"),
        ("L,a,b\n45,nan,2\n", "line 2: a\\* is not a colour's number"),
        ("L,a,b\n" + "1" * 200_000, "rows can't be told apart"),
        ("", "holds no measured colours"),
        ("L,a,b\n", "holds no measured colours"),
        (CGATS.replace("41.0", "many"), "line 10: a\\* is not a number"),
        (CGATS.replace('masstone"', "masstone"), "line 9: a quotation mark isn't closed"),
        (CGATS.replace("LAB_B\n", "XYZ_Z\n"), "line 9: no column for b\\*"),
    ],
)
def test_what_cannot_be_read_is_refused_by_line(text, sentence):
    with pytest.raises(BadFile, match=sentence):
        samples_from_text(text)


def test_one_typed_colour():
    assert lab_from_text(" 45.1, 62 44.5 ", "masstone") == (45.1, 62.0, 44.5)
    with pytest.raises(BadFile, match="masstone: type three numbers"):
        lab_from_text("45 62", "masstone")


@pytest.mark.parametrize(
    ("text", "sentence"),
    [
        ("rose:1, phtalo-blue:2", "column 9: There is no “phtalo-blue”"),
        ("rose:one", "column 6: the amount “one” is not a number"),
        ("rose:0", "column 6: the amount must be above 0"),
        ("rose:-2", "column 6: the amount must be above 0"),
        ("rose:inf", "column 6: the amount must be above 0"),
        ("rose:nan", "column 6: the amount must be above 0"),
        ("rose:1,,white:2", "column 8: a tube's name is missing"),
        ("", "column 1: a tube's name is missing"),
        (":3", "column 1: a tube's name is missing"),
    ],
)
def test_a_mix_that_is_none_is_refused_by_column(text, sentence):
    with pytest.raises(BadPaint, match=sentence):
        mix_from_text(text, builtin_set("all"))


def test_a_mix_is_written_as_it_can_be_read():
    parts = mix_from_text("rose : 3 ,white:1.5", builtin_set("all"))
    assert mix_to_text(parts) == "rose:3, titanium-white:1.5"
    assert mix_from_text(mix_to_text(parts), builtin_set("all")) == parts


def own_set(tube: dict) -> bytes:
    return orjson.dumps(
        {"format": "noema-set/1", "name": "ours", "medium": "gouache", "tubes": ["rose", tube]}
    )


def test_a_set_with_an_own_tube_is_fitted_written_and_read_again():
    masstone = mix_labs([TUBES["scarlet"]], [1]) + [2.0, 3.0, -2.0]
    swatch = {"label": "masstone", "lab": masstone.tolist()}
    tube = {"name": "our-red", "label": "our red", "base": "scarlet", "swatches": [swatch]}
    paints = set_from_json(own_set(tube))
    assert paints.binder is Binder.GOUACHE
    assert mix_labs([paints.tube("our-red")], [1]) == pytest.approx(masstone, abs=1.0)
    again = set_from_json(set_to_json(paints))
    assert [t.name for t in again.tubes] == ["rose", "our-red"]
    assert np.allclose(again.tube("our-red").absorption, paints.tube("our-red").absorption, 1e-4)


def test_an_own_white_stays_a_white():
    swatch = {"label": "masstone", "lab": [95.0, -0.5, 2.0]}
    tube = {"name": "our-white", "base": "titanium-white", "swatches": [swatch]}
    paints = set_from_json(own_set(tube))
    assert paints.white.name == "our-white"
    assert set_from_json(set_to_json(paints)).tube("white").name == "our-white"


@pytest.mark.parametrize(
    ("content", "sentence"),
    [
        (b'{"format": ', "line 1, column"),
        (b"[]", "isn't a paint set"),
        (b'{"format": "noema-set/1"}', "no list of tubes"),
        (b'{"format": "noema-set/1", "tubes": ["mauve"]}', "no built-in tube “mauve”"),
        (b'{"format": "noema-set/1", "tubes": [3]}', "Tube 1 of the set has no name"),
        (b'{"format": "noema-set/1", "tubes": [{"name": "a b", "absorption": []}]}', "can't be a"),
        (own_set({"name": "rose", "absorption": [1] * 31, "scattering": [1] * 31}), "built-in"),
        (own_set({"name": "x", "absorption": [1, 2], "scattering": [1] * 31}), "31 numbers"),
        (own_set({"name": "x", "base": "rose", "swatches": [{"lab": [1]}]}), "three numbers"),
        (own_set({"name": "x", "base": "rose", "swatches": 7}), "can't be read"),
        (b'{"format": "noema-set/1", "medium": "mud", "tubes": ["rose"]}', "“mud” isn't known"),
    ],
)
def test_a_file_that_is_no_set_is_refused(content, sentence):
    with pytest.raises((BadFile, BadPaint), match=sentence):
        set_from_json(content)
