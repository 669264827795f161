"""The reader on stand-in photographs, against the truth the stand-in wrote down."""

from dataclasses import replace

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.colour.value import lightness_to_value
from noema.core.photo.knowledge import Knowledge
from noema.core.photo.picture import Picture
from noema.core.photo.read import read_photo
from noema.core.photo.reading import CellFlag, SheetFlag
from noema.core.photo.stages.identify import identify
from noema.formats.photo_file import open_photo
from noema.stand_ins.camera import photograph
from noema.stand_ins.painter import Hand, intend, paint
from noema.stand_ins.printer import Press, print_page
from noema.stand_ins.shot import Shot
from noema.stand_ins.studio import take_picture
from tools.photographs import any_sheet_of, measured, sheet_of

SIZE = (1600, 1200)
SEED = 3  # eight steps on Letter
LAYOUT, PDF = sheet_of(SEED)
PRINTED = print_page(PDF, 0, Press(), 8.0)
CAREFUL = Hand(step_noise=0.2, missed=0.005)


def shot_of(shot: Shot, hand: Hand = CAREFUL, cover=None):
    rng = default_rng(SEED)
    truth = intend(LAYOUT, hand, rng)
    page = paint(PRINTED, LAYOUT, truth, hand, rng)
    if cover:
        cover(page)
    jpeg = photograph(page, shot, SIZE, rng)
    return open_photo(jpeg), truth


def errors(reading, truth):
    return np.array(
        [
            cell.hvc.value - float(lightness_to_value(true.lab[0]))
            for cell, true in zip(reading.cells, truth, strict=True)
            if true.lab is not None
        ]
    )


@pytest.mark.parametrize("has_colours", [True, False])
def test_a_printer_without_colours_is_told_though_colours_were_sent(has_colours):
    layout, pdf = any_sheet_of(51)
    press = Press(has_colours=has_colours)
    jpeg = take_picture(layout, pdf, seed=2, preset="easy", size_px=SIZE, press=press).jpeg
    reading = read_photo(open_photo(jpeg), layout).reading
    assert (SheetFlag.GREY_PRINT in reading.flags) is not has_colours
    assert (Knowledge.GREY_PRINT in reading.knowledge) is not has_colours


def test_easy_photographs_of_every_kind_are_read_and_their_doubt_is_honest():
    sheets = list(measured("easy+known", 13, 1600))
    assert all(sheet is not None for sheet in sheets)
    plain = [cell for sheet in sheets for cell in sheet.cells if not cell.flagged]
    assert len(plain) > 150
    away, values = ([abs(getattr(cell, name)) for cell in plain] for name in ("away", "value"))
    assert np.median(away) <= 2.2
    assert np.median(values) <= 0.08
    assert np.percentile(values, 95) <= 0.30
    covered = np.mean([cell.away <= 2 * cell.sigma for cell in plain])
    assert 0.88 <= covered <= 0.999


WAYS = {
    "tilted": Shot(tilt=30.0, fall_towards=40.0),
    "upside down": Shot(turn=180.0),
    "sideways": Shot(turn=90.0, fill=0.95),
    "askew": Shot(turn=37.0, tilt=20.0),
    "light from one side": Shot(fall_off=0.34, fall_towards=200.0),
    "exif 3": Shot(orientation=3),
    "exif 6": Shot(orientation=6),
    "exif 8": Shot(orientation=8),
}


@pytest.mark.parametrize("way", WAYS)
def test_every_careful_way_of_taking_it_is_read(way):
    picture, truth = shot_of(WAYS[way])
    (seen,) = identify(picture).sheets
    assert seen.code == LAYOUT.sheet
    reading = read_photo(picture, LAYOUT).reading
    assert reading.found
    assert np.abs(errors(reading, truth)).max() < 0.25


def test_the_same_photograph_gives_the_same_numbers():
    picture, _ = shot_of(Shot())
    assert read_photo(picture, LAYOUT).reading == read_photo(picture, LAYOUT).reading


def test_what_is_wrong_with_a_cell_is_flagged():
    picture, _ = shot_of(Shot(), replace(CAREFUL, empty=("c2",)))
    flags = {cell.id: cell.flags for cell in read_photo(picture, LAYOUT).reading.cells}
    assert CellFlag.UNPAINTED in flags["c2"]
    assert flags["c4"] == ()


def test_half_painted_cells_are_flagged():
    picture, _ = shot_of(Shot(), replace(CAREFUL, missed=0.45))
    flags = [cell.flags for cell in read_photo(picture, LAYOUT).reading.cells[:5]]
    assert all(CellFlag.PARTLY_PAINTED in one for one in flags)


def test_a_shine_is_flagged():
    cell = LAYOUT.cells[2].polygon_mm

    def shine(page):
        scale = page.shape[1] / LAYOUT.width_mm
        (left, top), (right, _) = cell[0], cell[1]
        page[
            int((top + 5) * scale) : int((top + 20) * scale), int(left * scale) : int(right * scale)
        ] = 1.6

    picture, _ = shot_of(Shot(), cover=shine)
    assert CellFlag.GLARE in read_photo(picture, LAYOUT).reading.cells[2].flags


SHEET_TROUBLES = {
    SheetFlag.DARK: Shot(exposure=0.03),
    SheetFlag.OVEREXPOSED: Shot(exposure=1.5),
    SheetFlag.BLURRED: Shot(blur_px=9.0),
    SheetFlag.UNEVEN_LIGHT: Shot(fall_off=0.7),
    SheetFlag.LOW_RESOLUTION: Shot(fill=0.3),
}


@pytest.mark.parametrize("flag", SHEET_TROUBLES, ids=lambda flag: flag.value)
def test_a_poor_photograph_says_what_is_wrong(flag):
    picture, _ = shot_of(SHEET_TROUBLES[flag])
    reading = read_photo(picture, LAYOUT).reading
    assert flag in reading.flags


def test_nothing_is_found_where_nothing_is():
    noise = default_rng(1).integers(0, 255, (900, 1200, 3), dtype=np.uint8)
    assert read_photo(Picture(rgb=noise), LAYOUT).reading.flags[0] is SheetFlag.NO_SHEET
    black = np.zeros((900, 1200, 3), dtype=np.uint8)
    assert SheetFlag.DARK in read_photo(Picture(rgb=black), LAYOUT).reading.flags


def test_a_picture_too_blurred_to_find_anything_says_so():
    picture, _ = shot_of(Shot(blur_px=14.0))
    reading = read_photo(picture, LAYOUT).reading
    assert not reading.found
    assert SheetFlag.BLURRED in reading.flags


def test_a_sheet_of_another_paper_is_another_sheet():
    picture, _ = shot_of(Shot())
    other, _ = sheet_of(SEED + 1)
    assert SheetFlag.WRONG_SHEET in read_photo(picture, other).reading.flags


def test_another_sheet_is_called_that():
    picture, _ = shot_of(Shot())
    other = replace(LAYOUT, sheet="K7Q2-05", qr_text="K7Q2-05")
    reading = read_photo(picture, other).reading
    assert (reading.found, reading.sheet) == (False, "K7Q2-04")
    assert reading.flags == (SheetFlag.WRONG_SHEET,)


def test_sigma_is_narrower_between_cells_than_alone():
    picture, _ = shot_of(Shot())
    for cell in read_photo(picture, LAYOUT).reading.cells:
        assert 0 < cell.sigma_step <= cell.sigma_value < 0.5
