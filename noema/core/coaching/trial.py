"""A move is tried before it is said: over all that is in doubt, does it bring the cell nearer?

In doubt are the colour as it was read, how strong a maker's tube is and how its colour differs, and
how well a hand measures. The same cases are tried for every cell.
"""

from collections.abc import Mapping, Sequence
from functools import lru_cache

import numpy as np
from numpy.random import default_rng
from numpy.typing import NDArray

from noema.core.colour.chroma_weighted import chroma_weight
from noema.core.colour.difference import ciede2000
from noema.core.colour.spectra import reflectance_to_lab
from noema.core.pigments.bending import BENDS, bent, spread_of_makers
from noema.core.pigments.film import Surface, opaque_reflectance
from noema.core.pigments.mix import Part
from noema.core.pigments.tube import BANDS, Tube, absorptions, scatterings
from noema.core.sheet.layout import Triple

Floats = NDArray[np.float64]

ENOUGH = 0.9
"""Share of cases in which a move must bring a cell nearer to be said: nine in ten of what is tried
here came to four in five where tubes and readings were others."""

_CASES = 40
_STRENGTH = 0.4  # one sigma of the logarithm of how strong a maker's tube is
_MEASURED = 0.2  # the same of each amount somebody squeezes or adds


def is_worth_adding(
    pile: Triple,
    doubt: Triple,
    contents: Sequence[Part],
    tube: Tube,
    share: float,
    target: Triple,
    surface: Surface,
) -> bool:
    """Try adding a share of a tube to one volume of a pile that is read as `pile`.

    `doubt` is one sigma of its L*, a* and b*, these drawn together; `contents`, in volumes that
    sum to 1, what the pile holds.
    """
    piles = _piles(pile, doubt)
    used = tuple(part.tube for part in contents)
    amounts = np.array([part.amount for part in contents])
    absorption, scattering = amounts @ absorptions(used), amounts @ scatterings(used)
    missed = piles - _labs(absorption, scattering, surface)
    more, (more_k, more_s) = share * _amount(0), _as_filled(tube)
    after = _labs(absorption + more[:, None] * more_k, scattering + more[:, None] * more_s, surface)
    return _is_nearer(piles, after + missed / (1.0 + share), target)


def is_worth_beginning_again(
    pile: Triple, doubt: Triple, volumes: Mapping[Tube, float], target: Triple, surface: Surface
) -> bool:
    """Try a new pile of so many volumes of each tube, to the letter."""
    absorption, scattering = np.zeros((2, _CASES, BANDS))
    for place, (tube, volume) in enumerate(volumes.items()):
        k, s = _as_filled(tube)
        amount = (volume * _amount(place))[:, None]
        absorption, scattering = absorption + amount * k, scattering + amount * s
    return _is_nearer(_piles(pile, doubt), _labs(absorption, scattering, surface), target)


def _is_nearer(before: Floats, after: Floats, target: Triple) -> bool:
    """Say whether enough cases come nearer, and more is won than lost."""
    gained = ciede2000(before, target) - ciede2000(after, target)
    return float(np.mean(gained > 0.0)) >= ENOUGH and float(np.mean(gained)) > 0.0


def _labs(absorption: Floats, scattering: Floats, surface: Surface) -> Floats:
    return np.asarray(reflectance_to_lab(opaque_reflectance(absorption, scattering, surface)))


def _piles(pile: Triple, doubt: Triple) -> Floats:
    weight = float(chroma_weight(np.array([pile]))[0])
    return np.asarray(np.array(pile) + _chances()[:, :3] * doubt * [1.0, weight, weight])


def _amount(place: int) -> Floats:
    """Give how much more or less of what is asked comes into a pile, (cases,)."""
    spread = float(np.hypot(_STRENGTH, _MEASURED))
    return np.asarray(np.exp(spread * _chances()[:, 3 + place % 4]), dtype=np.float64)


@lru_cache(maxsize=256)
def _as_filled(tube: Tube) -> tuple[Floats, Floats]:
    """Give K and S (cases, 31) of a tube as makers fill it; remembered."""
    name = [ord(letter) for letter in tube.name]
    bends = default_rng(name).multivariate_normal(np.zeros(BENDS), spread_of_makers(), _CASES)
    return bent(tube, bends)


@lru_cache(maxsize=1)
def _chances() -> Floats:
    chances: Floats = default_rng(1931).standard_normal((_CASES, 7))
    return chances
