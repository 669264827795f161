"""A reference card lying beside the sheet: found by its own colours.

A card is a grid of patches whose colours are known. Every four-cornered thing in the picture is
tried as that grid, either way up; the one whose colours rise and fall as the card's do is it.
"""

from collections.abc import Iterator
from dataclasses import dataclass

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.colour.srgb import lab_to_linear
from noema.core.errors import BadFile
from noema.core.language import gettext
from noema.core.photo.parameters.colour import COLOUR, ColourParameters
from noema.core.photo.picture import Picture
from noema.core.sheet.layout import Triple

Floats = NDArray[np.float64]

FEWEST_PATCHES = 6
_NEUTRAL = 6.0  # chroma up to which a plain card is a grey one
_DIM = 0.01


@dataclass(frozen=True, kw_only=True)
class ReferenceCard:
    """A reference card."""

    name: str
    columns: int
    rows: int
    labs: tuple[Triple, ...]  # D50, row by row from the top left

    def __post_init__(self) -> None:
        count = self.columns * self.rows
        if count != len(self.labs):
            raise BadFile(
                gettext(
                    "The card has %(columns)s × %(rows)s patches but the file holds "
                    "%(count)s colours: give as many as it has, row by row.",
                    columns=self.columns,
                    rows=self.rows,
                    count=len(self.labs),
                )
            )
        if 1 < count < FEWEST_PATCHES:
            raise BadFile(
                gettext(
                    "The card has %(count)s patches: at least %(fewest_patches)s are "
                    "needed to find it in a photograph, or a single grey.",
                    count=count,
                    fewest_patches=FEWEST_PATCHES,
                )
            )
        if self.is_one_grey and float(np.hypot(*self.labs[0][1:])) > _NEUTRAL:
            raise BadFile(
                gettext("A card of one patch must be a grey: give a card of more patches.")
            )

    @property
    def is_one_grey(self) -> bool:
        """Whether it is a plain grey card, which must lie on the blank part of a page."""
        return len(self.labs) == 1


@dataclass(frozen=True, kw_only=True, eq=False)
class SeenCard:
    """Where a card's patches lie in a picture, row by row as the card has them."""

    polygons_px: Floats  # (n, 4, 2)
    alike: float  # how alike its colours are, up to 1


def find_card(
    picture: Picture, card: ReferenceCard, parameters: ColourParameters = COLOUR
) -> SeenCard | None:
    """Look for a card in a picture; None where nothing is like it."""
    known = _as_seen(lab_to_linear(np.array(card.labs)))
    scale = min(1.0, parameters.look_width / max(picture.rgb.shape[:2]))
    small = cv2.resize(picture.rgb, None, fx=scale, fy=scale, interpolation=cv2.INTER_AREA)
    linear = picture.linear(np.ascontiguousarray(small, dtype=np.uint8))
    best = None
    for quad in _quads(np.asarray(small, dtype=np.uint8), parameters):
        for polygons in _grids(quad, card, parameters):
            seen = _seen(linear, polygons)
            alike = _alikeness(seen, known)
            if alike >= parameters.card_alike and (best is None or alike > best.alike):
                best = SeenCard(polygons_px=(polygons + 0.5) / scale - 0.5, alike=alike)
    return best


def colours_at(picture: Picture, polygons_px: Floats) -> Floats:
    """Give the median colour in the file's linear channels within polygons (n, 4, 2), (n, 3)."""
    found = []
    for polygon in polygons_px:
        low = np.floor(polygon.min(axis=0)).astype(int)
        high = np.ceil(polygon.max(axis=0)).astype(int) + 1
        cut = picture.rgb[max(low[1], 0) : high[1], max(low[0], 0) : high[0]]
        mask = np.zeros(cut.shape[:2], np.uint8)
        shifted = polygon - np.maximum(low, 0)
        cv2.fillConvexPoly(mask, np.rint(shifted).astype(np.int32), 1)
        pixels = picture.linear(np.ascontiguousarray(cut))[mask > 0]
        found.append(np.median(pixels, axis=0) if len(pixels) else np.full(3, _DIM))
    return np.array(found, dtype=float)


def _quads(rgb: NDArray[np.uint8], parameters: ColourParameters) -> Iterator[Floats]:
    """Give the corners (4, 2) of everything with four corners, going round."""
    grey = cv2.cvtColor(rgb, cv2.COLOR_RGB2GRAY)
    area = grey.shape[0] * grey.shape[1]
    calm = cv2.GaussianBlur(grey, (0, 0), 1.2)
    looks = [cv2.dilate(cv2.Canny(calm, low, 3 * low), np.ones((3, 3))) for low in (15, 40)]
    looks += [cv2.threshold(calm, level, 255, cv2.THRESH_BINARY_INV)[1] for level in (50, 90, 140)]
    for look in looks:
        contours, _ = cv2.findContours(look, cv2.RETR_LIST, cv2.CHAIN_APPROX_SIMPLE)
        for contour in contours:
            if (
                not parameters.card_least_share * area
                < cv2.contourArea(contour)
                < parameters.card_most_share * area
            ):
                continue
            hull = cv2.convexHull(contour)
            corners = cv2.approxPolyDP(hull, 0.03 * cv2.arcLength(hull, True), True)
            if len(corners) == 4:
                yield np.asarray(corners.reshape(4, 2), dtype=np.float64)


def _grids(quad: Floats, card: ReferenceCard, parameters: ColourParameters) -> Iterator[Floats]:
    """Give where patches would lie, (n, 4, 2), for each way up and each width of border."""
    x, y = np.meshgrid(np.arange(card.columns), np.arange(card.rows))
    middle = (np.stack([x, y], axis=-1).reshape(-1, 1, 2) + 0.5) / (card.columns, card.rows)
    half = 0.5 * parameters.card_patch_share / np.array([card.columns, card.rows])
    square = middle + half * np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]])
    unit = np.array([[0, 0], [1, 0], [1, 1], [0, 1]], np.float32)
    for turn in range(4):
        fit = cv2.getPerspectiveTransform(unit, np.roll(quad, turn, axis=0).astype(np.float32))
        for margin in parameters.card_margins:
            inside = margin + (1.0 - 2.0 * margin) * square
            placed = cv2.perspectiveTransform(inside.reshape(-1, 1, 2), fit)
            yield np.asarray(placed.reshape(-1, 4, 2), dtype=np.float64)


def _seen(linear: NDArray[np.float32], polygons: Floats) -> Floats:
    """Give the mean colour round each patch's middle, quickly."""
    middle = polygons.mean(axis=1)
    reach = np.maximum(np.ptp(polygons, axis=1).min(axis=1) * 0.25, 0.5)
    offsets = np.array([[0, 0], [-1, -1], [1, -1], [1, 1], [-1, 1]], dtype=float)
    at = np.rint(middle[:, None] + reach[:, None, None] * offsets).astype(int)
    limit = np.array(linear.shape[1::-1]) - 1
    at = np.clip(at, 0, limit)
    return np.asarray(np.median(linear[at[..., 1], at[..., 0]], axis=1), dtype=np.float64)


def _alikeness(seen: Floats, known: Floats) -> float:
    own = _as_seen(seen)
    first, second = own - own.mean(axis=0), known - known.mean(axis=0)
    size = float(np.sqrt((first**2).sum() * (second**2).sum()))
    return float((first * second).sum()) / size if size > 0 else 0.0


def _as_seen(linear: Floats) -> Floats:
    """Space linear light as evenly as the eye does; the camera's gain hardly matters then."""
    return np.asarray(np.cbrt(np.maximum(linear, 0.0)))
