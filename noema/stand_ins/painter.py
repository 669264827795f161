"""A student painting the cells of a sheet, more or less well."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field

import cv2
import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from noema.core.colour.spectra import reflectance_to_lab
from noema.core.colour.value import lightness_to_value, value_to_lab
from noema.core.sheet.layout import Cell, Layout, Polygon, Triple
from noema.stand_ins.optics import EYE, Optics
from noema.stand_ins.spectra import Recipe, mixed_spectra, within_paint

Pixels = NDArray[np.float32]

_ANY_TARGET: Triple = (50.0, 0.0, 0.0)
_A_HUE = 4.0  # a* and b* together, from which a target isn't a grey
_HUE_MISS = 4.0  # times a grey's cast by which a beginner misses a hue


@dataclass(frozen=True, kw_only=True)
class Hand:
    """How a student paints."""

    step_noise: float = 0.3  # one sigma of a step's value against what was meant, value steps
    bunching: float = 0.0  # >0 crowds the dark steps, <0 the light ones; 0.3 is marked
    dark_end: float = 0.0  # how much lighter than asked the darkest step is, value steps
    streaks: float = 0.03  # one sigma of paint thickness, as a share of reflectance
    ragged_mm: float = 0.5  # how far edges wander about the outline
    missed: float = 0.01  # share of a cell left bare
    empty: tuple[str, ...] = ()  # cells not painted at all
    swapped: tuple[str, str] | None = None  # two cells painted in each other's place
    cast: float = 0.6  # one sigma of a* and b*: nobody's grey is quite neutral
    meant: Mapping[str, Triple] = field(default_factory=dict)  # mixed in place of what is asked
    recipes: Mapping[str, Recipe] = field(default_factory=dict)  # what cells are mixed from


@dataclass(frozen=True, kw_only=True, eq=False)
class PaintedCell:
    """What was really painted."""

    id: str
    lab: Triple | None  # None where nothing was painted
    spectrum: NDArray[np.float64] | None  # reflectance (31,), of that colour


def intend(layout: Layout, hand: Hand, rng: Generator) -> tuple[PaintedCell, ...]:
    """Mix a colour for every cell: as was meant, or the target, missed as this hand misses it."""
    mixed: dict[str, Triple | None] = dict(hand.meant) or _missed(layout, hand, rng)
    for empty in hand.empty:
        mixed[empty] = None
    laid_on = {cell_id: lab for cell_id, lab in mixed.items() if lab is not None}
    recipes = [hand.recipes.get(cell_id, ()) for cell_id in laid_on]
    spectra = mixed_spectra(np.array(list(laid_on.values())).reshape(-1, 3), rng, recipes)
    labs = reflectance_to_lab(spectra).tolist()
    laid = iter(zip(labs, spectra, strict=True))
    return tuple(_painted(cell_id, lab, laid) for cell_id, lab in mixed.items())


def _missed(layout: Layout, hand: Hand, rng: Generator) -> dict[str, Triple | None]:
    asked = np.array([cell.target_lab or _ANY_TARGET for cell in layout.cells])
    values = lightness_to_value(asked[:, 0])
    low, high = float(values.min()), float(values.max())
    span = max(high - low, 1e-6)
    missed = asked.copy()
    for n, target in enumerate(values.tolist()):
        place = (target - low) / span
        meant = low + hand.dark_end * (1.0 - place) + span * place ** (1.0 + hand.bunching)
        value = float(np.clip(meant + rng.normal(0.0, hand.step_noise), 1.2, 9.65))
        miss = rng.normal(0.0, hand.cast, 2)
        if np.abs(asked[n, 1:]).sum() > _A_HUE:  # a hue is missed by more than a grey's cast
            miss = _HUE_MISS * miss
        missed[n] = (value_to_lab(value)[0], *(asked[n, 1:] + miss))
    mixed: dict[str, Triple | None] = {
        cell.id: (lightness, a, b)
        for cell, (lightness, a, b) in zip(
            layout.cells, within_paint(asked, missed).tolist(), strict=True
        )
    }
    if hand.swapped:
        first, second = hand.swapped
        mixed[first], mixed[second] = mixed[second], mixed[first]
    return mixed


def _painted(
    cell_id: str, meant: Triple | None, laid: Iterator[tuple[list[float], NDArray[np.float64]]]
) -> PaintedCell:
    if meant is None:
        return PaintedCell(id=cell_id, lab=None, spectrum=None)
    (lightness, a, b), spectrum = next(laid)
    return PaintedCell(id=cell_id, lab=(lightness, a, b), spectrum=spectrum)


def paint(
    page: Pixels,
    layout: Layout,
    cells: tuple[PaintedCell, ...],
    hand: Hand,
    rng: Generator,
    optics: Optics = EYE,
) -> Pixels:
    """Lay paint over a printed page (h, w, 3) of linear RGB; gives a new page.

    Intense paint lies outside sRGB: numbers below nothing are the file's to cut off.
    """
    painted = page.copy()
    px_per_mm = page.shape[1] / layout.width_mm
    places = {cell.id: cell for cell in layout.cells}
    laid = [cell for cell in cells if cell.spectrum is not None]
    spectra = np.array([cell.spectrum for cell in laid])
    seen = optics.seen(spectra) if laid else np.empty((0, 3))
    for cell, colour in zip(laid, seen, strict=True):
        _paint_cell(painted, places[cell.id], colour, px_per_mm, hand, rng)
    return painted


def _paint_cell(
    page: Pixels,
    cell: Cell,
    seen: NDArray[np.float64],
    px_per_mm: float,
    hand: Hand,
    rng: Generator,
) -> None:
    rows, columns, distance = _distance_mm(cell.polygon_mm, px_per_mm, page.shape[:2])
    shape = (rows.stop - rows.start, columns.stop - columns.start)
    wander = _smooth_noise(shape, 2.5 * px_per_mm, rng) * hand.ragged_mm
    cover = np.clip((distance + wander - 0.2) * px_per_mm * 0.7 + 0.5, 0.0, 1.0)
    if hand.missed > 0:
        bare = _smooth_noise(shape, 1.2 * px_per_mm, rng)
        cover = cover * (bare < np.quantile(bare, 1.0 - hand.missed))
    brush = np.repeat(_smooth_noise((shape[0], 1), 1.5 * px_per_mm, rng), shape[1], axis=1)
    patchy = _smooth_noise(shape, 6.0 * px_per_mm, rng)
    thick = 1.0 + hand.streaks * (0.6 * brush + 0.8 * patchy)
    laid = np.clip(thick[..., None], 0.5, 1.5) * seen
    under = page[rows, columns]
    page[rows, columns] = (under + cover[..., None] * (laid - under)).astype(np.float32)


def _distance_mm(
    polygon: Polygon, px_per_mm: float, page: tuple[int, ...]
) -> tuple[slice, slice, NDArray[np.float64]]:
    """Give a window round a cell and how far inside its outline each pixel lies."""
    points = np.array(polygon) * px_per_mm
    margin = 3.0 * px_per_mm
    low = np.maximum(np.floor(points.min(axis=0) - margin), 0).astype(int)
    high = np.minimum(np.ceil(points.max(axis=0) + margin), np.array(page[::-1])).astype(int)
    mask = np.zeros((high[1] - low[1], high[0] - low[0]), np.uint8)
    cv2.fillPoly(mask, [np.rint(points - low).astype(np.int32)], 1)
    inside = cv2.distanceTransform(mask, cv2.DIST_L2, 3)
    outside = cv2.distanceTransform(1 - mask, cv2.DIST_L2, 3)
    return (
        slice(low[1], high[1]),
        slice(low[0], high[0]),
        np.asarray((inside - outside) / px_per_mm),
    )


def _smooth_noise(shape: tuple[int, int], scale_px: float, rng: Generator) -> NDArray[np.float64]:
    """Give noise of unit spread that wanders over about `scale_px`."""
    coarse = (max(2, round(shape[0] / scale_px) + 2), max(2, round(shape[1] / scale_px) + 2))
    field = rng.normal(0.0, 1.0, coarse).astype(np.float32)
    wide = cv2.resize(field, (shape[1], shape[0]), interpolation=cv2.INTER_CUBIC)
    return np.asarray(wide, dtype=np.float64) / max(float(field.std()), 1e-6)
