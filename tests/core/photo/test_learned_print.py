"""A printer is learned from what several cameras make of it, and one alone tells little."""

from datetime import date

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.colour.spectra import reflectance_to_lab
from noema.core.colour.srgb import linear_to_srgb, srgb_to_linear
from noema.core.colour.wide import SRGB_TO_WIDE
from noema.core.photo.learned_print import PrintLook, learn_print
from noema.core.photo.seen_print import SeenInk, SeenPrint
from noema.core.sheet.layout import PatchKind
from noema.stand_ins.optics import draw_optics
from noema.stand_ins.printer import Press
from tools.photographs import any_sheet_of

LAYOUT = any_sheet_of(51)[0]
SENT = {
    one.nominal_srgb: one.kind is PatchKind.GREY
    for one in LAYOUT.reference
    if one.kind is not PatchKind.PAPER
}
DARK = (56, 56, 56)
OURS = Press(dot_gain=0.18, dyes=(0.15, -0.1, 0.05))
CURVES = {"one": 0.12, "two": -0.08, "three": 0.0, "four": -0.02}
MONDAY = date(2027, 2, 1)


def curved(linear, contrast):
    """What a phone with such a curve stores, made linear as sRGB."""
    value = linear_to_srgb(np.clip(linear, 0.0, 1.0))
    return srgb_to_linear(value + contrast * (value - 0.5) * value * (1.0 - value) * 4.0)


def look(phone: str, lamp: str = "D55", press: Press = OURS, exposure: float = 0.75) -> PrintLook:
    body = np.random.default_rng([ord(letter) for letter in phone])
    optics = draw_optics(np.random.default_rng(1), "class", lamp=lamp, phone=body, stacked=False)
    sent = np.array(list(SENT), dtype=np.uint8)
    paper = optics.seen(press.paper[None])
    light = curved(exposure * np.ones(3), CURVES[phone])
    seen = curved(exposure * optics.seen(press.lays(sent)) / paper, CURVES[phone]) / light
    inks = tuple(
        SeenInk(sent=one, grey=grey, rgb=tuple(rgb), light=tuple(light))
        for (one, grey), rgb in zip(SENT.items(), seen.tolist(), strict=True)
    )
    wide = tuple(tuple(row) for row in SRGB_TO_WIDE.tolist())
    return PrintLook(seen=SeenPrint(camera=phone, to_wide=wide, inks=inks), day=MONDAY)


def pile(*phones: str) -> list[PrintLook]:
    return [
        look(phone, exposure=exposure) for phone in phones for exposure in (0.6, 0.7, 0.8, 0.85)
    ]


def truly(sent) -> np.ndarray:
    return reflectance_to_lab(OURS.lays(np.array([sent], dtype=np.uint8)))[0]


@pytest.fixture(scope="module")
def learned():
    found = learn_print(pile("one", "two", "three"))
    assert found is not None
    return found


def test_greys_are_learned_though_the_printer_lays_them_darker(learned):
    lightness = learned.labs[DARK].lab[0]
    assert lightness == pytest.approx(truly(DARK)[0], abs=2.0)
    usual = learn_print([look("three", press=Press())])
    assert usual is not None
    assert usual.labs[DARK].lab[0] > truly(DARK)[0] + 4.0


def test_colours_lie_nearer_the_truth_than_their_doubt_allows(learned):
    far = [
        float(ciede2000(learned.labs[sent].lab, truly(sent))) / learned.labs[sent].sigma
        for sent, grey in SENT.items()
        if not grey
    ]
    assert len(far) == 6
    assert np.sqrt(np.mean(np.square(far))) < 2.5


def test_a_camera_is_never_gone_by_its_own_photographs(learned):
    assert learned.cameras == 3
    for phone in ("one", "two", "three"):
        rest = [other for other in ("one", "two", "three") if other != phone]
        others = learn_print(pile(*rest))
        assert others is not None
        by_others = learned.for_camera(phone)[DARK]
        assert by_others.lab == pytest.approx(others.labs[DARK].lab, abs=1e-6)
    assert learned.for_camera("never seen") == learned.labs


def test_one_camera_alone_can_not_be_told_from_the_printer(learned):
    alone = learn_print(pile("one"))
    assert alone is not None
    assert alone.for_camera("one") == {}
    more = learn_print(pile("one") * 5)
    assert more is not None
    for found in (alone, more):
        gain = found.labs[DARK].gain
        assert gain is not None
        assert gain > 1.3 * (learned.labs[DARK].gain or 0.0)


def test_a_sheet_from_another_printer_is_left_out():
    elsewhere = look("four", press=Press(dyes=(-0.6, 0.9, -0.5)))
    found = learn_print([*pile("one", "two", "three"), elsewhere])
    assert found is not None
    assert found.photographs == 12
    assert "four" not in found.without


def test_more_days_mean_more_lamps_and_less_doubt():
    phones = ("one", "two", "three")
    looks = pile(*phones)
    other_day = [PrintLook(seen=one.seen, day=date(2027, 2, 8)) for one in looks[::2]]
    same, two_days = learn_print(looks), learn_print([*looks[1::2], *other_day])
    assert same is not None
    assert two_days is not None
    red = next(sent for sent, grey in SENT.items() if not grey)
    assert two_days.labs[red].sigma < same.labs[red].sigma


def test_nothing_is_learned_from_nothing():
    assert learn_print([]) is None
