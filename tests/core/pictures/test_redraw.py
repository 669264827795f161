"""A redrawn picture holds nothing its tubes can't give; values and few tubes as a whole."""

import numpy as np
import pytest
from numpy.random import default_rng
from scipy.spatial import cKDTree

from noema.core.colour.difference import ciede2000
from noema.core.colour.names import USUAL_HUES
from noema.core.colour.srgb import lab_to_linear, linear_to_lab, linear_to_srgb, srgb_to_linear
from noema.core.colour.value import lightness_to_value, value_to_lab
from noema.core.photo.picture import Picture
from noema.core.pictures.colours import colours_of_picture, shares_of_colours
from noema.core.pictures.few_tubes import few_tubes
from noema.core.pictures.redraw import redrawn
from noema.core.pictures.values import middle_values, posterised, same_values, value_plan
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.qualities import strengths
from noema.core.pigments.shelf import builtin_set
from tests.core.pictures.painted import painted, shown

SIX = builtin_set("split-six")
DRY = SIX.binder.dry


@pytest.mark.parametrize(
    "names",
    [("rose",), ("ultramarine", "warm-yellow"), ("scarlet", "phthalo-blue", "lemon-yellow")],
    ids="-".join,
)
def test_every_pixel_lies_within_the_reach_of_its_tubes(names):
    noise = default_rng(3).integers(0, 256, (40, 50, 3)).astype(np.uint8)
    tubes = tuple(SIX.tube(name) for name in names)
    out = redrawn(noise, tubes, SIX.white, DRY)
    assert out.shape == noise.shape
    seen = np.unique(out.reshape(-1, 3), axis=0)
    labs = linear_to_lab(srgb_to_linear(seen / 255.0))
    away = ciede2000(labs[:, None], _some_mixes(tubes, labs)).min(axis=1)
    assert away.max() < 2.0


def _some_mixes(tubes, labs):
    """The nearest few of many mixes drawn at random, as a screen shows them."""
    rng = default_rng(5)
    pulls = np.exp(rng.uniform(-7.0, 0.0, (200_000, len(tubes))))
    whites = np.exp(rng.uniform(-7.0, 5.0, len(pulls))) * pulls.sum(axis=1)
    whites[::20] = 0.0
    pulls[::50] *= np.eye(len(tubes))[rng.integers(len(tubes), size=len(pulls[::50]))]
    amounts = np.column_stack([pulls / strengths(tubes), whites])
    amounts[0] = [0.0] * len(tubes) + [1.0]
    mixes = linear_to_lab(np.clip(lab_to_linear(mix_labs([*tubes, SIX.white], amounts)), 0, 1))
    _, near = cKDTree(mixes).query(labs, k=8)
    return mixes[near]


def test_what_tubes_can_give_stays_as_it_is():
    picture = painted(SIX, ["ultramarine", "scarlet"], 11)
    tubes = SIX.tube("ultramarine"), SIX.tube("scarlet")
    out = redrawn(picture.rgb, tubes, SIX.white, DRY)
    before, after = (linear_to_lab(srgb_to_linear(rgb / 255.0)) for rgb in (picture.rgb, out))
    away = ciede2000(before, after)
    assert np.median(away) < 1.5
    assert np.percentile(away, 95) < 4.0


def test_a_red_that_is_not_among_the_tubes_is_lost():
    mixes = mix_labs(
        [SIX.tube("scarlet")], np.array([[1.0 / strengths((SIX.tube("scarlet"),))[0]]])
    )
    picture = shown(np.tile(mixes[0], (4, 4, 1)))
    out = redrawn(picture.rgb, (SIX.tube("ultramarine"), SIX.tube("phthalo-blue")), SIX.white, DRY)
    assert out[0, 0, 2] > out[0, 0, 0]


@pytest.mark.parametrize("steps", [2, 3, 5, 9])
def test_a_posterised_picture_has_each_value_in_its_share(steps):
    """Stripes of known values: edges are led as by a brush, areas stay within a hundredth."""
    values = [0.7, 1.6, 2.7, 3.8, 4.6, 5.7, 6.8, 7.2, 8.3, 9.4]
    stripes = value_to_lab(np.repeat(values, 40))[None].repeat(300, axis=0)
    which = posterised(colours_of_picture(shown(stripes)), steps)
    for step in range(steps):
        known = sum(step <= value * steps / 10 < step + 1 for value in values) / len(values)
        assert (which == step).mean() == pytest.approx(known, abs=0.01)
    assert len(middle_values(steps)) == steps


def test_a_plan_tells_the_mean_of_each_range():
    stripes = value_to_lab(np.repeat([1.0, 2.0, 9.0], 20))[None].repeat(30, axis=0)
    dark, middle, light = value_plan(colours_of_picture(shown(stripes)), 3).shares
    assert dark.mean == pytest.approx(1.5, abs=0.05)
    assert middle.mean is None
    assert light.mean == pytest.approx(9.0, abs=0.05)


def test_two_hues_of_one_value_are_found_where_they_are():
    row = np.array(
        [[52.0, 45.0, 30.0]] * 20 + [[52.0, -30.0, -5.0]] * 20 + [[85.0, 0.0, 60.0]] * 20
    )
    colours = colours_of_picture(shown(row[None].repeat(30, axis=0), 2))
    (pair,) = same_values(shares_of_colours(colours), USUAL_HUES)
    assert pair.value == pytest.approx(float(lightness_to_value(52.0)), abs=0.2)
    assert sorted(x for x, _ in pair.places) == pytest.approx([1 / 6, 1 / 2], abs=0.06)


@pytest.mark.parametrize("pair", [("scarlet", "ultramarine"), ("phthalo-blue", "warm-yellow")])
def test_a_pair_is_told_through_a_camera_s_shift(pair):
    """Darker, warmer and flatter than the paint, as a phone would show it under a lamp."""
    picture = painted(SIX, pair, 21)
    light = srgb_to_linear(picture.rgb / 255.0) * np.array([0.8, 0.76, 0.71])
    rgb = np.rint(255.0 * np.clip(linear_to_srgb(light**0.95), 0.0, 1.0)).astype(np.uint8)
    shares = shares_of_colours(colours_of_picture(Picture(rgb=rgb)))
    best = few_tubes(shares, SIX, 2, USUAL_HUES, photographed=True)[0]
    assert {tube.name for tube in best.tubes} == set(pair)
    assert best.share_within > 0.9
    as_it_is = few_tubes(shares, SIX, 2, USUAL_HUES)
    own = next(one for one in as_it_is if {tube.name for tube in one.tubes} == set(pair))
    assert own.share_within < best.share_within
