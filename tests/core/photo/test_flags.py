"""Flags and doubts, on pixels made by hand."""

from dataclasses import replace

import cv2
import numpy as np
import pytest

from noema.core.photo.beyond import beyond_file
from noema.core.photo.colour_fit import fit_colour
from noema.core.photo.doubt import CellLight, Doubt, colours_of
from noema.core.photo.flags import (
    Suspicions,
    cell_flags,
    clipped_channel,
    with_glare_all_over,
)
from noema.core.photo.hints import hints
from noema.core.photo.light import fit_light
from noema.core.photo.page_flags import edge_blur_mm
from noema.core.photo.parameters.light import LIGHT
from noema.core.photo.reading import CellFlag, SheetFlag
from noema.core.photo.sample import PaintSample
from noema.core.photo.seeing import Seeing
from noema.core.photo.shine import Shine
from noema.core.photo.straighten import PX_PER_MM
from noema.core.photo.tone import fit_tone
from noema.core.sheet.layout import Marker, box

NO_GREYS = fit_tone()
NO_PATCHES = fit_colour()
PAPER = ((94.5, 0.0, 0.0), 1.0)
CALM = Suspicions(shine=Shine(), light_step=0.0, inside=True, usual_unevenness=0.03)


def sample(luminance=0.3, **changes) -> PaintSample:
    given = {
        "coverage": 1.0,
        "bare": False,
        "gaps": False,
        "unevenness": 0.01,
        "doubt": 0.005,
        **changes,
    }
    return PaintSample(rgb=np.full(3, luminance), **given)


def flags_of(paint=None, raw=None, luminance=None, sigma=1.0, **about):
    raw = np.full((1000, 3), 120, dtype=np.uint8) if raw is None else raw
    luminance = np.full(1000, 0.3) if luminance is None else luminance
    pixels = np.repeat(luminance[:, None], 3, axis=1)
    return cell_flags(paint or sample(), raw, pixels, replace(CALM, **about), sigma)


def test_good_paint_has_no_flag():
    assert flags_of() == ()


def test_each_trouble_has_its_flag():
    assert flags_of(sample(bare=True)) == (CellFlag.UNPAINTED,)
    assert flags_of(sample(coverage=0.5)) == (CellFlag.PARTLY_PAINTED,)
    assert flags_of(sample(unevenness=0.3)) == (CellFlag.UNEVEN,)
    assert flags_of(light_step=0.2) == (CellFlag.SHADOW,)
    assert flags_of(shine=Shine(odds=0.5)) == (CellFlag.GLARE,)
    assert flags_of(shine=Shine(odds=-0.5, amount=0.1)) == ()
    assert flags_of(inside=False) == (CellFlag.OUTSIDE,)
    assert flags_of(raw=np.zeros((1000, 3), dtype=np.uint8)) == (CellFlag.CLIPPED,)


def test_a_cell_is_uneven_beside_an_even_hands_others():
    rather = sample(unevenness=0.08)
    assert flags_of(rather, usual_unevenness=0.012) == (CellFlag.UNEVEN,)
    assert flags_of(rather, usual_unevenness=0.04) == ()
    assert flags_of(sample(unevenness=0.04), usual_unevenness=0.005) == ()


def test_a_shine_on_dark_paint_is_glare_and_a_burnt_cell_is_clipped():
    raw = np.full((1000, 3), 120, dtype=np.uint8)
    luminance = np.full(1000, 0.3)
    raw[:80], luminance[:80] = 255, 1.4
    assert flags_of(raw=raw, luminance=luminance) == (CellFlag.GLARE,)
    raw[:500] = 255
    assert CellFlag.CLIPPED in flags_of(raw=raw)


@pytest.mark.parametrize("blur_mm", [0.1, 0.3, 0.6, 1.0])
def test_blur_is_measured_in_mm_of_paper(blur_mm):
    page = np.full((400, 400), 230, dtype=np.uint8)
    markers = [Marker(id=n, corners_mm=box(20 + 30 * n, 40, 12, 12)) for n in range(2)]
    for marker in markers:
        (left, top), (right, bottom) = marker.corners_mm[0], marker.corners_mm[2]
        area = np.array([top, bottom, left, right]) * PX_PER_MM
        page[int(area[0]) : int(area[1]), int(area[2]) : int(area[3])] = 20
    soft = cv2.GaussianBlur(page, (0, 0), blur_mm * PX_PER_MM)
    measured = edge_blur_mm(np.repeat(soft[..., None], 3, axis=2), markers)
    # A Gaussian edge rises at height / (sigma * sqrt(2 pi)) at its steepest.
    assert measured == pytest.approx(0.8 * blur_mm * np.sqrt(2 * np.pi), rel=0.25, abs=0.12)
    assert (measured > LIGHT.blur_mm) == (blur_mm >= 0.6)


def test_one_channel_cut_off_is_guessed_and_flagged_only_where_the_guess_is_poor():
    raw = np.full((1000, 3), 120, dtype=np.uint8)
    raw[:, 0] = 2
    assert clipped_channel(raw) == 0
    assert flags_of(raw=raw) == ()
    assert flags_of(raw=raw, sigma=7.0) == (CellFlag.CLIPPED,)
    raw[:, 2] = 2
    assert clipped_channel(raw) is None


def test_where_half_the_page_shines_the_rest_isnt_believed():
    shiny, plain, bare = (CellFlag.GLARE,), (), (CellFlag.UNPAINTED,)
    assert with_glare_all_over([shiny, shiny, plain, bare]) == [shiny, shiny, shiny, bare]
    assert with_glare_all_over([shiny, plain, plain, bare]) == [shiny, plain, plain, bare]


def seeing(paper=PAPER) -> Seeing:
    return Seeing(
        tone=NO_GREYS,
        to_wide=np.eye(3),
        in_srgb=True,
        fit=NO_PATCHES,
        paper=paper,
        paper_light=0.6,
    )


def colours(*paints: PaintSample, scatter: float = 0.004, paper=PAPER, clipped=None):
    count = len(paints)
    light = CellLight(rgb=np.full((count, 3), 0.6), sigma_log=np.full(count, scatter))
    return colours_of(list(paints), clipped or [None] * len(paints), seeing(paper), light)


def doubt_of(paint: PaintSample, scatter: float = 0.004, paper=PAPER) -> Doubt:
    return colours(paint, scatter=scatter, paper=paper).doubts[0]


def test_a_shine_lighter_than_white_is_still_doubted():
    shine = replace(sample(), rgb=np.array([1.2, 1.2, 1.15]))
    assert colours(shine).labs[0][0] > 100.5
    doubt = doubt_of(shine)
    assert min(doubt.sigma_value, doubt.sigma_chroma) > 0.1


def test_a_cyan_beyond_the_file_is_moved_outwards_and_doubted_more():
    cyan = replace(sample(), rgb=np.array([0.004, 0.25, 0.45]))
    inside = colours(cyan)
    beyond = colours(cyan, clipped=[0])
    assert np.hypot(*beyond.labs[0][1:]) > np.hypot(*inside.labs[0][1:]) + 3.0
    assert beyond.doubts[0].sigma_chroma > inside.doubts[0].sigma_chroma


def test_a_wide_file_cuts_less_off_than_srgb():
    seen, found = np.array([0.002, 0.25, 0.45]), np.array([0.03, 0.24, 0.43])
    srgb, wide = (beyond_file(seen, found, 0, in_srgb=narrow) for narrow in (True, False))
    assert np.linalg.norm(wide.move) < np.linalg.norm(srgb.move)
    assert np.trace(wide.covariance) < np.trace(srgb.covariance)


def test_doubt_grows_with_each_of_its_causes():
    plain = doubt_of(sample())
    for worse in (doubt_of(sample(doubt=0.1)), doubt_of(sample(), scatter=0.1)):
        assert worse.sigma > plain.sigma
        assert worse.sigma_value > plain.sigma_value
        assert worse.sigma_step > plain.sigma_step
    paper = doubt_of(sample(), paper=((94.5, 0.0, 0.0), 4.0))
    assert paper.sigma_value > plain.sigma_value
    assert paper.sigma_step == plain.sigma_step


def test_darker_paint_is_read_with_more_doubt_without_greys():
    doubts = [doubt_of(sample(y)).sigma_value for y in (0.8, 0.3, 0.05)]
    assert doubts == sorted(doubts)


def test_a_greys_hue_is_anybodys_guess_and_an_intense_ones_is_sharp():
    paints = [
        PaintSample(
            rgb=np.array(rgb), coverage=1.0, bare=False, gaps=False, unevenness=0.01, doubt=0.005
        )
        for rgb in ((0.3, 0.3, 0.3), (0.5, 0.1, 0.06))
    ]
    grey, red = colours(*paints).doubts
    assert grey.sigma_hue > 12.0 > 6.0 > red.sigma_hue


def test_every_flag_that_stops_a_reading_has_a_hint():
    for flag in set(SheetFlag) - {SheetFlag.GREY_PRINT}:
        sentences = hints([flag])
        assert len(sentences) == 1
        assert sentences[0].endswith(".")
    assert hints([SheetFlag.GREY_PRINT]) == ()
    assert "dark" in hints([SheetFlag.NO_SHEET, SheetFlag.DARK])[0]


def test_a_field_over_clean_paper_has_little_scatter():
    rng = np.random.default_rng(5)
    at = rng.uniform(0, 200, (50, 2))
    clean = fit_light(at, np.full((50, 3), 0.6), (297.0, 210.0))
    rough = fit_light(at, 0.6 * rng.normal(1, 0.05, (50, 1)) * np.ones(3), (297.0, 210.0))
    middle = np.array([[100.0, 100.0]])
    assert clean.sigma_at(middle) < 0.006 < 0.02 < rough.sigma_at(middle)
