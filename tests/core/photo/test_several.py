"""Several sheets in one photograph are told apart and each is read."""

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.photo.marks import find_marks
from noema.core.photo.picture import Picture
from noema.core.photo.read import read_photo
from noema.core.photo.reading import SheetFlag
from noema.core.photo.several import sheets_in
from noema.core.photo.stages.identify import identify
from noema.core.sheet.paper import LANDSCAPE, Paper
from noema.formats.photo_file import open_photo
from noema.stand_ins.camera import photograph
from noema.stand_ins.printer import Press, print_page
from noema.stand_ins.shot import Shot
from tests.core.photo.sheets import sheet_with_code

CODES = ("K7Q2-04", "K7Q2-05", "K7Q2-06")
SIZE = (1500, 1125)


def seen(code: str, turn: float) -> np.ndarray:
    _, pdf = sheet_with_code(code)
    shot = Shot(turn=turn, tilt=12.0, fill=0.9)
    page = print_page(pdf, 0, Press(), 8.0)
    return open_photo(photograph(page, shot, SIZE, default_rng(3))).rgb


@pytest.fixture(scope="module")
def together() -> Picture:
    """Three sheets on one desk, one of them upside down."""
    three = [seen(code, turn) for code, turn in zip(CODES, (0.0, 170.0, 20.0), strict=True)]
    desk = np.full_like(three[0], 90)
    return Picture(rgb=np.vstack([np.hstack(three[:2]), np.hstack([three[2], desk])]))


def test_each_sheet_is_found_with_its_code(together):
    found = identify(together).sheets
    assert sorted(one.code for one in found) == sorted(CODES)
    assert all(len(set(one.marks.ids)) == len(one.marks.ids) for one in found)


@pytest.mark.parametrize("code", CODES)
def test_the_sheet_that_was_asked_for_is_read(together, code):
    layout, _ = sheet_with_code(code)
    reading = read_photo(together, layout).reading
    assert (reading.found, reading.sheet) == (True, code)


def test_where_none_is_the_one_asked_for_it_is_said(together):
    layout, _ = sheet_with_code("K7Q2-09")
    assert SheetFlag.WRONG_SHEET in read_photo(together, layout).reading.flags


def test_order_doesnt_depend_on_how_marks_were_found(together):
    found = find_marks(together.rgb)
    turned = type(found)(ids=found.ids[::-1], corners_px=found.corners_px[::-1].copy())
    markers = LANDSCAPE[Paper.A4].markers
    first, second = (sheets_in(marks, markers) for marks in (found, turned))
    places = [[one.corners_px.mean(axis=(0, 1)) for one in sheets] for sheets in (first, second)]
    assert np.allclose(*places)
