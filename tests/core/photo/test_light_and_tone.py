"""The light field and the tone curve, on data made by hand."""

import numpy as np
import pytest

from noema.core.colour.srgb import linear_to_srgb, srgb_to_linear
from noema.core.errors import BadSheet
from noema.core.photo.light import fit_light
from noema.core.photo.tone import Greys, fit_tone

SIZE = (297.0, 210.0)
LIT = np.full(6, 0.8)
STEPS = np.array([0.05, 0.12, 0.25, 0.4, 0.6, 0.8])


def points(rng, count=60):
    return rng.uniform(0, 1, (count, 2)) * SIZE


def test_light_of_a_lamp_at_one_side_is_recovered():
    rng = np.random.default_rng(1)
    at = points(rng)
    light = 0.8 / (1.0 + 0.2 * at[:, :1] / SIZE[0]) ** 2 * np.array([1.0, 0.98, 0.9])
    field = fit_light(at, light * rng.normal(1.0, 0.004, light.shape), SIZE)
    assert field.at(at) == pytest.approx(light, rel=0.01)
    assert (field.sigma_at(at) < 0.012).all()


def test_marked_paper_is_ignored():
    rng = np.random.default_rng(2)
    at = points(rng)
    light = np.full((60, 3), 0.7)
    light[:9] *= 0.5
    assert fit_light(at, light, SIZE).at(at[20:]) == pytest.approx(0.7, rel=0.04)


def test_a_soft_shadow_is_evened_out_and_a_hard_one_is_seen():
    rng = np.random.default_rng(4)
    at = points(rng, 300)
    edges = {
        soft: fit_light(
            at, 0.6 * (1 - 0.3 / (1 + np.exp(-(at[:, :1] - 150) / soft))) * [1, 1, 1], SIZE
        )
        for soft in (25.0, 1.0)
    }
    beside, away = np.array([150.0, 100.0]), np.array([40.0, 100.0])
    assert edges[25.0].step_beside(beside) < 0.01
    assert edges[1.0].step_beside(beside) > 0.04 > 0.01 > edges[1.0].step_beside(away)


def test_far_from_paper_the_light_is_less_sure():
    rng = np.random.default_rng(6)
    at = points(rng, 200)
    wavy = 0.6 * np.exp(0.08 * np.sin(at[:, :1] / 25.0)) * np.ones(3)
    left = at[:, 0] < 140
    field = fit_light(at[left], wavy[left], SIZE)
    near, far = field.sigma_at(np.array([[70.0, 100.0], [280.0, 100.0]]))
    assert far > 3.0 * near


def test_a_small_and_a_large_picture_of_the_field_agree():
    rng = np.random.default_rng(3)
    at = points(rng)
    field = fit_light(at, 0.5 + 0.001 * at[:, :1] * [1, 1, 1], SIZE)
    wide = field.over(297, 210)
    assert wide[105, 148] == pytest.approx(field.at(np.array([[148.5, 105.5]]))[0], rel=0.002)


def test_too_little_paper_is_refused():
    few = np.array([[10.0, 10.0], [200.0, 50.0]])
    with pytest.raises(BadSheet, match="2 places of blank paper"):
        fit_light(few, np.ones((2, 3)), SIZE)


def greys(seen, light=LIT, sigma=0.01, **changes) -> Greys:
    given = {"true": STEPS, "gain": np.zeros(len(seen))}
    return Greys(
        seen=seen, light=light, sigma_log=np.full(len(seen), sigma), **{**given, **changes}
    )


def test_a_known_print_shows_the_cameras_curve():
    tone = fit_tone(greys(STEPS**1.1))
    assert tone.true(np.array([0.1**1.1]), LIT[:1]) == pytest.approx([0.1], rel=0.02)
    assert float(tone.sigma_log(np.array(0.1), LIT[0])) < 0.03


def test_a_curve_bends_colours_in_weaker_light_otherwise():
    def stored(linear):  # darks darker and lights lighter, as a vivid phone has them
        value = linear_to_srgb(linear)
        return srgb_to_linear(value + 0.15 * (value - 0.5) * value * (1.0 - value) * 4.0)

    def seen(light):
        return stored(light * STEPS) / stored(light), np.full(6, stored(light))

    bright, dim = seen(np.array(0.8)), seen(np.array(0.35))
    tone = fit_tone(greys(*bright))
    assert tone.true(*bright) == pytest.approx(STEPS, rel=0.03)
    assert tone.true(*dim) == pytest.approx(STEPS, rel=0.05)
    assert np.abs(dim[0] / bright[0] - 1.0).max() > 0.1


def test_an_unknown_print_leaves_doubt_and_corrects_by_half():
    known = fit_tone(greys(STEPS**1.1, sigma=0.05))
    unknown = fit_tone(greys(STEPS**1.1, sigma=0.05, gain=np.full(6, 0.1)))
    moved = [abs(tone.true(STEPS, LIT) - STEPS).sum() for tone in (known, unknown)]
    assert moved[1] < moved[0]
    dark, lit = np.array(0.05), LIT[0]
    assert unknown.sigma_log(dark, lit) > 1.5 * known.sigma_log(dark, lit)


def test_without_greys_the_picture_is_taken_as_it_is():
    assert fit_tone().true(np.array([0.3]), LIT[:1]) == pytest.approx([0.3])
