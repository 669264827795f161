"""Bending tubes to measured swatches."""

import numpy as np
import pytest

from noema.core.colour.difference import ciede2000
from noema.core.errors import BadPaint
from noema.core.pigments.fit import Swatch, fit_tube
from noema.core.pigments.mix import Part, mix_labs
from noema.core.pigments.shelf import TUBES
from noema.core.pigments.tube import Tube

WHITE, LEMON = TUBES["titanium-white"], TUBES["lemon-yellow"]


def another(name: str, strength: float = 1.4) -> Tube:
    """A tube of the same pigment from another maker: stronger, with curves of its own."""
    of = TUBES[name]
    wave = np.exp(0.2 * np.sin(np.arange(31) / 5))
    return Tube(
        name="own-one",
        label="own one",
        pigments=of.pigments,
        absorption=of.absorption * strength * wave,
        scattering=of.scattering * 0.8,
        basis="made up for a test",
    )


def swatch(tube: Tube, label: str, *mixed_with: Part) -> Swatch:
    tubes = [tube, *(part.tube for part in mixed_with)]
    lab = mix_labs(tubes, [1.0, *(part.amount for part in mixed_with)]).tolist()
    return Swatch(label=label, mixed_with=mixed_with, lab=(lab[0], lab[1], lab[2]))


def swatches(tube: Tube) -> list[Swatch]:
    return [swatch(tube, "masstone"), swatch(tube, "tint", Part(tube=WHITE, amount=5.0))]


@pytest.mark.parametrize(
    ("true", "base"),
    [
        ("rose", "rose"),
        ("rose", "magenta"),
        ("scarlet", "cadmium-red-hue"),
        ("phthalo-blue", "cyan"),
        ("burnt-sienna", "red-oxide"),
    ],
)
def test_a_fitted_tube_follows_its_swatches_and_foretells_others(true, base):
    tube = another(true)
    found = fit_tube(TUBES[base], swatches(tube), name="own-one", label="own one")
    assert max(found.misses) < 1.5
    assert "follows the swatches" in found.words
    for other, amount in ((WHITE, 20.0), (LEMON, 3.0)):
        truth = mix_labs([tube, other], [1, amount])
        fitted = ciede2000(mix_labs([found.tube, other], [1, amount]), truth)
        untouched = ciede2000(mix_labs([TUBES[base], other], [1, amount]), truth)
        assert fitted < 3.0
        assert fitted < untouched


def test_a_mix_with_another_known_tube_serves_too():
    tube = another("phthalo-blue")
    given = [swatch(tube, "masstone"), swatch(tube, "green", Part(tube=LEMON, amount=10.0))]
    found = fit_tube(TUBES["phthalo-blue"], given, name="own-one", label="own one")
    assert max(found.misses) < 1.0


def test_masstone_alone_is_enough_to_start():
    found = fit_tube(TUBES["scarlet"], swatches(another("scarlet"))[:1], name="x", label="x")
    assert found.misses[0] < 0.5


def test_a_colour_the_pigment_cannot_have_is_said_not_to_fit():
    green = Swatch(label="masstone", mixed_with=(), lab=(60.0, -70.0, 60.0))
    tint = Swatch(label="tint", mixed_with=(Part(tube=WHITE, amount=1.0),), lab=(20.0, 60.0, 0.0))
    found = fit_tube(TUBES["ivory-black"], [green, tint], name="x", label="x")
    assert "doesn't follow" in found.words


def test_white_stays_the_lightest():
    bright = Swatch(label="masstone", mixed_with=(), lab=(99.5, 0.0, 0.0))
    tube = fit_tube(TUBES["lemon-yellow"], [bright], name="x", label="x").tube
    assert (tube.absorption / tube.scattering >= WHITE.absorption / WHITE.scattering - 1e-12).all()


def test_no_swatch_and_no_colour_are_refused():
    with pytest.raises(BadPaint, match="1 to 12 swatches"):
        fit_tube(TUBES["rose"], [], name="x", label="x")
    odd = Swatch(label="masstone", mixed_with=(), lab=(50.0, 300.0, 0.0))
    with pytest.raises(BadPaint, match="masstone: no paint has the colour"):
        fit_tube(TUBES["rose"], [odd], name="x", label="x")
