"""Schemes lie on the wheel as their names say, and a picture in one keeps its values."""

import numpy as np
import pytest

from noema.core.colour.hvc import hvc_of, hvc_to_lab
from noema.core.colour.names import USUAL_HUES
from noema.core.errors import Refused
from noema.core.pictures.colours import colours_of_picture, shares_of_colours
from noema.core.pictures.schemes import (
    BY_PLACES,
    SchemeKind,
    hue_at,
    in_scheme,
    place_of,
    scheme_fits,
    scheme_from,
)
from noema.core.pigments.shelf import builtin_set
from tests.core.pictures.painted import shown

SIX = builtin_set("split-six")


def lab_of(hue, value=5.0, chroma=5.0):
    return tuple(hvc_to_lab([USUAL_HUES.of(hue).hue100, value, chroma]).tolist())


@pytest.mark.parametrize("place", [0.0, 1.5, 7.25, 12.0, 23.75])
def test_places_on_the_wheel_go_there_and_back(place):
    assert place_of(hue_at(place, USUAL_HUES), USUAL_HUES) == pytest.approx(place, abs=1e-6)


@pytest.mark.parametrize("name", ["yellow", "orange", "red", "violet", "blue", "green"])
def test_a_complement_is_what_the_wheel_calls_so(name):
    scheme = scheme_from(lab_of(name), SchemeKind.COMPLEMENT, SIX, USUAL_HUES)
    across = USUAL_HUES.opposite(name).hue100
    other = hvc_of(scheme.colours[1].lab)
    assert abs((other.hue100 - across + 50) % 100 - 50) < 2.0
    assert other.value == pytest.approx(5.0, abs=0.1)


@pytest.mark.parametrize(
    ("kind", "apart"),
    [(SchemeKind.SPLIT, {10, 14}), (SchemeKind.NEIGHBOURS, {2, 22}), (SchemeKind.TRIAD, {8, 16})],
)
def test_other_schemes_lie_where_they_should(kind, apart):
    base, *others = scheme_from(lab_of("red", 5.0, 3.0), kind, SIX, USUAL_HUES).colours
    start = place_of(hvc_of(base.lab).hue100, USUAL_HUES)
    found = [(place_of(hvc_of(one.lab).hue100, USUAL_HUES) - start) % 24 for one in others]
    for steps, wanted in zip(sorted(found), sorted(apart), strict=True):
        assert steps == pytest.approx(wanted, abs=0.6)


def test_shares_are_as_asked_and_what_is_over_is_divided():
    scheme = scheme_from(lab_of("red"), SchemeKind.TRIAD, SIX, USUAL_HUES, (5, 3, 2))
    assert [one.share for one in scheme.colours] == pytest.approx([0.5, 0.3, 0.2])
    family = scheme_from(lab_of("red"), SchemeKind.FAMILY, SIX, USUAL_HUES, (6, 3, 1))
    assert sum(one.share for one in family.colours) == pytest.approx(1.0)
    assert len(family.colours) > 3
    for wrong in ((), (0, 1), (40,)):
        with pytest.raises(Refused, match="whole numbers"):
            scheme_from(lab_of("red"), SchemeKind.TRIAD, SIX, USUAL_HUES, wrong)
    with pytest.raises(Refused, match="begins with a hue"):
        scheme_from((50.0, 0.0, 0.0), SchemeKind.TRIAD, SIX, USUAL_HUES)


def test_a_family_holds_its_base_in_every_colour():
    """Led towards another tube, a mix goes that way and tints are lighter."""
    base, *others = scheme_from(lab_of("red"), SchemeKind.FAMILY, SIX, USUAL_HUES).colours
    for led, tint in zip(others[::2], others[1::2], strict=True):
        assert tint.lab[0] > led.lab[0]
        assert led.lab != base.lab


def halves(one, other):
    return colours_of_picture(shown(np.array([[one, one, one, other]]).repeat(8, axis=0), 4))


def test_a_picture_lies_on_its_own_scheme():
    red_green = halves(lab_of("red"), lab_of("green"))
    fits = {one.kind: one for one in scheme_fits(shares_of_colours(red_green), USUAL_HUES)}
    assert set(fits) == set(BY_PLACES)
    assert fits[SchemeKind.COMPLEMENT].share > 0.99
    assert fits[SchemeKind.NEIGHBOURS].share < 0.9
    grey = halves((50.0, 0.0, 0.0), (70.0, 0.0, 0.0))
    assert scheme_fits(shares_of_colours(grey), USUAL_HUES) == ()


def test_in_a_scheme_every_value_stays_and_the_largest_hue_takes_most():
    colours = halves(lab_of("blue", 4.0), lab_of("yellow", 7.0))
    scheme = scheme_from(lab_of("green"), SchemeKind.COMPLEMENT, SIX, USUAL_HUES, (3, 1))
    turned = in_scheme(colours, scheme)
    assert np.allclose(turned[..., 0], colours.lab[..., 0])
    left, right = (np.degrees(np.arctan2(turned[4, x, 2], turned[4, x, 1])) for x in (4, -1))
    wanted = [np.degrees(np.arctan2(one.lab[2], one.lab[1])) for one in scheme.colours]
    assert left == pytest.approx(wanted[0], abs=0.5)
    assert right == pytest.approx(wanted[1], abs=0.5)
