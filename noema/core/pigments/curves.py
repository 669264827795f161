"""The parametric curves the built-in tubes are made of; see data/tubes.toml."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from noema.core.colour.spectra import WAVELENGTHS_NM

Floats = NDArray[np.float64]

_LEAST_K = 1e-4  # no paint is perfectly clear; also keeps reflectances below 1


@dataclass(frozen=True, kw_only=True)
class CurveShape:
    """Where a pigment absorbs and how it scatters; lengths in nm, heights in white's scattering."""

    edges: tuple[tuple[float, float, float], ...]  # at, width, height
    bands: tuple[tuple[float, float, float], ...]  # at, width, height
    blocks: tuple[tuple[float, float, float, float, float], ...]  # from, width, to, width, height
    haze: float
    scatter: float
    tilt: float


def absorption_of(shape: CurveShape) -> Floats:
    """Give K at the 31 wavelengths."""
    nm = WAVELENGTHS_NM
    total = np.full_like(nm, shape.haze)
    for at, width, height in shape.edges:
        total += height * _below(at, width)
    for at, width, height in shape.bands:
        total += height * np.exp(-(((nm - at) / width) ** 2) / 2.0)
    for start, rise, end, fall, height in shape.blocks:
        total += height * (1.0 - _below(start, rise)) * _below(end, fall)
    return np.maximum(total, _LEAST_K)


def scattering_of(shape: CurveShape) -> Floats:
    """Give S at the 31 wavelengths; fine pigments scatter short waves more."""
    return np.asarray(shape.scatter * (560.0 / WAVELENGTHS_NM) ** shape.tilt)


def rows_of_three(rows: Sequence[Sequence[float]]) -> tuple[tuple[float, float, float], ...]:
    """Read edges or bands."""
    return tuple((at, width, height) for at, width, height in rows)


def _below(at_nm: float, width_nm: float) -> Floats:
    return np.asarray(1.0 / (1.0 + np.exp((WAVELENGTHS_NM - at_nm) / width_nm)))
