"""Paint told apart from what lies round it."""

import numpy as np
import pytest

from noema.core.photo.sample import sample_paint

PLACE = np.argwhere(np.ones((100, 60), bool))


def cell(luminance: float, rng) -> np.ndarray:
    return np.full((6000, 3), luminance) * rng.normal(1.0, 0.02, (6000, 1))


def test_missed_paper_and_pencil_lines_dont_count():
    rng = np.random.default_rng(1)
    pixels = cell(0.2, rng)
    pixels[:600] = 1.0
    pixels[700:780] = 0.02
    sample = sample_paint(pixels, PLACE)
    assert sample.rgb == pytest.approx([0.2] * 3, rel=0.01)
    assert sample.coverage == pytest.approx(0.9, abs=0.01)
    assert not sample.bare


@pytest.mark.parametrize("level", [1.0, 0.98])
def test_bare_paper_is_bare(level):
    assert sample_paint(cell(level, np.random.default_rng(2)), PLACE).bare


def test_light_paint_is_paint():
    sample = sample_paint(cell(0.8, np.random.default_rng(3)), PLACE)
    assert not sample.bare
    assert sample.coverage == 1.0


def test_streaks_show_as_unevenness():
    rng = np.random.default_rng(4)
    pixels = cell(0.3, rng)
    even = sample_paint(pixels, PLACE).unevenness
    pixels *= 1.0 + 0.15 * np.sin(np.repeat(np.arange(100), 60) / 9.0)[:, None]
    assert sample_paint(pixels, PLACE).unevenness > 4 * even


def test_specks_of_paper_in_thin_paint_are_gaps_and_leave_the_colour_alone():
    rng = np.random.default_rng(5)
    pixels = cell(0.2, rng) * np.array([1.6, 0.8, 0.5])
    paint = pixels.mean(axis=0)
    bare = rng.uniform(0.0, 1.0, (1500, 1)) ** 0.5  # blurred: between paint and paper
    pixels[:1500] += np.minimum(1.05 * bare, 1.0) * (1.0 - pixels[:1500])
    sample = sample_paint(pixels, PLACE)
    assert sample.gaps
    assert sample.coverage == pytest.approx(0.83, abs=0.04)
    assert sample.rgb == pytest.approx(paint, rel=0.06)


def test_shine_is_no_gap():
    rng = np.random.default_rng(6)
    pixels = cell(0.2, rng) * np.array([1.6, 0.8, 0.5])
    pixels[:3000] += rng.uniform(0.0, 1.0, (3000, 1))
    assert not sample_paint(pixels, PLACE).gaps


def test_shine_up_to_papers_own_white_is_no_gap_either():
    rng = np.random.default_rng(7)
    pixels = cell(0.2, rng) * np.array([1.6, 0.8, 0.5])
    share = rng.uniform(0.0, 1.05, (4500, 1))  # of the way to paper, none past it by much
    pixels[:4500] += share * (1.0 - pixels[:4500])
    assert not sample_paint(pixels, PLACE).gaps
