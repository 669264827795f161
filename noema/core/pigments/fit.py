"""Bending a built-in tube to the swatches of the one in the cupboard.

A measured colour is three numbers and a tube's curves are sixty-two, so the curves of a tube with
the same or a like pigment are bent smoothly, as little as the swatches demand: K by a factor that
runs through six knots, S by a level and a tilt. It stays a model; what it misses is said.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares

from noema.core.colour.difference import ciede2000
from noema.core.colour.names import word_of
from noema.core.colour.spectra import reflectance_to_lab
from noema.core.errors import BadPaint
from noema.core.language import N_, gettext
from noema.core.pigments.bending import BENDS, bent
from noema.core.pigments.film import DRY_ACRYLIC, Surface, opaque_reflectance
from noema.core.pigments.mix import Part
from noema.core.pigments.tube import Tube

Floats = NDArray[np.float64]

MOST_SWATCHES = 12

_STIFFNESS = 0.35  # Lab units a unit of bending (a factor of e) costs
_MOST_BENDING = 4.0  # logs


@dataclass(frozen=True, kw_only=True)
class Swatch:
    """A painted, dried and measured swatch of one volume of the tube, alone or mixed."""

    label: str  # such as masstone, or 1 to 10 white
    mixed_with: tuple[Part, ...]  # volumes of known tubes to one of this; empty for masstone
    lab: tuple[float, float, float]  # measured, D50


@dataclass(frozen=True, kw_only=True)
class FittedTube:
    """A tube bent to its swatches, and how well."""

    tube: Tube
    base: str  # name of the tube it started from
    misses: tuple[float, ...]  # CIEDE2000, a swatch each

    @property
    def words(self) -> str:
        """Say how well the model follows the swatches."""
        return word_of(_FITS, max(self.misses))


def fit_tube(
    base: Tube,
    swatches: Sequence[Swatch],
    *,
    name: str,
    label: str,
    surface: Surface = DRY_ACRYLIC,
) -> FittedTube:
    """Bend a built-in tube to measured swatches.

    Refuses no swatches, more than twelve, or colours no paint has.
    """
    if not 1 <= len(swatches) <= MOST_SWATCHES:
        raise BadPaint(
            gettext(
                "A tube is fitted to 1 to %(most_swatches)s swatches, not %(count)s.",
                most_swatches=MOST_SWATCHES,
                count=len(swatches),
            )
        )
    for swatch in swatches:
        lightness, a, b = swatch.lab
        if not (0.0 < lightness <= 100.0 and abs(a) < 130.0 and abs(b) < 130.0):
            raise BadPaint(
                gettext(
                    "%(label)s: no paint has the colour %(lab)s; type it again.",
                    label=swatch.label,
                    lab=swatch.lab,
                )
            )
    wanted = np.array([swatch.lab for swatch in swatches])

    def misses(bend: Floats) -> Floats:
        return np.concatenate(
            [(_labs(base, bend, swatches, surface) - wanted).ravel(), _STIFFNESS * bend]
        )

    found = least_squares(misses, np.zeros(BENDS + 1), bounds=(-_MOST_BENDING, _MOST_BENDING))
    absorption, scattering = _bent(base, found.x)
    away = ciede2000(_labs(base, found.x, swatches, surface), wanted)
    tube = bent_tube(base, name, label, absorption, scattering, len(swatches))
    return FittedTube(tube=tube, base=base.name, misses=tuple(away.tolist()))


def bent_tube(
    base: Tube, name: str, label: str, absorption: Floats, scattering: Floats, swatches: int
) -> Tube:
    """Make a tube of one's own from a built-in one's pigment and the curves found for it."""
    return Tube(
        name=name,
        label=label,
        pigments=base.pigments,
        absorption=absorption,
        scattering=scattering,
        basis=gettext(
            "%(label)s, bent to %(swatches)s measured swatches", label=base.label, swatches=swatches
        ),
        role=base.role,
        metal=base.metal,
    )


def _bent(base: Tube, found: Floats) -> tuple[Floats, Floats]:
    """Bend by the knots of K, then the level and the tilt of S."""
    bends = np.delete(found, -2)
    return bent(base, bends, float(found[-2]))


def _labs(base: Tube, bend: Floats, swatches: Sequence[Swatch], surface: Surface) -> Floats:
    absorption, scattering = _bent(base, bend)
    rows = []
    for swatch in swatches:
        k = absorption + sum(part.amount * part.tube.absorption for part in swatch.mixed_with)
        s = scattering + sum(part.amount * part.tube.scattering for part in swatch.mixed_with)
        rows.append(opaque_reflectance(k, s, surface))
    return reflectance_to_lab(np.stack(rows))


_FITS = (
    (1.0, N_("follows the swatches as closely as the eye sees")),
    (3.0, N_("follows the swatches well")),
    (6.0, N_("follows the swatches roughly: paint them again, thick and dry, and measure twice")),
    (
        float("inf"),
        N_("doesn't follow the swatches: check the numbers, or start from a tube more like it"),
    ),
)
