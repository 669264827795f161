"""The stand-ins keep their promises: what they say was painted is what can be seen."""

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.colour.srgb import linear_to_lab
from noema.core.colour.value import lightness_to_value
from noema.core.errors import BadFile, Refused
from noema.stand_ins.painter import Hand, intend, paint
from noema.stand_ins.printer import Press, print_page
from noema.stand_ins.studio import take_picture
from tools.photographs import sheet_of

LAYOUT, PDF = sheet_of(2)
PERFECT = Hand(step_noise=0.0, streaks=0.0, ragged_mm=0.0, missed=0.0, cast=0.0)


def values(hand: Hand, seed: int = 1) -> list[float]:
    cells = intend(LAYOUT, hand, default_rng(seed))
    return [float(lightness_to_value(cell.lab[0])) for cell in cells]


def test_a_perfect_hand_paints_the_targets():
    targets = [float(lightness_to_value(cell.target_lab[0])) for cell in LAYOUT.cells]
    assert values(PERFECT) == pytest.approx(targets, abs=0.01)


def test_each_weakness_shows_where_it_should():
    even = values(PERFECT)
    bunched = values(Hand(step_noise=0.0, bunching=0.4))
    short = values(Hand(step_noise=0.0, dark_end=1.5))
    assert bunched[2] < even[2] - 0.3
    assert (bunched[0], bunched[-1]) == pytest.approx((even[0], even[-1]), abs=0.01)
    assert short[0] == pytest.approx(even[0] + 1.5, abs=0.01)
    assert short[-1] == pytest.approx(even[-1], abs=0.01)


def test_swapped_and_empty_cells_are_in_the_truth():
    cells = intend(LAYOUT, Hand(swapped=("c2", "c3"), empty=("c4",)), default_rng(3))
    plain = intend(LAYOUT, Hand(), default_rng(3))
    assert cells[1].lab == pytest.approx(plain[2].lab, abs=0.02)
    assert cells[2].lab == pytest.approx(plain[1].lab, abs=0.02)
    assert cells[3].lab is None


def test_paint_on_the_page_has_the_colour_that_was_mixed():
    printed = print_page(PDF, 0, Press(), 4.0)
    truth = intend(LAYOUT, PERFECT, default_rng(1))
    page = paint(printed, LAYOUT, truth, PERFECT, default_rng(1))
    for cell, painted in zip(LAYOUT.cells, truth, strict=True):
        (left, top), (right, bottom) = cell.polygon_mm[0], cell.polygon_mm[2]
        middle = page[int((top + bottom) * 2), int((left + right) * 2)]
        assert linear_to_lab(middle) == pytest.approx(painted.lab, abs=0.05)
    assert np.array_equal(printed, print_page(PDF, 0, Press(), 4.0)), "paint() changed the page"


def test_missed_paper_is_about_as_much_as_asked():
    printed = print_page(PDF, 0, Press(), 6.0)
    hand = Hand(step_noise=0.0, ragged_mm=0.0, missed=0.2)
    page = paint(printed, LAYOUT, intend(LAYOUT, hand, default_rng(1)), hand, default_rng(1))
    (left, top), (right, bottom) = LAYOUT.cells[0].polygon_mm[0], LAYOUT.cells[0].polygon_mm[2]
    area = page[int(top * 6) : int(bottom * 6), int(left * 6) : int(right * 6), 1]
    assert (area > 0.5).mean() == pytest.approx(0.2, abs=0.08)


@pytest.mark.parametrize("gain", [-0.1, 0.0, 0.2])
def test_a_printer_lays_greys_darker_with_more_gain(gain):
    patch = next(p for p in LAYOUT.reference if p.nominal_srgb[0] == 128)
    (left, top), (right, bottom) = patch.polygon_mm[0], patch.polygon_mm[2]
    seen = [
        print_page(PDF, 0, Press(dot_gain=g), 4.0)[
            int((top + bottom) * 2), int((left + right) * 2), 1
        ]
        for g in (gain, gain + 0.1)
    ]
    assert seen[1] < seen[0]


def test_the_same_seed_gives_the_same_bytes_and_another_seed_others():
    def jpeg(seed):
        return take_picture(LAYOUT, PDF, seed=seed, preset="class", size_px=(900, 675)).jpeg

    assert jpeg(5) == jpeg(5)
    assert jpeg(5) != jpeg(6)


def test_what_cant_be_done_is_refused():
    with pytest.raises(Refused, match="easy, class, hard"):
        take_picture(LAYOUT, PDF, seed=1, preset="perfect")
    with pytest.raises(BadFile, match=r"sheet\.pdf"):
        print_page(b"no pdf", 0, Press())
    with pytest.raises(BadFile):
        print_page(PDF, 7, Press())
