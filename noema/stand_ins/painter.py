"""A student painting the cells of a sheet, more or less well."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field, replace

import cv2
import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from noema.core.colour.spectra import reflectance_to_lab
from noema.core.colour.value import lightness_to_value, value_to_lab
from noema.core.pigments.shelf import WHITE
from noema.core.sheet.layout import Cell, Layout, Polygon, Triple
from noema.stand_ins.kinds import Kinds
from noema.stand_ins.optics import EYE, Optics
from noema.stand_ins.spectra import Recipe, mixed_spectra, with_more_of, within_paint

Pixels = NDArray[np.float32]
Colour = NDArray[np.float64]

_ANY_TARGET: Triple = (50.0, 0.0, 0.0)
_A_HUE = 4.0  # a* and b* together, from which a target isn't a grey
_SWIRL, _SWIRL_MM = 3.0, 3.5  # times the white that lies in a swirl, and how wide one is
_STREAK_MM, _STROKE_MM = (0.8, 3.5), 14.0  # how wide a streak is, and how long
_RIDGE_MM, _RIM_MM, _GRAIN_MM = 1.2, 1.0, 0.35
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
    unmixed: float = 0.0  # share by which white is more or less along the brush; others half of it
    marbled: float = 0.0  # share of a cell where white lies nearly by itself, in swirls
    ridges: float = 0.0  # share of light that a ridge's two sides differ by
    rim: float = 0.0  # share by which paint that ran to its edge is darker there
    grains: float = 0.0  # one sigma of pigment that settles in grains, as a share of reflectance


def lively(hand: Hand, rng: Generator, kinds: Kinds = Kinds.USUAL) -> Hand:
    """Let paint be mixed through no better than by people, and lie as it does."""
    ridges, rim = rng.uniform(0.0, 0.08), rng.uniform(0.0, 0.15) * (rng.random() < 0.3)
    grains = rng.uniform(0.0, 0.03) * (rng.random() < 0.3)
    hand = replace(hand, ridges=ridges, rim=rim, grains=grains)
    if kinds is Kinds.UNSEEN:
        return replace(hand, marbled=rng.uniform(0.0, 0.25) * (rng.random() < 0.7))
    return replace(hand, unmixed=rng.uniform(0.05, 0.35) * (rng.random() < 0.7))


@dataclass(frozen=True, kw_only=True, eq=False)
class PaintedCell:
    """What was really painted."""

    id: str
    lab: Triple | None  # None where nothing was painted
    spectrum: NDArray[np.float64] | None  # reflectance (31,), of that colour
    recipe: Recipe = ()


def intend(
    layout: Layout, hand: Hand, rng: Generator, kinds: Kinds = Kinds.USUAL
) -> tuple[PaintedCell, ...]:
    """Mix a colour for every cell: as was meant, or the target, missed as this hand misses it."""
    mixed: dict[str, Triple | None] = dict(hand.meant) or _missed(layout, hand, rng)
    for empty in hand.empty:
        mixed[empty] = None
    laid_on = {cell_id: lab for cell_id, lab in mixed.items() if lab is not None}
    recipes = [hand.recipes.get(cell_id, ()) for cell_id in laid_on]
    spectra = mixed_spectra(np.array(list(laid_on.values())).reshape(-1, 3), rng, recipes, kinds)
    labs = reflectance_to_lab(spectra).tolist()
    laid = iter(zip(labs, spectra, strict=True))
    return tuple(
        replace(_painted(cell_id, lab, laid), recipe=hand.recipes.get(cell_id, ()))
        for cell_id, lab in mixed.items()
    )


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
        ways = _ways(cell, hand, optics)
        _paint_cell(painted, places[cell.id], Paint(seen=colour, ways=ways), px_per_mm, hand, rng)
    return painted


@dataclass(frozen=True, kw_only=True, eq=False)
class Paint:
    """A mix as a camera sees it, and where its parts are less or more than meant."""

    seen: Colour  # (3,)
    ways: tuple[tuple[Colour, Colour], ...]


def _ways(cell: PaintedCell, hand: Hand, optics: Optics) -> tuple[tuple[Colour, Colour], ...]:
    """Say how a mix looks where it isn't mixed through: least of all, white isn't."""
    if cell.spectrum is None or len(cell.recipe) < 2 or not (hand.unmixed or hand.marbled):
        return ()
    first, *rest = sorted(range(len(cell.recipe)), key=lambda n: cell.recipe[n].tube.name != WHITE)
    if hand.marbled:
        off = [(first, (1.0, _SWIRL))]
    else:
        off = [
            (first, (1.0 - hand.unmixed, 1.0 + hand.unmixed)),
            (rest[-1], (1.0 - hand.unmixed / 2.0, 1.0 + hand.unmixed / 2.0)),
        ]
    found = []
    for part, times in off:
        less, more = optics.seen(with_more_of(cell.spectrum, cell.recipe, part, times))
        found.append((less, more))
    return tuple(found)


def _paint_cell(
    page: Pixels,
    cell: Cell,
    paint: Paint,
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
    own = rng.spawn(1)[0]
    thick *= 1.0 - hand.rim * np.exp(-((np.maximum(distance, 0.0) / _RIM_MM) ** 2))
    if hand.ridges:
        along = _along_brush(shape, px_per_mm, _RIDGE_MM, own)
        slope = np.gradient(along, axis=0) * px_per_mm * _RIDGE_MM
        thick *= 1.0 + hand.ridges * np.clip(slope, -1.0, 1.0)
    if hand.grains:
        thick *= 1.0 + hand.grains * _smooth_noise(shape, max(_GRAIN_MM * px_per_mm, 1.0), own)
    laid = np.clip(thick[..., None], 0.5, 1.5) * _mixed_here(paint, shape, px_per_mm, hand, own)
    under = page[rows, columns]
    page[rows, columns] = (under + cover[..., None] * (laid - under)).astype(np.float32)


def _mixed_here(
    paint: Paint, shape: tuple[int, int], px_per_mm: float, hand: Hand, rng: Generator
) -> Colour:
    """Give a mix's colour at each pixel of a window (h, w): some of it less or more than meant."""
    here = np.broadcast_to(paint.seen, (*shape, 3))
    for less, more in paint.ways:
        if hand.marbled:
            swirls = _smooth_noise(shape, _SWIRL_MM * px_per_mm, rng)
            off = 8.0 * (swirls - np.quantile(swirls, 1.0 - hand.marbled))
        else:
            off = _along_brush(shape, px_per_mm, rng.uniform(*_STREAK_MM), rng)
        off = np.clip(off, -1.0, 1.0)[..., None]
        here = here + np.where(off < 0.0, -off * (less - paint.seen), off * (more - paint.seen))
    return here


def _along_brush(
    shape: tuple[int, int], px_per_mm: float, wide_mm: float, rng: Generator
) -> NDArray[np.float64]:
    """Give noise (h, w) of unit spread drawn out along a stroke of any direction."""
    reach = int(np.ceil(np.hypot(*shape)))
    long = max(2, round(reach / (_STROKE_MM * px_per_mm)) + 2)
    wide = max(2, round(reach / (wide_mm * px_per_mm)) + 2)
    field = rng.normal(0.0, 1.0, (wide, long)).astype(np.float32)
    drawn = cv2.resize(field, (reach, reach), interpolation=cv2.INTER_CUBIC)
    turn = cv2.getRotationMatrix2D((reach / 2.0, reach / 2.0), rng.uniform(0.0, 180.0), 1.0)
    turned = cv2.warpAffine(drawn, turn, (reach, reach), borderMode=cv2.BORDER_REFLECT)
    top, left = (reach - shape[0]) // 2, (reach - shape[1]) // 2
    return np.asarray(turned[top : top + shape[0], left : left + shape[1]], dtype=np.float64)


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
