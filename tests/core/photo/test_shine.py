"""Shine on paint is told from uneven paint and from uneven light."""

import numpy as np
from numpy.random import default_rng

from noema.core.photo.shine import DATA, shine_on_cells
from noema.core.photo.shine_evidence import NAMES

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


def mixed_badly(at):
    """What white that isn't mixed through does to the first paint: it moves along their line."""
    return 0.2 * np.sin(at[:, :1] * 2.5) * np.array(PAINTS[0]) * (1.0 - np.array(PAINTS[0]))


def test_dull_paint_has_no_shine():
    assert not any(one.likely or one.amount for one in page(nothing))


def test_a_smooth_reflection_is_found_where_it_lies():
    shine = page(lobe)
    amounts = [one.amount for one in shine]
    assert amounts[5] > 0.05
    assert amounts[5] == max(amounts)
    assert shine[5].likely
    assert not shine[3].likely


def test_light_that_falls_off_is_no_shine():
    def fading(at):
        return np.exp(-at[:, 0] / 250.0)

    assert max(one.amount for one in page(nothing, fading)) < 0.01


def test_a_brushs_stripes_are_no_shine():
    assert not any(one.likely for one in page(nothing, streaks=0.1))
    paint = np.array(PAINTS[0])
    pixels, places = [], []
    for n in range(8):
        x, y = np.meshgrid(np.arange(0, SIDE_MM, STEP_MM), np.arange(0, SIDE_MM, STEP_MM))
        at = np.stack([y.ravel(), x.ravel() + 25.0 * n], axis=1)
        pixels.append(paint + mixed_badly(at))
        places.append(at)
    assert not any(one.likely for one in shine_on_cells(pixels, places, [True] * 8))


def test_a_grey_is_judged_by_the_cells_about_it():
    wet = page(lobe, paints=WITH_GREY)
    assert wet[GREY].likely
    alone = shine_on_cells(*one_cell(WITH_GREY[GREY]), [True])
    assert not alone[0].likely
    assert not any(one.likely for one in page(nothing, streaks=0.1, paints=WITH_GREY))


def one_cell(paint):
    x, y = np.meshgrid(np.arange(0, SIDE_MM, STEP_MM), np.arange(0, SIDE_MM, STEP_MM))
    at = np.stack([y.ravel(), x.ravel()], axis=1)
    streaks = 1.0 + 0.02 * default_rng(3).standard_normal((len(at), 1))
    return [np.array(paint) * streaks], [at]


def test_torn_edges_are_no_shine():
    def edge(at):  # paper shows at one side of every cell
        return 0.4 * ((at[:, 0] % 25.0) < 2.0)

    assert not any(one.likely for one in page(edge))


def test_a_large_cell_of_few_pixels_is_looked_at_as_well():
    y, x = np.meshgrid(np.arange(0, 60.0, 1.1), np.arange(0, 34.0, 1.1))
    at = np.stack([y.ravel(), x.ravel()], axis=1)
    spot = 0.2 * np.exp(-np.sum((at - (30.0, 17.0)) ** 2, axis=1) / 15.0**2)
    paint = np.array([0.5, 0.3, 0.06]) + spot[:, None]
    assert shine_on_cells([paint], [at], [True])[0].likely


def test_cells_without_paint_say_nothing():
    (nobody,) = shine_on_cells([np.empty((0, 3))], [np.empty((0, 2))], [False])
    assert (nobody.likely, nobody.amount) == (False, 0.0)


def test_the_models_numbers_are_those_that_are_seen():
    lines = DATA.read_text(encoding="utf-8").splitlines()
    names = [line.rpartition(",")[0] for line in lines if not line.startswith("#")]
    assert names == ["usual", *NAMES]
