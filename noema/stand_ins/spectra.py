"""Reflectances of paint and print with a wanted colour, different in what the eye doesn't see.

Paints are either drawn about the mixes tubes really make (three numbers set the colour, three more
are left to chance), or mixed from the tubes of one class, of whatever make. Inks are three dyes and
a black on paper.
"""

from collections.abc import Sequence
from functools import cache

import numpy as np
from numpy.random import Generator, default_rng
from numpy.typing import NDArray
from scipy.spatial import ConvexHull, KDTree

from noema.core.colour.difference import ciede2000
from noema.core.colour.lab import xyz_to_lab
from noema.core.colour.spectra import WAVELENGTHS_NM, XYZ_WEIGHTS, reflectance_to_lab
from noema.core.pigments.film import film_reflectance, opaque_reflectance
from noema.core.pigments.mix import Part
from noema.core.pigments.shelf import TUBES, WHITE
from noema.core.pigments.tube import Tube
from noema.stand_ins.kinds import Kinds

Floats = NDArray[np.float64]

_SHOWN, _HIDDEN = 3, 3  # components that set the colour, and that the eye doesn't tell apart
_MIXES, _MOST_TUBES = 1500, 3
_ROUNDS = 40
_CLOSE = 0.02  # Lab units
_CLASSES, _MIXES_OF_A_CLASS, _WITH_WHITE = 4, 2000, 0.6
_BY_HAND = 0.1  # how far what the eye doesn't tell is left to chance where tubes are known
_SHIFT_NM, _STRONGER, _BENT = 4.0, 0.15, 0.12
"""One sigma of how a make's tube differs: where it absorbs, how much, and how that slopes."""

_TUBES_OF_A_CLASS = (
    (1.0, ("lemon-yellow",)),
    (0.8, ("warm-yellow",)),
    (0.5, ("naples-yellow", "yellow-ochre")),
    (0.4, ("orange", "permanent-green-light")),
    (0.9, ("scarlet", "cadmium-red-hue")),
    (0.9, ("crimson", "rose", "magenta")),
    (0.9, ("ultramarine", "cobalt-blue")),
    (0.9, ("phthalo-blue", "cyan", "cerulean")),
    (0.4, ("phthalo-green", "viridian-hue")),
    (0.3, ("dioxazine-violet",)),
    (0.6, ("burnt-sienna", "red-oxide", "raw-umber")),
    (0.75, ("ivory-black", "payne-grey-type")),
)
"""How often a class has one of these, beside white."""

_OTHER_TUBES = 2.0  # Lab units: how far beyond known mixes other makes' paints may go

_COATS = np.geomspace(0.02, 2.0, 24)  # how thick a wash may lie, in coats

Recipe = tuple[Part, ...]
Dyes = tuple[tuple[float, float], ...]

DYES: Dyes = ((640.0, 55.0), (540.0, 42.0), (440.0, 45.0))
"""Where cyan, magenta and yellow absorb most, and how widely, in nm."""


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


def mixed_spectra(
    labs: Floats, rng: Generator, recipes: Sequence[Recipe] = (), kinds: Kinds = Kinds.USUAL
) -> Floats:
    """Give reflectances (n, 31) of colours Lab (n, 3) as paint has them.

    Mixed from the recipes, n of them, by a class whose tubes are of some make; where one is empty,
    or none is given, by a class whose tubes suit the colours.
    """
    wanted = np.asarray(labs, dtype=float).reshape(-1, 3)
    base = np.empty((len(wanted), len(WAVELENGTHS_NM)))
    known = np.array([bool(recipe) for recipe in recipes] or [False] * len(wanted), dtype=bool)
    base[known] = _from_recipes(wanted[known], [r for r in recipes if r], rng, kinds)
    if not known.all():
        base[~known] = _from_any_tubes(wanted[~known], rng, kinds)
    _, components = _basis()
    return _reflectance(_solved(base, components[:_SHOWN], wanted)[0])


def _from_recipes(labs: Floats, recipes: Sequence[Recipe], rng: Generator, kinds: Kinds) -> Floats:
    """Mix by recipes, coded (n, 31): opaque, or as thin on paper as comes nearest to the colour."""
    names = sorted({part.tube.name: part.tube for recipe in recipes for part in recipe}.items())
    makes = {name: of_some_make(tube, rng, kinds) for name, tube in names}
    mixed = np.empty((len(recipes), len(WAVELENGTHS_NM)))
    for n, recipe in enumerate(recipes):
        amounts = np.array([part.amount for part in recipe])
        tubes = (np.stack(one) for one in zip(*(makes[p.tube.name] for p in recipe), strict=True))
        absorption, scattering = (amounts @ one / amounts.sum() for one in tubes)
        washes = film_reflectance(absorption, scattering, _COATS[:, None])
        ways = np.concatenate([opaque_reflectance(absorption, scattering)[None], washes])
        mixed[n] = ways[np.argmin(ciede2000(reflectance_to_lab(ways), labs[n]))]
    return _coded(mixed)


def _from_any_tubes(labs: Floats, rng: Generator, kinds: Kinds) -> Floats:
    """Take the nearest mixes, coded (n, 31), of the class whose tubes suit the colours best."""
    classes = [_nearest_mixes(labs, rng, kinds) for _ in range(_CLASSES)]
    base, _ = min(classes, key=lambda one: float(np.sum(one[1] ** 2)))
    _, components = _basis()
    chance = rng.normal(0.0, _BY_HAND, (len(labs), _HIDDEN))
    return np.asarray(base + chance @ components[_SHOWN:])


def _nearest_mixes(labs: Floats, rng: Generator, kinds: Kinds) -> tuple[Floats, Floats]:
    """Give what one class mixes nearest to each colour, coded, and how far that is."""
    mixes = _coded(class_mixes(rng, _MIXES_OF_A_CLASS, kinds))
    away, nearest = KDTree(_labs(mixes)).query(labs)
    return np.asarray(mixes[nearest]), np.asarray(away)


def class_mixes(rng: Generator, count: int, kinds: Kinds = Kinds.USUAL) -> Floats:
    """Give reflectances (count, 31) of mixes of the tubes one class has, of any make."""
    names = [str(rng.choice(one_of)) for often, one_of in _TUBES_OF_A_CLASS if rng.random() < often]
    tubes = [of_some_make(TUBES[name], rng, kinds) for name in (WHITE, *names)]
    return _mixed(tubes, rng, count, _WITH_WHITE)


def of_some_make(tube: Tube, rng: Generator, kinds: Kinds) -> tuple[Floats, Floats]:
    """Give absorption and scattering (31,) of a tube as some other maker fills it."""
    pigment = tube.absorption
    if kinds is Kinds.UNSEEN:
        pigment = _other_pigments(tube)[int(rng.spawn(1)[0].integers(2))]
    absorption = np.interp(WAVELENGTHS_NM - rng.normal(0.0, _SHIFT_NM), WAVELENGTHS_NM, pigment)
    across = np.linspace(-1.0, 1.0, len(WAVELENGTHS_NM))
    wave = np.cos(np.pi * across + rng.uniform(0.0, 2.0 * np.pi))
    bend = rng.normal(0.0, _BENT) * across + rng.normal(0.0, _BENT) * wave
    stronger, paler = rng.normal(0.0, _STRONGER, 2)
    return absorption * np.exp(stronger + bend), tube.scattering * np.exp(paler)


@cache
def _other_pigments(tube: Tube) -> tuple[Floats, Floats]:
    """Give how two other pigments sold under a tube's name absorb, (31,) each.

    One absorbs elsewhere with steeper edges, the other has gentler ones and a band of its own.
    """
    rng = default_rng([ord(letter) for letter in tube.name])
    level = float(np.exp(np.log(tube.absorption).mean()))
    shift, band = rng.choice([-1.0, 1.0], 2) * rng.uniform(8.0, 14.0, 2)
    one, other = (
        np.interp(WAVELENGTHS_NM - nm, WAVELENGTHS_NM, tube.absorption) / level
        for nm in (shift, band)
    )
    own = np.exp(0.5 * np.exp(-(((WAVELENGTHS_NM - rng.uniform(430.0, 670.0)) / 22.0) ** 2)))
    return level * one**1.2, level * other**0.85 * own


def with_more_of(spectrum: Floats, recipe: Recipe, part: int, times: Sequence[float]) -> Floats:
    """Give what a mix (31,) is where there is so many times as much of one part, (len(times), 31).

    Worked out with the tubes as they are known and laid upon the spectrum as it is.
    """
    amounts = np.array([part.amount for part in recipe])
    absorption, scattering = (
        np.stack([getattr(part.tube, name) for part in recipe])
        for name in ("absorption", "scattering")
    )
    off = np.where(np.arange(len(recipe)) == part, np.array(times)[:, None], 1.0) * amounts
    mixed = (off @ absorption) / (off @ scattering)
    usual = (amounts @ absorption) / (amounts @ scattering)
    held = np.clip(spectrum, 0.003, 0.985)
    ratio = (1.0 - held) ** 2 / (2.0 * held) * mixed / usual
    return np.asarray(1.0 + ratio - np.sqrt(ratio**2 + 2.0 * ratio))


def within_paint(asked: Floats, missed: Floats) -> Floats:
    """Pull missed colours Lab (n, 3) back towards those asked for, until paints can give them."""
    sides = ConvexHull(np.concatenate([_mix_labs(), asked])).equations
    way = missed - asked
    towards = way @ sides[:, :3].T
    room = _OTHER_TUBES - (asked @ sides[:, :3].T + sides[:, 3])
    share = np.min(np.where(towards > 1e-9, room / np.maximum(towards, 1e-9), 1.0), axis=1)
    return np.asarray(asked + np.minimum(share, 1.0)[:, None] * way)


def ink_spectra(labs: Floats, paper: Floats) -> Floats:
    """Give reflectances (n, 31) of three dyes on a paper (31,), as near to Lab (n, 3) as can be."""
    return np.asarray(paper * 10.0 ** -(ink_amounts(labs, paper) @ dye_bands()))


def ink_amounts(labs: Floats, paper: Floats) -> Floats:
    """Give how much of three dyes (n, 3) comes as near to Lab (n, 3) on a paper (31,) as can be."""
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
    return np.asarray(amounts)


@cache
def dye_bands(dyes: Dyes = DYES) -> Floats:
    """Give how strongly cyan, magenta and yellow absorb in each band, (3, 31)."""
    return np.stack([np.exp(-(((WAVELENGTHS_NM - at) / wide) ** 2)) for at, wide in dyes])


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


def _coded(reflectance: Floats) -> Floats:
    held = np.clip(reflectance, 0.005, 0.98)
    return np.asarray(np.log(held / (1.0 - held)))


def _reflectance(coded: Floats) -> Floats:
    return np.asarray(1.0 / (1.0 + np.exp(-coded)))


@cache
def _mixes() -> Floats:
    """Mix up to three random tubes in random amounts, many times; half of them with white."""
    tubes = [(tube.absorption, tube.scattering) for tube in TUBES.values()]
    return _mixed(tubes, default_rng(31), _MIXES, with_white=0.5)


def _mixed(
    tubes: list[tuple[Floats, Floats]], rng: Generator, count: int, with_white: float
) -> Floats:
    """Mix up to three of some tubes, white first, and add white to a share of the mixes."""
    absorption, scattering = (np.stack(one) for one in zip(*tubes, strict=True))
    turn = rng.random((count, len(tubes))).argsort(axis=1)
    chosen = turn < rng.integers(1, _MOST_TUBES + 1, (count, 1))
    amounts = chosen * 10.0 ** rng.uniform(-1.5, 0.0, chosen.shape)
    lighter = amounts[: round(with_white * count), 0]
    lighter += 10.0 ** rng.uniform(-1.0, 1.5, len(lighter))
    return opaque_reflectance(amounts @ absorption, amounts @ scattering)


@cache
def _mix_labs() -> Floats:
    return reflectance_to_lab(_mixes())


@cache
def _basis() -> tuple[Floats, Floats]:
    coded = _coded(_mixes())
    mean = coded.mean(axis=0)
    _, sizes, directions = np.linalg.svd(coded - mean, full_matrices=False)
    spread = sizes / np.sqrt(len(coded))
    kept = _SHOWN + _HIDDEN
    return mean, directions[:kept] * spread[:kept, None]
