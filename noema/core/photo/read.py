"""Read one photograph against one layout: the whole road from pixels to cell colours."""

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from noema.core.photo.card import ReferenceCard, colours_at, find_card
from noema.core.photo.cells import read_cells
from noema.core.photo.doubt import Seeing
from noema.core.photo.flags import edge_blur_mm, sheet_flags, why_no_sheet
from noema.core.photo.grey_card import find_grey
from noema.core.photo.identify import read_code
from noema.core.photo.knowledge import CARD_SOURCE, knowledge_of, known_patch
from noema.core.photo.landmarks import register
from noema.core.photo.marks import FoundMarks, find_marks
from noema.core.photo.page import PATCH_INSET_MM, Page, evened
from noema.core.photo.patches import SeenPatch, colour_fit_of, paper_by_card, tone_of, unspoiled
from noema.core.photo.picture import Picture
from noema.core.photo.reading import Reading, SheetFlag, StraightSheet
from noema.core.photo.several import sheets_in
from noema.core.photo.straighten import (
    FEWEST_MARKS,
    PX_PER_MM,
    Placed,
    place_page,
    straighten,
    to_page,
    to_picture,
)
from noema.core.photo.tone import PAPER_LIGHTNESS, PAPER_SIGMA, PAPER_TINT
from noema.core.sheet.layout import Layout, PatchKind, Polygon, Triple
from noema.core.statistics.medians import median_of

Floats = NDArray[np.float64]

PAPER: Triple = (PAPER_LIGHTNESS, *PAPER_TINT)
"""Ordinary printing paper, where nothing better is known."""

_MOST_CORNERS = 16  # of a cell's outline over the photograph
_FEWEST_PIXELS = 40  # of a patch
_CARD_SIGMA = 0.8  # CIEDE2000: a card's own tolerance and what lies between it and the page
_BLACK_PAPER = 0.012  # linear: nothing can be told from the camera's noise on darker paper


@dataclass(frozen=True, kw_only=True, eq=False)
class ReadSheet:
    """A reading and the picture it was taken from."""

    reading: Reading
    straight: StraightSheet | None  # None where no sheet was found
    outlines: Mapping[str, Polygon] = field(default_factory=dict)
    """Where each cell lies in the photograph, in shares of its width and height."""


def read_photo(picture: Picture, layout: Layout, card: ReferenceCard | None = None) -> ReadSheet:
    """Read a photograph, upright or not; a known card beside the sheet is used."""
    return read_found(picture, find_marks(picture.rgb), layout, card=card)


def read_found(
    picture: Picture,
    found: FoundMarks,
    layout: Layout,
    *,
    check_code: bool = True,
    card: ReferenceCard | None = None,
) -> ReadSheet:
    """Read a photograph whose marks are known; a person may vouch for the sheet instead."""
    several = sheets_in(found, layout.markers)
    if len(several) > 1:
        own = _one_of(picture, several, layout)
        return read_found(picture, own, layout, check_code=check_code, card=card)
    placed = place_page(found, layout.markers)
    if placed is None:
        ours = {marker.id for marker in layout.markers} & set(found.ids)
        if not ours and len(found.ids) >= FEWEST_MARKS:
            return _refused(SheetFlag.NO_SHEET, SheetFlag.WRONG_SHEET)
        return _refused(*why_no_sheet(picture.rgb, bool(ours)))
    code = read_code(picture.rgb, placed, layout.qr_polygon_mm) if check_code else None
    if code is not None and code != layout.qr_text:
        return ReadSheet(
            reading=Reading(sheet=code, found=False, flags=(SheetFlag.WRONG_SHEET,), cells=()),
            straight=_straight(picture, placed, layout),
        )
    registered = register(picture.rgb, placed, layout)
    if not registered.sound:
        return _refused(*why_no_sheet(picture.rgb, some_marks=True))
    return read_placed(picture, registered.placed, layout, card)


def _one_of(picture: Picture, several: tuple[FoundMarks, ...], layout: Layout) -> FoundMarks:
    """Choose the sheet that carries the layout's code; where none can be read, the first."""
    places = [(marks, place_page(marks, layout.markers)) for marks in several]
    codes = {
        n: read_code(picture.rgb, placed, layout.qr_polygon_mm)
        for n, (_, placed) in enumerate(places)
        if placed is not None
    }
    own = next((n for n, code in codes.items() if code == layout.qr_text), None)
    if own is None:
        own = next((n for n, code in codes.items() if code is None), 0)
    return several[own]


def read_placed(
    picture: Picture, placed: Placed, layout: Layout, card: ReferenceCard | None = None
) -> ReadSheet:
    """Read a photograph in which the page's place is known."""
    straight = _straight(picture, placed, layout)
    page = evened(straight.rgb, picture, layout)
    if page.light.middle < _BLACK_PAPER:
        return _refused(SheetFlag.NO_SHEET, SheetFlag.DARK)
    beside = [] if card is None else _card_patches(picture, placed, page, card)
    return ReadSheet(
        reading=_read_page(picture, placed, page, layout, beside),
        straight=straight,
        outlines={cell.id: _in_picture(picture, placed, cell.polygon_mm) for cell in layout.cells},
    )


def _in_picture(picture: Picture, placed: Placed, polygon_mm: Polygon) -> Polygon:
    """Give a polygon's place in a photograph, in shares of its width and height."""
    size = np.array([picture.rgb.shape[1], picture.rgb.shape[0]])
    every = 1 + len(polygon_mm) // _MOST_CORNERS
    shares = to_picture(placed, polygon_mm[::every]) / size
    return tuple((round(x, 4), round(y, 4)) for x, y in shares.tolist())


def _straight(picture: Picture, placed: Placed, layout: Layout) -> StraightSheet:
    rgb = straighten(picture.rgb, placed, (layout.width_mm, layout.height_mm))
    return StraightSheet(rgb=rgb, px_per_mm=PX_PER_MM, icc=picture.icc)


def _refused(*flags: SheetFlag) -> ReadSheet:
    return ReadSheet(reading=Reading(sheet=None, found=False, flags=flags, cells=()), straight=None)


def _read_page(
    picture: Picture,
    placed: Placed,
    page: Page,
    layout: Layout,
    beside: list[SeenPatch],
) -> Reading:
    paper = paper_by_card(beside, picture.to_wide) or _paper_lab(layout)
    patches = [*unspoiled(_seen_patches(page, layout)), *beside]
    tone, greys_seen = tone_of(patches, paper[0])
    fit = colour_fit_of(patches, tone, picture.to_wide, paper[0], of_ink=layout.cells_printed)
    seeing = Seeing(
        tone=tone,
        to_wide=picture.to_wide,
        in_srgb=picture.icc is None,
        fit=fit,
        paper=paper,
        paper_light=page.light.middle,
    )
    size = (picture.rgb.shape[1], picture.rgb.shape[0])
    return Reading(
        sheet=layout.sheet,
        found=True,
        flags=sheet_flags(
            page.light,
            page.bytes_rgb,
            edge_blur_mm(page.bytes_rgb, layout.markers),
            placed.px_per_mm,
            cropped=not _all_inside(size, placed, layout),
            reference_seen=greys_seen,
            grey_only=layout.grey_only,
        ),
        cells=tuple(read_cells(page, placed, size, layout, seeing)),
        knowledge=knowledge_of(layout, card_seen=bool(beside)),
        paper=paper[0],
    )


def _seen_patches(page: Page, layout: Layout) -> list[SeenPatch]:
    """Give every printed patch that can be seen, in the file's linear channels over paper's."""
    found = []
    for patch in layout.reference:
        place = page.pixels(patch.polygon_mm, PATCH_INSET_MM + 0.4)
        if patch.kind is not PatchKind.PAPER and len(place) >= _FEWEST_PIXELS:
            at = np.mean(patch.polygon_mm, axis=0)[None]
            rgb = median_of(page.relative[place[:, 0], place[:, 1]])
            found.append(SeenPatch(patch=patch, rgb=rgb, light=page.light.at(at)[0]))
    return found


def _card_patches(
    picture: Picture, placed: Placed, page: Page, card: ReferenceCard
) -> list[SeenPatch]:
    """Give a card's patches with their colours over the paper's light; empty where none lies."""
    if card.is_one_grey:
        grey = find_grey(page)
        if grey is None:
            return []
        known = known_patch("card0", (), card.labs[0], _CARD_SIGMA, CARD_SOURCE)
        return [SeenPatch(patch=known, rgb=grey, light=np.full(3, page.light.middle))]
    seen = find_card(picture, card)
    if seen is None:
        return []
    colours = colours_at(picture, seen.polygons_px)
    middles = to_page(placed, seen.polygons_px.mean(axis=1))
    # Beside the page the light is taken from the page's nearest edge.
    light = page.light.at(np.clip(middles, 0.0, np.array(page.light.size_mm)))
    return [
        SeenPatch(
            patch=known_patch(f"card{n}", (), lab, _CARD_SIGMA, CARD_SOURCE),
            rgb=colours[n] / light[n],
            light=light[n],
        )
        for n, lab in enumerate(card.labs)
    ]


def _paper_lab(layout: Layout) -> tuple[Triple, float]:
    for patch in layout.reference:
        if patch.kind is PatchKind.PAPER and patch.lab is not None:
            return patch.lab, patch.lab_sigma or 0.5
    return PAPER, PAPER_SIGMA


def _all_inside(size_px: tuple[int, int], placed: Placed, layout: Layout) -> bool:
    places = [m.corners_mm for m in layout.markers] + [c.polygon_mm for c in layout.cells]
    limit = np.array(size_px) - 1
    points = np.concatenate([to_picture(placed, place) for place in places])
    return bool(np.all((points >= 0) & (points <= limit)))
