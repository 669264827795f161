"""Reflectances of paint and print with a wanted colour, different in what the eye doesn't see.

Paints are drawn about the mixes the tubes really make: three numbers set the colour, three more
are left to chance. Inks are three dyes and a black on paper.
"""

from functools import cache

import numpy as np
from numpy.random import Generator, default_rng
from numpy.typing import NDArray

from noema.core.colour.lab import xyz_to_lab
from noema.core.colour.spectra import WAVELENGTHS_NM, XYZ_WEIGHTS
from noema.core.pigments.film import opaque_reflectance
from noema.core.pigments.shelf import TUBES

Floats = NDArray[np.float64]

_SHOWN, _HIDDEN = 3, 3  # components that set the colour, and that the eye doesn't tell apart
_MIXES = 1500
_ROUNDS = 40
_CLOSE = 0.02  # Lab units
_DYES = ((640.0, 55.0), (540.0, 42.0), (440.0, 45.0))  # absorb at, spread: cyan, magenta, yellow


def paint_spectra(labs: Floats, rng: Generator) -> Floats:
    """Give paint-like reflectances (n, 31) with colours Lab (n, 3), as near as paint can be."""
    mean, components = _basis()
    wanted = np.asarray(labs, dtype=float).reshape(-1, 3)
    hidden = rng.normal(0.0, 0.5, (len(wanted), _HIDDEN))
    base = mean + hidden @ components[_SHOWN:]
    coded, missed = _solved(base, components[:_SHOWN], wanted)
    far = missed > 1.0
    if far.any():  # chance took it out of reach: leave chance away
        coded[far] = _solved(np.repeat(mean[None], far.sum(), 0), components[:_SHOWN], wanted[far])[
            0
        ]
    return _reflectance(coded)


def ink_spectra(labs: Floats, paper: Floats) -> Floats:
    """Give reflectances (n, 31) of three dyes on a paper (31,), as near to Lab (n, 3) as can be."""
    dyes = dye_bands()
    amounts = np.full((len(labs), 3), 0.3)
    step = 1e-4
    for _ in range(_ROUNDS):
        seen = _ink_labs(amounts, dyes, paper)
        slope = np.stack(
            [(_ink_labs(amounts + step * row, dyes, paper) - seen) / step for row in np.eye(3)],
            axis=-1,
        )
        slope = slope + 1e-6 * np.eye(3)
        move = np.linalg.solve(slope, (labs - seen)[..., None])[..., 0]
        amounts = np.clip(amounts + np.clip(move, -0.3, 0.3), 0.0, 2.2)
    return np.asarray(paper * 10.0 ** -(amounts @ dyes))


@cache
def dye_bands() -> Floats:
    """Give how strongly cyan, magenta and yellow absorb in each band, (3, 31)."""
    return np.stack([np.exp(-(((WAVELENGTHS_NM - at) / wide) ** 2)) for at, wide in _DYES])


@cache
def everyday_spectra() -> Floats:
    """Give the reflectances (n, 31) that a camera's matrix is fitted to."""
    return _mixes()[::6]


def _ink_labs(amounts: Floats, dyes: Floats, paper: Floats) -> Floats:
    return xyz_to_lab((paper * 10.0 ** -(amounts @ dyes)) @ XYZ_WEIGHTS)


def _solved(base: Floats, shown: Floats, wanted: Floats) -> tuple[Floats, Floats]:
    """Move coded spectra (n, 31) along three components until their colours are as wanted."""
    amounts = np.zeros((len(base), _SHOWN))
    missed = np.full(len(base), np.inf)
    step = 1e-4
    for _ in range(_ROUNDS):
        seen = _labs(base + amounts @ shown)
        missed = np.abs(wanted - seen).max(axis=1)
        if (missed < _CLOSE).all():
            break
        slope = np.stack(
            [(_labs(base + (amounts + step * row) @ shown) - seen) / step for row in np.eye(3)],
            axis=-1,
        )
        move = np.linalg.solve(slope + 1e-6 * np.eye(3), (wanted - seen)[..., None])[..., 0]
        amounts = np.clip(amounts + np.clip(move, -1.0, 1.0), -14.0, 14.0)
    return base + amounts @ shown, missed


def _labs(coded: Floats) -> Floats:
    return xyz_to_lab(_reflectance(coded) @ XYZ_WEIGHTS)


def _reflectance(coded: Floats) -> Floats:
    return np.asarray(1.0 / (1.0 + np.exp(-coded)))


@cache
def _mixes() -> Floats:
    """Mix two or three random tubes in random amounts, many times."""
    rng = default_rng(31)
    tubes = list(TUBES.values())
    absorption = np.stack([tube.absorption for tube in tubes])
    scattering = np.stack([tube.scattering for tube in tubes])
    amounts = np.zeros((_MIXES, len(tubes)))
    for row in amounts:
        chosen = rng.choice(len(tubes), int(rng.integers(1, 4)), replace=False)
        row[chosen] = 10.0 ** rng.uniform(-1.5, 0.0, len(chosen))
    amounts[::2, 0] += 10.0 ** rng.uniform(-1.0, 1.5, len(amounts[::2]))  # half with white
    return opaque_reflectance(amounts @ absorption, amounts @ scattering)


@cache
def _basis() -> tuple[Floats, Floats]:
    mixes = np.clip(_mixes(), 0.005, 0.98)
    coded = np.log(mixes / (1.0 - mixes))
    mean = coded.mean(axis=0)
    _, sizes, directions = np.linalg.svd(coded - mean, full_matrices=False)
    spread = sizes / np.sqrt(len(coded))
    kept = _SHOWN + _HIDDEN
    return mean, directions[:kept] * spread[:kept, None]
