"""Laws every mix of every tube obeys."""

from itertools import combinations

import numpy as np
import pytest

from noema.core.colour.hvc import lab_to_hvc
from noema.core.errors import BadPaint
from noema.core.pigments.drying import Binder
from noema.core.pigments.film import film_reflectance, opaque_reflectance
from noema.core.pigments.mix import Part, film_labs, lab_of_parts, mix_labs, mix_reflectance
from noema.core.pigments.shelf import TUBES, builtin_set
from noema.core.pigments.tube import Tube

EVERY = tuple(TUBES.values())
WHITE, BLACK = TUBES["titanium-white"], TUBES["ivory-black"]
LOTS = np.random.default_rng(7).dirichlet(np.full(len(EVERY), 0.3), 400)


def test_all_tubes_of_the_contract_are_there():
    assert len(TUBES) == 25
    assert [t.name for t in builtin_set("split-six").tubes] == [
        "lemon-yellow",
        "warm-yellow",
        "scarlet",
        "rose",
        "ultramarine",
        "phthalo-blue",
        "titanium-white",
    ]
    assert builtin_set("darks+black").tubes[-1] is BLACK
    assert len(builtin_set("all").tubes) == 25


@pytest.mark.parametrize("binder", list(Binder))
def test_reflectances_stay_between_0_and_1(binder):
    for surface in (binder.dry, binder.wet):
        opaque = mix_reflectance(EVERY, LOTS, surface)
        assert opaque.min() > 0
        assert opaque.max() < 1
        for coats in (0.0, 1e-6, 0.05, 1.0, 50.0):
            washed = film_labs(EVERY, LOTS, np.full(len(LOTS), coats), surface)
            assert np.isfinite(washed).all()


def test_black_and_white_stay_neutral():
    parts = np.geomspace(0.01, 100, 60)
    hvc = lab_to_hvc(mix_labs([BLACK, WHITE], np.stack([np.ones(60), parts], -1)))
    assert hvc[:, 2].max() < 1.0


def test_mixing_does_not_mind_the_order():
    amounts = LOTS[:50]
    there = mix_labs(EVERY, amounts)
    back = mix_labs(EVERY[::-1], amounts[:, ::-1])
    assert there == pytest.approx(back, abs=1e-9)
    three = [Part(tube=t, amount=a) for t, a in zip(EVERY[3:6], (1, 2, 5), strict=True)]
    assert lab_of_parts(three) == pytest.approx(lab_of_parts(three[::-1]), abs=1e-9)


@pytest.mark.parametrize("tube", EVERY, ids=lambda t: t.name)
def test_a_tube_mixed_with_itself_is_the_tube(tube):
    assert mix_labs([tube, tube], [3, 8]) == pytest.approx(mix_labs([tube], [1]), abs=1e-9)


def test_only_the_ratio_counts():
    assert mix_labs(EVERY, LOTS * 37.0) == pytest.approx(mix_labs(EVERY, LOTS), abs=1e-9)


def test_adding_white_never_darkens():
    before = lab_to_hvc(mix_labs(EVERY, LOTS))[:, 1]
    for white in (0.02, 0.2, 1.0, 5.0):
        more = LOTS.copy()
        more[:, EVERY.index(WHITE)] += white
        after = lab_to_hvc(mix_labs(EVERY, more))[:, 1]
        assert (after >= before - 1e-9).all()
        before = after


def test_white_is_the_lightest_paint_at_every_wavelength():
    white = WHITE.absorption / WHITE.scattering
    for tube in EVERY:
        assert (tube.absorption / tube.scattering >= white - 1e-12).all(), tube.name


def test_a_thick_film_is_opaque_and_no_film_is_paper():
    k, s = TUBES["rose"].absorption, TUBES["rose"].scattering
    assert film_reflectance(k, s, 200.0) == pytest.approx(opaque_reflectance(k, s), abs=1e-6)
    assert film_reflectance(k, s, 0.0) == pytest.approx(np.full(31, 0.88), abs=1e-3)


def test_a_wash_gets_lighter_as_it_gets_thinner():
    coats = np.geomspace(0.005, 3.0, 40)
    for tube in EVERY:
        if tube is WHITE:
            continue
        labs = film_labs([tube], np.ones((40, 1)), coats)
        assert (np.diff(labs[:, 0]) < 1e-6).all(), tube.name


@pytest.mark.parametrize(
    ("binder", "least", "most"),
    [
        (Binder.ACRYLIC, -0.55, -0.3),
        (Binder.GOUACHE, 0.3, 0.6),
        (Binder.WATERCOLOUR, 0.3, 0.6),
        (Binder.OIL, 0.0, 0.0),
    ],
)
def test_drying_shifts_the_value_as_each_medium_does(binder, least, most):
    wet = lab_to_hvc(mix_labs(EVERY, LOTS, binder.wet))[:, 1]
    dry = lab_to_hvc(mix_labs(EVERY, LOTS, binder.dry))[:, 1]
    shift = dry - wet
    assert np.sign(shift).min() == np.sign(shift).max() == np.sign(least)
    furthest = shift[np.argmax(np.abs(shift))]
    assert least <= furthest <= most


def test_tinting_strengths_differ_by_more_than_ten():
    one_to_ten = {
        name: lab_to_hvc(mix_labs([TUBES[name], WHITE], [1, 10]))[1]
        for name in ("phthalo-blue", "phthalo-green", "dioxazine-violet", "cerulean", "cobalt-blue")
    }
    weak = lab_to_hvc(mix_labs([TUBES["cobalt-blue"], WHITE], [1, 10]))[1]
    as_strong = lab_to_hvc(mix_labs([TUBES["phthalo-blue"], WHITE], [1, 100]))[1]
    assert as_strong == pytest.approx(weak, abs=0.5)
    assert one_to_ten["dioxazine-violet"] < one_to_ten["cobalt-blue"] - 2.0


@pytest.mark.parametrize(("one", "other"), list(combinations(("rose", "scarlet", "cyan"), 2)))
def test_a_mix_lies_between_its_tubes_at_every_wavelength(one, other):
    a, b = TUBES[one], TUBES[other]
    mix = mix_reflectance([a, b], [1, 1])
    ends = np.stack([mix_reflectance([a], [1]), mix_reflectance([b], [1])])
    assert (mix >= ends.min(axis=0) - 1e-12).all()
    assert (mix <= ends.max(axis=0) + 1e-12).all()


def test_amounts_that_make_no_mix_are_refused():
    with pytest.raises(BadPaint, match="at least one above 0"):
        mix_labs([WHITE, BLACK], [0, 0])
    with pytest.raises(BadPaint, match="above 0"):
        Part(tube=WHITE, amount=0.0)
    with pytest.raises(BadPaint, match="31 numbers"):
        Tube(
            name="x",
            label="x",
            pigments=(),
            absorption=np.zeros(31),
            scattering=np.ones(31),
            basis="",
        )
