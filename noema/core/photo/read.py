"""Read one photograph against one layout: the row of stages from pixels to cell colours."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from noema.core.photo.card import ReferenceCard
from noema.core.photo.knowledge import knowledge_of
from noema.core.photo.no_sheet import why_no_sheet
from noema.core.photo.page_flags import edge_blur_mm, sheet_flags
from noema.core.photo.parameters.colour import COLOUR, ColourParameters
from noema.core.photo.parameters.doubt import DOUBT, DoubtParameters
from noema.core.photo.parameters.identify import IDENTIFY, IdentifyParameters
from noema.core.photo.parameters.light import LIGHT, LightParameters
from noema.core.photo.parameters.place import PLACE, PlaceParameters
from noema.core.photo.parameters.sample import SAMPLE, SampleParameters
from noema.core.photo.picture import Picture
from noema.core.photo.reading import CellReading, Reading, SheetFlag, StraightSheet
from noema.core.photo.seen_print import seen_print
from noema.core.photo.stages.colour import ColouredSheet, tone_and_colour
from noema.core.photo.stages.doubt import doubt
from noema.core.photo.stages.identify import Identified, IdentifiedSheet, identify
from noema.core.photo.stages.light import light
from noema.core.photo.stages.place import PlacedSheet, SheetToPlace, Sought, place
from noema.core.photo.stages.sample import sample
from noema.core.photo.straighten import PX_PER_MM, straighten, to_picture
from noema.core.sheet.layout import Layout, Polygon

_MOST_CORNERS = 16  # of a cell's outline over the photograph


@dataclass(frozen=True, kw_only=True)
class ReaderParameters:
    """What all stages go by."""

    identify: IdentifyParameters = IDENTIFY
    place: PlaceParameters = PLACE
    light: LightParameters = LIGHT
    colour: ColourParameters = COLOUR
    sample: SampleParameters = SAMPLE
    doubt: DoubtParameters = DOUBT


READER = ReaderParameters()


@dataclass(frozen=True, kw_only=True, eq=False)
class ReadSheet:
    """A reading and the picture it was taken from."""

    reading: Reading
    straight: StraightSheet | None  # None where no sheet was found
    outlines: Mapping[str, Polygon] = field(default_factory=dict)
    """Where each cell lies in the photograph, in shares of its width and height."""


def read_photo(
    picture: Picture,
    layout: Layout,
    card: ReferenceCard | None = None,
    parameters: ReaderParameters = READER,
) -> ReadSheet:
    """Read a photograph, upright or not; a known card beside the sheet is used."""
    found = identify(picture, parameters.identify)
    sought = Sought(picture=picture, layout=layout, card=card)
    own = found.with_code(layout.qr_text)
    return read_found(sought, found, own, check_code=True, parameters=parameters)


def read_found(
    sought: Sought,
    found: Identified,
    own: IdentifiedSheet | None,
    *,
    check_code: bool,
    parameters: ReaderParameters = READER,
) -> ReadSheet:
    """Read one of the sheets found in a photograph; a person may vouch for it instead of a code.

    Without a sheet, or one that lies on other paper, it is said why.
    """
    ours = {marker.id for marker in sought.layout.markers}
    if own is None or not ours & {marker.id for marker in own.frame.markers}:
        seen = ours & set(found.marks.ids)
        if not seen and len(found.marks.ids) >= parameters.identify.fewest_marks:
            return _refused(SheetFlag.NO_SHEET, SheetFlag.WRONG_SHEET)
        return _refused(*why_no_sheet(sought.picture.rgb, bool(seen), parameters.identify))
    if check_code and own.code not in (None, sought.layout.qr_text):
        flat = PlacedSheet(sought=sought, placed=own.flat)
        return replace(_refused(SheetFlag.WRONG_SHEET, code=own.code), straight=_straight(flat))
    placed = place(SheetToPlace(sought=sought, found=own), parameters.place)
    if not placed.sound:
        return _refused(*why_no_sheet(sought.picture.rgb, True, parameters.identify))
    return read_placed(placed, parameters)


def read_placed(given: PlacedSheet, parameters: ReaderParameters = READER) -> ReadSheet:
    """Read a photograph in which the page's place is known."""
    lit = light(given, parameters.light)
    if lit.dark:
        return _refused(SheetFlag.NO_SHEET, SheetFlag.DARK)
    coloured = tone_and_colour(lit, parameters.colour)
    sampled = sample(coloured, parameters.sample)
    cells = doubt(sampled, parameters.doubt)
    layout = given.sought.layout
    return ReadSheet(
        reading=Reading(
            sheet=layout.sheet,
            found=True,
            flags=_sheet_flags(coloured, parameters.light),
            cells=cells,
            sigma_level=_level(cells),
            knowledge=knowledge_of(
                layout,
                card_seen=coloured.card_seen,
                grey_print=coloured.grey_print,
                other_print=coloured.other_print,
            ),
            paper=coloured.seeing.paper[0],
            print_seen=seen_print(
                given.sought.picture.camera, given.sought.picture.to_wide, coloured.seen
            ),
        ),
        straight=StraightSheet(
            rgb=lit.page.bytes_rgb, px_per_mm=PX_PER_MM, icc=given.sought.picture.icc
        ),
        outlines={cell.id: _in_picture(given, cell.polygon_mm) for cell in layout.cells},
    )


def _sheet_flags(coloured: ColouredSheet, parameters: LightParameters) -> tuple[SheetFlag, ...]:
    page, sheet = coloured.lit.page, coloured.lit.sheet
    layout = sheet.sought.layout
    return sheet_flags(
        page.light,
        page.bytes_rgb,
        edge_blur_mm(page.bytes_rgb, layout.markers),
        sheet.placed.px_per_mm,
        cropped=not _all_inside(sheet),
        reference_seen=coloured.greys_seen,
        grey_print=coloured.grey_print,
        parameters=parameters,
    )


def _level(cells: Sequence[CellReading]) -> float:
    """Give what of cells' doubt of value they share: it falls out of steps between them."""
    if not cells:
        return 0.0
    shared = [cell.sigma_value**2 - cell.sigma_step**2 for cell in cells]
    return float(np.sqrt(max(float(np.median(shared)), 0.0)))


def _in_picture(given: PlacedSheet, polygon_mm: Polygon) -> Polygon:
    """Give a polygon's place in a photograph, in shares of its width and height."""
    every = 1 + len(polygon_mm) // _MOST_CORNERS
    shares = to_picture(given.placed, polygon_mm[::every]) / np.array(given.size_px)
    return tuple((round(x, 4), round(y, 4)) for x, y in shares.tolist())


def _straight(given: PlacedSheet) -> StraightSheet:
    sought = given.sought
    size = (sought.layout.width_mm, sought.layout.height_mm)
    rgb = straighten(sought.picture.rgb, given.placed, size)
    return StraightSheet(rgb=rgb, px_per_mm=PX_PER_MM, icc=sought.picture.icc)


def _refused(*flags: SheetFlag, code: str | None = None) -> ReadSheet:
    return ReadSheet(reading=Reading(sheet=code, found=False, flags=flags, cells=()), straight=None)


def _all_inside(given: PlacedSheet) -> bool:
    layout = given.sought.layout
    places = [m.corners_mm for m in layout.markers] + [c.polygon_mm for c in layout.cells]
    limit = np.array(given.size_px) - 1
    points = np.concatenate([to_picture(given.placed, place) for place in places])
    return bool(np.all((points >= 0) & (points <= limit)))
