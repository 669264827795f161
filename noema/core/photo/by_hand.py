"""A page placed by a person: for paper without marks, and where the reader found a sheet wrongly.

Four corners of the box round all cells give the plane, the middles of its sides bend it (as a
Coons patch does), clicks show bare paper, and single cells can be moved.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.errors import BadOutline, BadSheet
from noema.core.language import gettext
from noema.core.photo.bend import Bend
from noema.core.photo.card import ReferenceCard
from noema.core.photo.knowledge import Knowledge
from noema.core.photo.landmarks import shows_print
from noema.core.photo.parameters.colour import COLOUR
from noema.core.photo.picture import Picture
from noema.core.photo.read import ReadSheet, read_placed
from noema.core.photo.stages.place import PlacedSheet, Sought
from noema.core.photo.straighten import Placed, place_corners, to_page, to_picture
from noema.core.sheet.layout import Cell, Layout, Patch, PatchKind, Point, Polygon, box

Floats = NDArray[np.float64]

OTHER_PAPER_SIGMA = 2.5
"""One sigma of the colour of paper nobody knows, CIEDE2000: sketchbooks are cream or bright."""

_CLICK_MM = 5.0  # side of the square of bare paper a click stands for
_LEAST_AREA = 0.005  # of the picture, that an outline must cover
_MOST_BEND = 0.25  # of the box's longer side
_MOST_PAPER, _MOST_NUDGE_MM = 40, 200.0
_ROUND_MM = 2.0  # between the cells and the box round them
_UNBENDINGS = 3


@dataclass(frozen=True, kw_only=True)
class Outline:
    """Where a person says the cells are; places are shares of the picture's width and height."""

    corners: tuple[Point, ...]  # of the box round all cells, clockwise from its own top left
    sides: tuple[Point, ...] = ()  # middles of its top, right, bottom and left; none: straight
    paper: tuple[Point, ...] = ()  # bare paper
    nudges: Mapping[str, Point] = field(default_factory=dict)  # mm a cell is moved, by its id

    def __post_init__(self) -> None:
        """Refuse what can't be a page."""
        if len(self.corners) != 4 or len(self.sides) not in (0, 4):
            raise BadOutline(
                gettext("An outline has four corners and four sides: place it once more.")
            )
        corners = np.array(self.corners, dtype=np.float32)
        everything = np.array([*self.corners, *self.sides, *self.paper], dtype=float)
        moves = np.array([*self.nudges.values()], dtype=float)
        if not np.all(np.isfinite(everything)) or np.abs(everything - 0.5).max() > 2.0:
            raise BadOutline(gettext("The outline lies far outside the photograph: drag it back."))
        if cv2.contourArea(corners) < _LEAST_AREA or not cv2.isContourConvex(corners):
            raise BadOutline(
                gettext(
                    "The outline's corners cross or lie on one spot: drag each to its "
                    "own corner of the cells."
                )
            )
        if not np.all(np.abs(moves) <= _MOST_NUDGE_MM):
            raise BadOutline(
                gettext(
                    "A cell can be moved by up to %(most_nudge_mm)s mm: drag it back.",
                    most_nudge_mm=format(_MOST_NUDGE_MM, ".0f"),
                )
            )
        if len(self.paper) > _MOST_PAPER:
            raise BadOutline(
                gettext(
                    "%(most_paper)s places of bare paper are enough: remove some.",
                    most_paper=_MOST_PAPER,
                )
            )


def box_of(layout: Layout) -> Polygon:
    """Give the upright box round all cells, in mm."""
    points = np.concatenate([np.array(cell.polygon_mm) for cell in layout.cells])
    left, top = (points.min(axis=0) - _ROUND_MM).tolist()
    right, bottom = (points.max(axis=0) + _ROUND_MM).tolist()
    return box(left, top, right - left, bottom - top)


def outline_of(placed: Placed | None, layout: Layout, size_px: tuple[int, int]) -> Outline:
    """Give an outline to begin with: the page as it was found, or upright in the middle."""
    frame = np.array(box_of(layout))
    middles = _middles(frame)
    size = np.array(size_px, dtype=float)
    if placed is None:
        wide, high = frame.max(axis=0) - frame.min(axis=0)
        scale = 0.7 * min(size[0] / wide, size[1] / high)
        points = (np.concatenate([frame, middles]) - frame.mean(axis=0)) * scale + size / 2.0
    else:
        points = to_picture(placed, tuple(map(tuple, np.concatenate([frame, middles]).tolist())))
    shares = [(float(x), float(y)) for x, y in np.clip(points / size, 0.0, 1.0).tolist()]
    return Outline(corners=tuple(shares[:4]), sides=tuple(shares[4:]))


def place_by_hand(outline: Outline, layout: Layout, size_px: tuple[int, int]) -> Placed:
    """Place the page in a picture of a size (width, height)."""
    size = np.array(size_px, dtype=float)
    frame = np.array(box_of(layout))
    flat = place_corners(frame, np.array(outline.corners) * size)
    if not outline.sides:
        return flat
    shifts = to_page(flat, np.array(outline.sides) * size) - _middles(frame)
    if np.abs(shifts).max() > _MOST_BEND * np.ptp(frame, axis=0).max():
        raise BadOutline(
            gettext("A side is bent too far: drag its middle nearer to the straight line.")
        )
    return replace(flat, bend=Bend(shift=lambda points_mm: _coons(points_mm, frame, shifts)))


def check_outline(outline: Outline, layout: Layout, size_px: tuple[int, int]) -> None:
    """Refuse an outline that can't be a sheet's, before anything is read; width and height."""
    place_by_hand(outline, layout, size_px)
    _nudged(layout, outline)


def read_by_hand(
    picture: Picture, outline: Outline, layout: Layout, card: ReferenceCard | None = None
) -> ReadSheet:
    """Read a photograph in which a person placed the outline."""
    placed = place_by_hand(outline, layout, (picture.rgb.shape[1], picture.rgb.shape[0]))
    cells = _nudged(layout, outline)
    printed = shows_print(picture.rgb, placed, layout)
    if not printed and not outline.paper:
        raise BadOutline(
            gettext("Nothing printed is seen here: click bare paper in at least one place.")
        )
    known = (
        layout
        if printed
        else replace(layout, markers=(), qr_polygon_mm=(), reference=(), grey_only=False)
    )
    clicks = _clicked(outline, placed, picture, None if printed else OTHER_PAPER_SIGMA)
    known = replace(known, reference=(*known.reference, *clicks), cells=cells)
    try:
        sought = Sought(picture=picture, layout=known, card=card)
        read = read_placed(PlacedSheet(sought=sought, placed=placed))
    except BadSheet as wrong:
        raise BadOutline(
            gettext(
                "Too little bare paper is seen: click it in more places, on every "
                "side of the cells."
            )
        ) from wrong
    had = read.reading.knowledge
    if not printed and had == (Knowledge.NONE,):
        had = (Knowledge.UNPRINTED,)
    return replace(read, reading=replace(read.reading, knowledge=(Knowledge.BY_HAND, *had)))


def _middles(frame: Floats) -> Floats:
    """Give the middles of a box's sides (4, 2), beginning with the top."""
    return np.asarray((frame + np.roll(frame, -1, axis=0)) / 2.0)


def _coons(points_mm: Floats, frame: Floats, shifts: Floats) -> Floats:
    """Give how far points (n, 2) are moved when the middles of a box's sides are (4, 2)."""
    across, down = ((points_mm - frame[0]) / (frame[2] - frame[0])).T
    wide, high = 4.0 * across * (1.0 - across), 4.0 * down * (1.0 - down)
    weights = np.stack([wide * (1.0 - down), high * across, wide * down, high * (1.0 - across)])
    # Far beyond the box the bow is held; it would grow with the square of the distance.
    inside = np.clip(weights, -1.0, 1.0)
    return np.asarray(inside.T @ shifts)


def _clicked(
    outline: Outline, placed: Placed, picture: Picture, sigma: float | None
) -> list[Patch]:
    """Give squares of bare paper round clicks; their colour is guessed where `sigma` is given."""
    if not outline.paper:
        return []
    size = np.array(picture.rgb.shape[1::-1], dtype=float)
    seen = to_page(placed, np.array(outline.paper) * size)
    points = seen
    if placed.bend is not None:
        for _ in range(_UNBENDINGS):
            points = seen - placed.bend.at(points)
    return [
        Patch(
            id=f"clicked{n}",
            kind=PatchKind.PAPER,
            polygon_mm=box(x - _CLICK_MM / 2.0, y - _CLICK_MM / 2.0, _CLICK_MM, _CLICK_MM),
            nominal_srgb=(255, 255, 255),
            lab=None if sigma is None else COLOUR.paper,
            lab_sigma=sigma,
            lab_source=None,
        )
        for n, (x, y) in enumerate(points.tolist())
    ]


def _nudged(layout: Layout, outline: Outline) -> tuple[Cell, ...]:
    moved = []
    for cell in layout.cells:
        across, down = outline.nudges.get(cell.id, (0.0, 0.0))
        polygon = tuple((x + across, y + down) for x, y in cell.polygon_mm)
        places = np.array(polygon)
        if np.any(places < 0.0) or np.any(places > (layout.width_mm, layout.height_mm)):
            raise BadOutline(
                gettext("Cell %(label)s was moved off the page: drag it back.", label=cell.label)
            )
        moved.append(replace(cell, polygon_mm=polygon))
    return tuple(moved)
