"""Shine on paint is told from uneven paint and from uneven light."""

import numpy as np
import pytest
from numpy.random import default_rng

from noema.core.photo.shine import shine_on_cells

SIDE_MM, STEP_MM = 16.0, 0.5
PAINTS = [(0.5, 0.3, 0.06), (0.05, 0.06, 0.08), (0.1, 0.2, 0.05), (0.6, 0.55, 0.2)] * 3
GREY = 5
WITH_GREY = [(0.3, 0.3, 0.3) if n == GREY else paint for n, paint in enumerate(PAINTS)]


def page(add, times=lambda at: np.ones(len(at)), streaks=0.02, paints=PAINTS):
    """Twelve cells in three rows, with light added to them and multiplied over them."""
    rng = default_rng(8)
    pixels, places = [], []
    for n, paint in enumerate(paints):
        row, column = divmod(n, 4)
        x, y = np.meshgrid(np.arange(0, SIDE_MM, STEP_MM), np.arange(0, SIDE_MM, STEP_MM))
        at = np.stack([y.ravel() + 25.0 * row, x.ravel() + 25.0 * column], axis=1)
        thick = 1.0 + streaks * rng.standard_normal((len(at), 1))
        colour = np.array(paint) * thick * times(at)[:, None] + add(at)[:, None]
        pixels.append(np.maximum(colour, 1e-4))
        places.append(at)
    return shine_on_cells(pixels, places, [True] * len(paints))


def nothing(at):
    return np.zeros(len(at))


def lobe(at):
    return 0.12 * np.exp(-np.sum((at - (35.0, 35.0)) ** 2, axis=1) / 22.0**2)


def test_dull_paint_has_no_shine():
    assert all(one.amount == 0.0 and not one.broken for one in page(nothing))


def test_a_smooth_reflection_is_found_where_it_lies():
    shine = [one.amount for one in page(lobe)]
    assert shine[5] > 0.05
    assert shine[5] == pytest.approx(max(shine), rel=0.4)
    assert shine[3] < 0.02


def test_light_that_falls_off_is_no_shine():
    def fading(at):
        return np.exp(-at[:, 0] / 250.0)

    assert max(one.amount for one in page(nothing, fading)) < 0.01


def test_a_reflection_broken_by_brush_marks_shows_in_the_darkest_channel():
    def broken(at):
        return 0.05 * (np.sin(at[:, 0] * 2.0) > 0.0)

    shine = page(broken)
    assert shine[0].broken
    assert not any(one.broken for one in page(nothing, streaks=0.1))


def test_a_grey_is_judged_by_the_cells_about_it():
    def broken_on_the_left(at):
        return 0.05 * (np.sin(at[:, 0] * 2.0) > 0.0) * (at[:, 1] < 70.0)

    wet = page(broken_on_the_left, paints=WITH_GREY)
    assert wet[0].broken
    assert not wet[GREY].broken
    assert wet[GREY].beside
    dry = page(nothing, streaks=0.1, paints=WITH_GREY)
    assert not any(one.beside for one in dry)


def test_torn_edges_are_no_shine():
    def edge(at):  # paper shows at one side of every cell
        return 0.4 * ((at[:, 0] % 25.0) < 2.0)

    assert not any(one.broken for one in page(edge))


def test_a_large_cell_of_few_pixels_is_looked_at_as_well():
    y, x = np.meshgrid(np.arange(0, 60.0, 1.1), np.arange(0, 34.0, 1.1))
    at = np.stack([y.ravel(), x.ravel()], axis=1)
    streaks = 0.05 * (1.0 + np.sin(at[:, 0] / 4.0))
    paint = np.array([0.5, 0.3, 0.06]) + streaks[:, None]
    assert shine_on_cells([paint], [at], [True])[0].broken


def test_cells_without_paint_say_nothing():
    assert shine_on_cells([np.empty((0, 3))], [np.empty((0, 2))], [False])[0].amount == 0.0
