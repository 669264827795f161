"""What a mix of tubes looks like: K and S add by volume as squeezed."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from noema.core.colour.spectra import reflectance_to_lab
from noema.core.errors import BadPaint
from noema.core.language import gettext
from noema.core.pigments.film import (
    DRY_ACRYLIC,
    Surface,
    film_reflectance,
    opaque_reflectance,
)
from noema.core.pigments.tube import Tube, absorptions, scatterings

Floats = NDArray[np.float64]


@dataclass(frozen=True, kw_only=True)
class Part:
    """An amount of one tube, by volume as squeezed."""

    tube: Tube
    amount: float  # above 0; only its ratio to the others counts

    def __post_init__(self) -> None:
        if not (np.isfinite(self.amount) and self.amount > 0.0):
            raise BadPaint(
                gettext("%(label)s: an amount must be a number above 0.", label=self.tube.label)
            )


def mix_reflectance(
    tubes: Sequence[Tube], amounts: ArrayLike, surface: Surface = DRY_ACRYLIC
) -> Floats:
    """Give the opaque film's reflectance (..., 31) of amounts (..., n) of n tubes."""
    absorption, scattering = _added(tubes, amounts)
    return opaque_reflectance(absorption, scattering, surface)


def mix_labs(tubes: Sequence[Tube], amounts: ArrayLike, surface: Surface = DRY_ACRYLIC) -> Floats:
    """Give the Lab (..., 3) of opaque films of amounts (..., n) of n tubes, 0 where not used."""
    return reflectance_to_lab(mix_reflectance(tubes, amounts, surface))


def film_labs(
    tubes: Sequence[Tube],
    amounts: ArrayLike,
    thickness: ArrayLike,
    surface: Surface = DRY_ACRYLIC,
) -> Floats:
    """Give the Lab (..., 3) of films over white paper; thickness (...) in coats, a wash below 1."""
    absorption, scattering = _added(tubes, amounts)
    depth = np.asarray(thickness, dtype=float)[..., None]
    return reflectance_to_lab(film_reflectance(absorption, scattering, depth, surface))


def lab_of_parts(parts: Sequence[Part], surface: Surface = DRY_ACRYLIC) -> Floats:
    """Give the Lab (3,) of one opaque dry mix."""
    return mix_labs([part.tube for part in parts], [part.amount for part in parts], surface)


def _added(tubes: Sequence[Tube], amounts: ArrayLike) -> tuple[Floats, Floats]:
    given = np.asarray(amounts, dtype=float)
    whole = given.sum(axis=-1, keepdims=True)
    if (given < 0.0).any() or not (whole > 0.0).all():
        raise BadPaint(gettext("A mix needs amounts of 0 or more, and at least one above 0."))
    share = given / whole
    row = tuple(tubes)
    return share @ absorptions(row), share @ scatterings(row)
