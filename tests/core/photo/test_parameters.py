"""Every number the reader goes by is explained, and where it says it comes from is there."""

import re
from dataclasses import fields, replace
from pathlib import Path

import pytest

from noema.core.parameters import explained
from noema.core.photo.read import READER, read_photo
from noema.formats.photo_file import open_photo
from noema.stand_ins.studio import take_picture
from tools.photographs import sheet_of

ROOT = Path(__file__).parents[3]
NUMBERS = [
    (stage.name, number)
    for stage in fields(READER)
    for number in explained(getattr(READER, stage.name))
]


@pytest.mark.parametrize(("stage", "number"), NUMBERS, ids=lambda one: getattr(one, "name", one))
def test_a_number_has_a_sentence_and_a_source(stage, number):
    assert number.sentence.endswith(".")
    assert number.source
    for tool in re.findall(r"tools/\w+\.py", number.source):
        assert (ROOT / tool).exists()
    if re.search(r"_(mm|px|byte)$", number.name):
        assert number.unit


def test_what_is_passed_is_what_is_gone_by():
    layout, pdf = sheet_of(3)
    picture = open_photo(take_picture(layout, pdf, seed=3, preset="easy", size_px=(1200, 900)).jpeg)
    usual = read_photo(picture, layout).reading
    doubting = replace(READER, doubt=replace(READER.doubt, wider=2.1, lamp_untold=2.6))
    wider = read_photo(picture, layout, parameters=doubting).reading
    assert [cell.sigma for cell in wider.cells] == pytest.approx(
        [2.0 * cell.sigma for cell in usual.cells], rel=0.1
    )
    blind = replace(READER, identify=replace(READER.identify, looks=((60, False),)))
    assert not read_photo(picture, layout, parameters=blind).reading.found
