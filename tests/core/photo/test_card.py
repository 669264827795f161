"""A reference card beside the sheet, and printers calibrated by it."""

from dataclasses import replace

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.colour.difference import ciede2000
from noema.core.colour.spectra import reflectance_to_lab
from noema.core.errors import BadFile
from noema.core.photo.card import ReferenceCard, find_card
from noema.core.photo.knowledge import Knowledge
from noema.core.photo.picture import Picture
from noema.core.photo.read import read_photo
from noema.core.sheet.calibration_sheet import calibration_layout, draw_calibration, printed_as
from noema.core.sheet.paper import Paper
from noema.formats.photo_file import open_photo
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.camera import photograph
from noema.stand_ins.card import lay_card, reference_card
from noema.stand_ins.optics import draw_optics
from noema.stand_ins.printer import load_paper, print_page
from noema.stand_ins.shot import aim

LAYOUT = calibration_layout(Paper.A4, "PRNT-01")
PDF = sheets_pdf([draw_calibration(LAYOUT, "the printer in the office")], "calibration")
CARD = reference_card()


def calibration_photo(seed: int, with_card: bool = True):
    """A calibration page as an ordinary printer lays it, photographed with or without the card."""
    rng = default_rng(seed)
    press, optics = load_paper(rng, 1.0), draw_optics(rng, "class")
    press = replace(press, has_colours=True)
    page = print_page(PDF, 0, press, 8.0, optics)
    if with_card:
        lay_card(page, (100.0, 122.0), 8.0, optics)
    shot = replace(aim("easy", rng), turn=rng.uniform(-180.0, 180.0))
    jpeg = photograph(page, shot, (1800, 1350), rng)
    truth = {
        cell.id: press.lays(np.array([printed_as(cell.id)], np.uint8))[0] for cell in LAYOUT.cells
    }
    return open_photo(jpeg), truth


def errors(reading, truth) -> np.ndarray:
    return np.array(
        [ciede2000(cell.lab, reflectance_to_lab(truth[cell.id][None])[0]) for cell in reading.cells]
    )


def test_a_card_makes_a_calibration_page_better_known():
    off = {"plain": [], "card": []}
    for seed in (11, 12, 13):
        picture, truth = calibration_photo(seed)
        plain = read_photo(picture, LAYOUT).reading
        by_card = read_photo(picture, LAYOUT, CARD).reading
        assert by_card.knowledge == (Knowledge.CARD,)
        assert plain.knowledge == (Knowledge.GREY_PRINT,)
        off["card"].append(np.median(errors(by_card, truth)))
        off["plain"].append(np.median(errors(plain, truth)))
    assert max(off["card"]) < 2.0
    assert sum(off["card"]) < 0.85 * sum(off["plain"])


def test_without_a_card_none_is_seen():
    picture, _ = calibration_photo(11, with_card=False)
    assert find_card(picture, CARD) is None
    assert read_photo(picture, LAYOUT, CARD).reading.knowledge == (Knowledge.GREY_PRINT,)


def test_another_card_isnt_taken_for_it():
    picture, _ = calibration_photo(11)
    assert find_card(picture, replace(CARD, labs=CARD.labs[::-1][:12] + CARD.labs[:6])) is None


@pytest.mark.parametrize("turn", range(4))
def test_a_card_is_found_whichever_way_it_lies(turn):
    picture, _ = calibration_photo(12)
    seen = find_card(Picture(rgb=np.ascontiguousarray(np.rot90(picture.rgb, turn))), CARD)
    assert seen is not None
    assert seen.alike > 0.95
    assert seen.polygons_px.shape == (18, 4, 2)


def test_a_card_that_doesnt_fit_its_file_is_refused():
    with pytest.raises(BadFile, match="6 × 4 patches but the file holds 18"):
        ReferenceCard(name="x", columns=6, rows=4, labs=CARD.labs)
    with pytest.raises(BadFile, match="at least 6"):
        ReferenceCard(name="x", columns=2, rows=1, labs=CARD.labs[:2])


GREY = ReferenceCard(name="Grey", columns=1, rows=1, labs=((50.0, 0.0, 0.0),))


def with_grey_card(seed: int, lightness: float | None):
    """A calibration page with a plain card on its blank half."""
    rng = default_rng(seed)
    press = replace(load_paper(rng, 1.0), has_colours=False)
    page = print_page(PDF, 0, press, 8.0)
    if lightness is not None:
        spot = page[130 * 8 : 185 * 8, 90 * 8 : 180 * 8]
        spot[:] = ((lightness + 16.0) / 116.0) ** 3
    jpeg = photograph(page, aim("easy", rng), (1800, 1350), rng)
    truth = {
        cell.id: press.lays(np.array([printed_as(cell.id)], np.uint8))[0] for cell in LAYOUT.cells
    }
    return open_photo(jpeg), truth


def test_a_grey_card_helps_a_little():
    gains = []
    for seed in (31, 32, 33, 34):
        picture, truth = with_grey_card(seed, 50.0)
        plain, by_grey = (read_photo(picture, LAYOUT, card).reading for card in (None, GREY))
        assert by_grey.knowledge == (Knowledge.CARD,)
        greys = [n for n, cell in enumerate(LAYOUT.cells) if len({*printed_as(cell.id)}) == 1]
        gains.append(np.median((errors(plain, truth) - errors(by_grey, truth))[greys]))
        sigma = [[one.cells[n].sigma for n in greys] for one in (plain, by_grey)]
        assert np.median(sigma[1]) < np.median(sigma[0])
    assert np.median(gains) > -0.1


def test_bare_paper_isnt_taken_for_a_grey_card():
    picture, _ = with_grey_card(31, None)
    assert Knowledge.CARD not in read_photo(picture, LAYOUT, GREY).reading.knowledge


def test_a_card_of_one_colour_is_refused():
    with pytest.raises(BadFile, match="must be a grey"):
        ReferenceCard(name="Red", columns=1, rows=1, labs=((50.0, 60.0, 30.0),))
