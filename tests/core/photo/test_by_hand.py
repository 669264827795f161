"""An outline placed by a person: a sheet without marks is read, and what can't be is refused."""

from dataclasses import replace

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.errors import BadOutline
from noema.core.photo.by_hand import Outline, box_of, outline_of, place_by_hand, read_by_hand
from noema.core.photo.knowledge import Knowledge
from noema.core.photo.marks import find_marks
from noema.core.photo.reading import SheetFlag
from noema.core.photo.straighten import place_page, to_picture
from noema.core.sheet.drawing import Drawing
from noema.formats.outline_json import outline_from_json, outline_to_json
from noema.formats.photo_file import open_photo
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.painter import Hand
from noema.stand_ins.studio import take_picture
from tests.core.photo.sheets import sheet_with_code

LAYOUT, PDF = sheet_with_code("K7Q2-04")
SIZE = (1600, 1200)
HAND = Hand(step_noise=0.1, missed=0.0, ragged_mm=0.3)
SQUARE = ((0.2, 0.3), (0.8, 0.3), (0.8, 0.6), (0.2, 0.6))


@pytest.fixture(scope="module")
def taken():
    return take_picture(LAYOUT, PDF, seed=21, preset="easy", hand=HAND, size_px=SIZE)


@pytest.fixture(scope="module")
def sketchbook():
    """The same exercise painted on a page with nothing printed on it."""
    bare = Drawing(width_mm=LAYOUT.width_mm, height_mm=LAYOUT.height_mm, title="bare", items=())
    pdf = sheets_pdf([bare], "bare")
    return take_picture(LAYOUT, pdf, seed=21, preset="easy", hand=HAND, size_px=SIZE)


@pytest.fixture(scope="module")
def placed(taken):
    """How the page lies: both pictures are taken from the same place."""
    return place_page(find_marks(open_photo(taken.jpeg).rgb), LAYOUT.markers)


def at(placed, *points_mm):
    return tuple((x, y) for x, y in (to_picture(placed, points_mm) / SIZE).tolist())


def errors(read, taken):
    cells = zip(read.reading.cells, taken.truth, strict=True)
    return np.array([ciede2000(cell.lab, truth.lab) for cell, truth in cells])


def test_a_printed_sheet_is_read_as_well_as_by_its_marks(taken, placed):
    picture = open_photo(taken.jpeg)
    read = read_by_hand(picture, outline_of(placed, LAYOUT, SIZE), LAYOUT)
    assert np.median(errors(read, taken)) < 3.0
    assert read.reading.knowledge[0] is Knowledge.BY_HAND
    assert Knowledge.UNPRINTED not in read.reading.knowledge
    assert SheetFlag.NO_REFERENCE not in read.reading.flags


def test_a_sketchbook_page_is_read_with_wider_doubt(sketchbook, taken, placed):
    outline = replace(outline_of(placed, LAYOUT, SIZE), paper=at(placed, (40.0, 40.0)))
    read = read_by_hand(open_photo(sketchbook.jpeg), outline, LAYOUT)
    assert read.reading.knowledge == (Knowledge.BY_HAND, Knowledge.UNPRINTED)
    off, sigma = errors(read, sketchbook), [cell.sigma for cell in read.reading.cells]
    assert np.all(off < 2.5 * np.array(sigma))
    lightness = [cell.lab[0] for cell in read.reading.cells]
    assert lightness == sorted(lightness)
    printed = read_by_hand(open_photo(taken.jpeg), replace(outline, paper=()), LAYOUT)
    assert np.median(sigma) > np.median([cell.sigma for cell in printed.reading.cells])


def test_without_print_bare_paper_must_be_clicked(sketchbook, placed):
    outline = outline_of(placed, LAYOUT, SIZE)
    with pytest.raises(BadOutline, match="click bare paper"):
        read_by_hand(open_photo(sketchbook.jpeg), outline, LAYOUT)


def test_a_moved_cell_is_read_where_it_was_moved_to(taken, placed):
    picture, outline = open_photo(taken.jpeg), outline_of(placed, LAYOUT, SIZE)
    width = np.ptp(np.array(LAYOUT.cells[0].polygon_mm)[:, 0])
    gap = LAYOUT.cells[1].polygon_mm[0][0] - LAYOUT.cells[0].polygon_mm[0][0]
    assert gap >= width
    moved = replace(outline, nudges={LAYOUT.cells[0].id: (gap, 0.0)})
    cells = read_by_hand(picture, moved, LAYOUT).reading.cells
    assert float(ciede2000(cells[0].lab, cells[1].lab)) < 1.0


def test_sides_bend_the_page_and_corners_stay():
    straight = Outline(corners=SQUARE)
    bent = replace(straight, sides=((0.5, 0.25), (0.8, 0.45), (0.5, 0.65), (0.2, 0.45)))
    frame = box_of(LAYOUT)
    placed = place_by_hand(bent, LAYOUT, SIZE)
    assert to_picture(placed, frame) / SIZE == pytest.approx(np.array(SQUARE), abs=1e-6)
    top = ((frame[0][0] + frame[1][0]) / 2.0, frame[0][1])
    assert to_picture(placed, (top,))[0] / SIZE == pytest.approx(np.array([0.5, 0.25]), abs=1e-6)
    flat = place_by_hand(straight, LAYOUT, SIZE)
    assert to_picture(flat, (top,))[0] / SIZE == pytest.approx(np.array([0.5, 0.3]), abs=1e-6)


@pytest.mark.parametrize(
    ("corners", "words"),
    [
        ((SQUARE[0], SQUARE[2], SQUARE[1], SQUARE[3]), "cross"),
        ((SQUARE[0],) * 4, "cross"),
        (SQUARE[:3], "four corners"),
        (((9.0, 0.0), *SQUARE[1:]), "far outside"),
        (((float("nan"), 0.0), *SQUARE[1:]), "far outside"),
    ],
)
def test_what_cant_be_a_page_is_refused(corners, words):
    with pytest.raises(BadOutline, match=words):
        Outline(corners=corners)


def test_a_side_bent_too_far_is_refused():
    bent = Outline(corners=SQUARE, sides=((0.5, 0.9), (0.8, 0.45), (0.5, 0.6), (0.2, 0.45)))
    with pytest.raises(BadOutline, match="bent too far"):
        place_by_hand(bent, LAYOUT, SIZE)


def test_outlines_come_back_from_the_record_as_they_went():
    outline = Outline(corners=SQUARE, sides=SQUARE, paper=((0.1, 0.1),), nudges={"c1": (1.5, -2.0)})
    assert outline_from_json(outline_to_json(outline)) == outline


@pytest.mark.parametrize(
    "given", [None, {}, {"corners": [[1], [2], [3], [4]]}, {"corners": "abcd"}]
)
def test_a_broken_record_is_refused(given):
    with pytest.raises(BadOutline, match="place it once more"):
        outline_from_json(given)
