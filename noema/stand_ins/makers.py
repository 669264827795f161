"""Paint of other makers: tubes sold under the same names, of pigments and strengths of their own.

A hand that knows neither model nor amounts mixes them by eye to the colour it wants.
"""

from collections.abc import Iterable, Mapping
from dataclasses import replace

import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from noema.core.colour.difference import ciede2000
from noema.core.pigments.film import Surface
from noema.core.pigments.mix import Part, lab_of_parts, mix_labs
from noema.core.pigments.qualities import strengths
from noema.core.pigments.recipe import nearest_amounts
from noema.core.pigments.tube import Tube
from noema.core.sheet.layout import Triple
from noema.stand_ins.kinds import Kinds
from noema.stand_ins.spectra import Recipe, of_some_make

Floats = NDArray[np.float64]

_STRENGTH = 2.0  # times as strong, or as weak, as a tube may be
_MASSTONE = 8.0  # CIEDE2000 that a masstone may lie away
_SHARES = (1.0, 0.8, 0.6, 0.4, 0.2, 0.0)  # of the way to another pigment


def tubes_of_a_maker(
    tubes: Iterable[Tube], rng: Generator, kinds: Kinds = Kinds.USUAL
) -> dict[str, Tube]:
    """Give each tube as one maker fills it, by name."""
    return {tube.name: _filled(tube, rng, kinds) for tube in tubes}


def _filled(tube: Tube, rng: Generator, kinds: Kinds) -> Tube:
    absorption, scattering = of_some_make(tube, rng, kinds)
    strength = float(np.exp(rng.uniform(-1.0, 1.0) * np.log(_STRENGTH)))
    as_known = lab_of_parts([Part(tube=tube, amount=1.0)])
    for share in _SHARES:
        other = replace(
            tube,
            absorption=tube.absorption * (absorption / tube.absorption) ** share,
            scattering=tube.scattering * (scattering / tube.scattering) ** share,
        )
        if float(ciede2000(lab_of_parts([Part(tube=other, amount=1.0)]), as_known)) <= _MASSTONE:
            break
    return replace(
        other, absorption=strength * other.absorption, scattering=strength * other.scattering
    )


def mixed_by_eye(
    meant: Recipe,
    wanted: Triple,
    maker: Mapping[str, Tube],
    surface: Surface,
    rng: Generator,
    care: float,
) -> tuple[Triple, Recipe]:
    """Mix the tubes of a recipe as a maker fills them, as near to a colour as they come.

    `care` is one sigma of the logarithm of each amount. Gives the colour and what is in it.
    """
    tubes = tuple(maker[part.tube.name] for part in meant)
    amounts = np.array([part.amount for part in meant])
    if len(tubes) > 1:
        usual = amounts * strengths(tuple(p.tube for p in meant)) / strengths(tubes)
        starts = (amounts.tolist(), usual.tolist())
        tried = np.array([nearest_amounts(tubes, one, wanted, surface) for one in starts])
        amounts = tried[int(np.argmin(ciede2000(mix_labs(tubes, tried, surface), wanted)))]
    laid = _parts(tubes, amounts * np.exp(rng.normal(0.0, care, len(tubes))))
    lightness, a, b = lab_of_parts(laid, surface).tolist()
    return (lightness, a, b), laid


def _parts(tubes: tuple[Tube, ...], amounts: Floats) -> Recipe:
    return tuple(Part(tube=t, amount=float(a)) for t, a in zip(tubes, amounts, strict=True))
