"""From K and S to what is seen: Kubelka-Munk films with Saunderson's surface correction.

Kubelka and Munk (1931), Zeitschrift fuer technische Physik 12, 593; Saunderson (1942), JOSA 32,
727. A film's surface sends back a little light before it meets any pigment, and holds back some of
what would come out; a matt surface scatters the first to every side, so that blacks look grey.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

Floats = NDArray[np.float64]

OUTSIDE = 0.04
"""Light sent back on entering paint of refractive index 1.5 (Fresnel)."""

INSIDE = 0.6
"""Diffuse light held back on leaving paint of refractive index 1.5 (Saunderson's k2)."""

PAPER_REFLECTANCE = 0.88
"""White paper under a wash, as seen: value 9.4."""

SHEEN = 0.022
"""Share of light the matt surface of dry acrylic adds to every colour; a tuned constant."""

COAT = 9.0
"""Scattering depth of one coat of titanium white: it nearly hides black beneath."""

_MOST = 0.9999


@dataclass(frozen=True, kw_only=True)
class Surface:
    """How a dried or wet medium changes what its pigments do."""

    sheen: float = SHEEN  # surface light seen with every colour, 0..0.1
    scatter_gain: float = 1.0  # S relative to the dry acrylic the tubes are described in


DRY_ACRYLIC = Surface()


def opaque_reflectance(
    absorption: ArrayLike, scattering: ArrayLike, surface: Surface = DRY_ACRYLIC
) -> Floats:
    """Give the reflectance, in (0, 1), of a film nothing shows through; any shape (..., 31)."""
    ratio = _ratio(absorption, scattering, surface)
    inner = 1.0 + ratio - np.sqrt(ratio * (ratio + 2.0))
    return _seen(inner, surface)


def film_reflectance(
    absorption: ArrayLike,
    scattering: ArrayLike,
    thickness: ArrayLike,
    surface: Surface = DRY_ACRYLIC,
    ground_reflectance: float = PAPER_REFLECTANCE,
) -> Floats:
    """Give the reflectance of a film over a ground, such as a wash on paper.

    A thickness of 1 is a well-laid coat of undiluted paint; shapes broadcast over (..., 31).
    """
    ratio = _ratio(absorption, scattering, surface)
    a = 1.0 + ratio
    b = np.sqrt(ratio * (ratio + 2.0))
    depth = b * np.asarray(scattering) * surface.scatter_gain * np.asarray(thickness) * COAT
    pull = b / np.tanh(np.maximum(depth, 1e-9))
    ground = _bare(ground_reflectance - surface.sheen)
    inner = (1.0 - ground * (a - pull)) / (a - ground + pull)
    return _seen(np.clip(inner, 1e-6, _MOST), surface)


def _ratio(absorption: ArrayLike, scattering: ArrayLike, surface: Surface) -> Floats:
    return np.asarray(absorption) / (np.asarray(scattering) * surface.scatter_gain)


def _seen(inner: Floats, surface: Surface) -> Floats:
    out = (1.0 - OUTSIDE) * (1.0 - INSIDE) * inner / (1.0 - INSIDE * inner)
    return np.asarray(np.clip(surface.sheen + out, 1e-6, _MOST))


def _bare(reflectance: float) -> float:
    """Give the ground's reflectance as met from inside the film."""
    return reflectance / ((1.0 - OUTSIDE) * (1.0 - INSIDE) + INSIDE * reflectance)
