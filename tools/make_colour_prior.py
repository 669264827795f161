"""Works out what cameras usually do to paint: the prior of the reader's colour fit.

Run: .venv/bin/python -m tools.make_colour_prior
Many stand-in cameras under many lamps look at paint and at dyes of many makes on paper; each one's
best root-polynomial maps back to the true colours are fitted, and the mean and spread of those maps
are kept, of paint's and ink's together, and what they leave of paint, by colour. Seeds are its own.
"""

from dataclasses import dataclass
from itertools import product
from pathlib import Path

import numpy as np
from numpy.random import Generator, default_rng

from noema.core.colour.lab import lab_to_xyz
from noema.core.colour.spectra import XYZ_WEIGHTS, reflectance_to_lab
from noema.core.colour.wide import WIDE_LUMINANCE, XYZ_D50_TO_WIDE, srgb_linear_to_wide
from noema.core.photo.beyond import CHANNELS, kept_terms
from noema.core.photo.colour_fit import (
    OUT,
    TERMS,
    Residuals,
    nearness,
    residuals_of,
    root_terms,
    weight_of,
)
from noema.stand_ins.colour_file import Space, from_linear_srgb
from noema.stand_ins.optics import STACKED, draw_optics
from noema.stand_ins.printer import load_paper
from noema.stand_ins.processes import own_processes
from noema.stand_ins.spectra import DYES, class_mixes, dye_bands, everyday_spectra, paint_spectra

FOLDER = Path(__file__).parents[1] / "noema/core/photo/data"
CAMERAS, FIRST_SEED = 4000, 700_000
LAYERS_EVERY = 4  # cameras: more than there are, so that they are known as well
DAYLIGHT_EVERY = 3  # cameras: who is told to go to a window often does
KINDS_OF_LAMP = (
    ("FL2", "FL4"),  # old tubes
    ("FL11", "FL12"),  # newer ones: narrow bands
    ("A", "LED-B1", "LED-B2"),  # warm
    ("LED-B3", "LED-B4", "LED-B5", "LED-BH1", "LED-V1"),
)
"""Daylight and what comes near it are one more kind."""

KINDS = tuple(product((False, True), range(-1, len(KINDS_OF_LAMP))))
"""Sensors with filters or layers, under each kind of lamp."""

SPACES = (Space.SRGB, Space.DISPLAY_P3)
INKS = 300
CLASSES, A_CLASS, FREE_EVERY = 12, 25, 4
LEVELS, CIRCLES, SPOKES = (25.0, 50.0, 75.0), (9.0, 24.0, 60.0), 12
HUES = np.linspace(0.0, 2.0 * np.pi, SPOKES, endpoint=False)
PLACES = np.array(
    [
        (level, chroma * np.cos(hue), chroma * np.sin(hue))
        for level in LEVELS
        for chroma, hue in [(0.0, 0.0), *product(CIRCLES, HUES)]
    ]
)
"""Colours Lab about which what is left of paint is gathered."""

SIZES, NEARLY_ALL = np.geomspace(1e-6, 1.0, 120), 0.93
FEW = 20.0  # colours about a place, under which what is usual everywhere counts as well
_SHIFT_NM, _WIDER = 8.0, 0.12  # one sigma of how dyes differ between makes
_USUAL_DENSITY, _SPREAD, _SHARE, _FULL = 0.4, 0.8, 0.75, 1.8  # of dyes on a page
_BLACK = 0.15  # density of black ink below them, on average
_RIDGE = 2e-4
_CUT, _NOT_BLACK = 0.002, 0.02  # linear, in sRGB and of luminance
_LEAST = 0.002  # a channel under this is clipped and teaches nothing


@dataclass(frozen=True)
class Lesson:
    """What one stand-in camera teaches."""

    kind: tuple[bool, int]  # whether the sensor has layers, and which kind of lamp
    maps: np.ndarray  # (2, 3, TERMS) of paint and of ink
    rests: np.ndarray  # (2, 3, 3) weighted
    left: tuple[np.ndarray, ...]  # of paint, by place: nearness, times mean, square, size
    cut_off: dict[tuple[Space, int], tuple[np.ndarray, ...]]
    """By file and channel: what was kept, what it was, and what the map makes of what was kept."""


def one_camera(seed: int) -> Lesson:
    """Fit one camera, and look at what files would have cut off."""
    rng = default_rng(seed)
    stacked = bool(seed % LAYERS_EVERY == 0)
    optics = draw_optics(rng, "class" if seed % DAYLIGHT_EVERY else "easy", stacked=stacked)
    kind = (stacked, kind_of_lamp(optics.lamp))
    paper = load_paper(rng, 1.0).paper
    spectra = any_paints(rng)
    raw = optics.seen(spectra) / optics.seen(paper[None])
    true = true_rgb(spectra, paper)
    of_paint, paint_rest, left = best_map(srgb_linear_to_wide(raw), true)
    printed = any_inks(paper, rng)
    inks = srgb_linear_to_wide(optics.seen(printed) / optics.seen(paper[None]))
    of_ink, ink_rest, _ = best_map(inks, true_rgb(printed, paper))
    cut_off = {
        (space, channel): beyond_of(raw, true, of_paint, space, channel)
        for space in SPACES
        for channel in CHANNELS
    }
    maps, rests = np.stack([of_paint, of_ink]), np.stack([paint_rest, ink_rest])
    return Lesson(kind, maps, rests, left, cut_off)


def kind_of_lamp(lamp: str) -> int:
    """Give which kind a measured lamp is of; -1: daylight and what comes near it."""
    return next((n for n, kind in enumerate(KINDS_OF_LAMP) if lamp in kind), -1)


def any_paints(rng: Generator) -> np.ndarray:
    """Give reflectances (n, 31): mixed by many classes from their tubes, and a few of any paint."""
    free = paint_spectra(reflectance_to_lab(everyday_spectra()[::FREE_EVERY]), rng)
    return np.concatenate([free, *(class_mixes(rng, A_CLASS) for _ in range(CLASSES))])


def beyond_of(
    raw: np.ndarray, true: np.ndarray, of_paint: np.ndarray, space: Space, channel: int
) -> tuple[np.ndarray, ...]:
    """Give what a file kept of colours that lost one channel, their truth, and the map's guess."""
    to_file = from_linear_srgb(space)
    stored = raw @ to_file.T
    cut = np.maximum(stored, _CUT)
    guessed = root_terms(srgb_linear_to_wide(cut @ np.linalg.inv(to_file).T)) @ of_paint.T
    only = (stored <= _CUT).sum(axis=1) == 1
    chosen = only & (stored[:, channel] <= _CUT) & (true @ WIDE_LUMINANCE > _NOT_BLACK)
    return cut[chosen], true[chosen], guessed[chosen]


def true_rgb(spectra: np.ndarray, paper: np.ndarray) -> np.ndarray:
    """Give what the eye sees of spectra (n, 31), linear BT.2020 relative to paper (n, 3)."""
    white = lab_to_xyz([100.0, 0.0, 0.0]) / (paper @ XYZ_WEIGHTS)
    return (spectra @ XYZ_WEIGHTS) * white @ XYZ_D50_TO_WIDE.T


def any_inks(paper: np.ndarray, rng: Generator) -> np.ndarray:
    """Give what a printer of some make lays on a paper (31,): reflectances (INKS, 31)."""
    dyes = tuple(
        (rng.normal(at, _SHIFT_NM), wide * rng.lognormal(0.0, _WIDER)) for at, wide in DYES
    )
    amounts = _USUAL_DENSITY * rng.lognormal(0.0, _SPREAD, (INKS, 3))
    amounts *= rng.random((INKS, 3)) < _SHARE
    black = rng.exponential(_BLACK, (INKS, 1))
    return paper * 10.0 ** -(np.minimum(amounts, _FULL) @ dye_bands(dyes) + black)


def best_map(
    seen: np.ndarray, true: np.ndarray
) -> tuple[np.ndarray, np.ndarray, tuple[np.ndarray, ...]]:
    """Fit a map (3, TERMS) of colours (n, 3) to true ones; what it leaves, (3, 3) and by place."""
    kept = (seen > _LEAST).all(axis=1)
    terms, wanted = root_terms(seen[kept]), true[kept]
    weight = weight_of(wanted)
    plain = np.eye(OUT, TERMS)  # the first terms are the channels themselves
    scale = _RIDGE * len(terms)
    found = np.empty((OUT, TERMS))
    for channel in range(OUT):
        left = terms * weight[:, channel, None]
        right = wanted[:, channel] * weight[:, channel]
        gram = left.T @ left + scale * np.eye(TERMS)
        found[channel] = np.linalg.solve(gram, left.T @ right + scale * plain[channel])
    mapped = terms @ found.T
    away = (wanted - mapped) * weight_of(mapped)
    near = nearness(mapped, PLACES) * (wanted @ WIDE_LUMINANCE > _NOT_BLACK)[:, None]
    bins = np.searchsorted(SIZES, (away**2).sum(axis=1))
    left = (
        near.sum(axis=0),
        near.T @ away,
        np.einsum("nm,ni,nj->mij", near, away, away),
        np.stack([np.bincount(bins, one, len(SIZES) + 1) for one in near.T]),
    )
    return found, away.T @ away / len(away), left


def left_of_paint(cameras: list[Lesson], kind: tuple[bool, int]) -> np.ndarray:
    """Give what maps of one kind leave of paint: a row a place."""
    own = [camera for camera in cameras if camera.kind == kind]
    near, means, squares, sizes = (sum(camera.left[n] for camera in own) for n in range(4))
    weight = (near + FEW)[:, None]
    means = means / weight
    squares = (squares + FEW * squares.sum(axis=0) / near.sum()) / weight[:, :, None]
    spread = squares - means[:, :, None] * means[:, None, :]
    # A few mixes stray far: two sigma are what nearly all keep within.
    sizes = (sizes + FEW * sizes.sum(axis=0) / near.sum()) / weight
    most = SIZES[np.minimum((sizes.cumsum(axis=1) < NEARLY_ALL).sum(axis=1), len(SIZES) - 1)]
    spread *= (most / 4.0 / np.trace(spread, axis1=1, axis2=2))[:, None, None]
    return np.concatenate([PLACES, means, spread.reshape(len(PLACES), -1)], axis=1)


def beyond(
    cameras: list[Lesson], rests: dict[tuple[bool, int], Residuals], space: Space, channel: int
) -> np.ndarray:
    """Give how far beyond what was kept colours lie, (3, 3), and what that leaves, (3, 3)."""
    found = []
    for camera in cameras:
        kept, true, mapped = camera.cut_off[space, channel]
        if len(kept):
            guessed = mapped + rests[camera.kind].of(mapped)[0] / weight_of(mapped)
            found.append((kept, true - guessed, weight_of(guessed)))
    kept, away, weight = (np.concatenate(one) for one in zip(*found, strict=True))
    terms = kept_terms(kept, channel)
    columns = [
        np.linalg.lstsq(terms * w[:, None], a * w)[0] for w, a in zip(weight.T, away.T, strict=True)
    ]
    found = np.stack(columns, axis=1)
    return np.concatenate([found, np.cov(((away - terms @ found) * weight).T)])


def written(name: str, head: str, rows: list[np.ndarray]) -> None:
    lines = [",".join(f"{value:.7g}" for value in row) for row in rows]
    text = head + "# Made by tools/make_colour_prior.py.\n" + "\n".join(lines) + "\n"
    (FOLDER / name).write_text(text, encoding="utf-8")


def usual(cameras: list[Lesson], kind: tuple[bool, int]) -> list[np.ndarray]:
    """Give what cameras of one kind do."""
    own = [camera for camera in cameras if camera.kind == kind]
    flat = np.stack([camera.maps for camera in own]).reshape(len(own), -1)
    rests = np.mean([camera.rests for camera in own], axis=0).reshape(-1, OUT)
    size = flat.shape[1]
    alike = sum(camera.kind[0] == kind[0] for camera in cameras)
    often = (STACKED if kind[0] else 1.0 - STACKED) * len(own) / alike
    share = np.pad([often], (0, size - 1))
    return [share, flat.mean(axis=0), *np.cov(flat.T), *np.pad(rests, ((0, 0), (0, size - OUT)))]


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    with own_processes() as pool:
        seeds = range(FIRST_SEED, FIRST_SEED + CAMERAS)
        cameras = list(pool.map(one_camera, seeds, chunksize=20))
    written(
        "colour_prior.csv",
        "# How stand-in cameras map onto true colours, by sensor and lamp: their share (padded),\n"
        "# mean of 36 coefficients (paint, then ink; 3 outputs x 6 terms each), their 36 x 36\n"
        "# covariance, and the covariance of what each leaves, weighted and padded.\n",
        [row for kind in KINDS for row in usual(cameras, kind)],
    )
    left = {kind: left_of_paint(cameras, kind) for kind in KINDS}
    rests = {kind: residuals_of(rows) for kind, rows in left.items()}
    written(
        "paint_rest.csv",
        "# What those maps leave of paint by colour, kind after kind: L*, a*\n"
        "# and b*, mean of 3 channels, their 3 x 3 covariance, weighted.\n",
        [row for rows in left.values() for row in rows],
    )
    written(
        "beyond.csv",
        "# Red, then blue of sRGB, then of Display P3: how far colours lie beyond the file\n"
        "# (3 terms x 3 channels), and the covariance of what that leaves, weighted.\n",
        [
            row
            for space in SPACES
            for channel in CHANNELS
            for row in beyond(cameras, rests, space, channel)
        ],
    )


if __name__ == "__main__":
    main()
