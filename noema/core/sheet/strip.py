"""The strip: a small sheet with marks and patches to lay beside paint that is to be read.

It has one window, which is cut out and laid over a swatch, or painted into. It is the same for
everybody, so that one can be kept on a palette for weeks.
"""

from collections.abc import Iterator
from dataclasses import replace

from noema.core.language import gettext
from noema.core.sheet.drawing import Code, Drawing, Item, Mark, Shape, Words
from noema.core.sheet.drawn_worksheet import OUTLINE_GREY, OUTLINE_MM
from noema.core.sheet.layout import Cell, Layout, Patch, PatchKind, Polygon, box
from noema.core.sheet.paper import LANDSCAPE, STRIP, Paper
from noema.core.sheet.worksheet import COLOURS, GREYS, PATCH_MM, printed_patch

CODE = "STRIP"
WINDOW = "window"

_WINDOW_MM = box(84.0, 25.0, 26.0, 22.0)
_ROWS_MM = (7.0, 57.5)  # along the upper and the lower edge
_IN_ROW_MM = tuple(start + 12.0 * n for start in (19.0, 106.0) for n in range(6))
_BESIDE_MM = tuple((x, y) for x in (46.0, 58.0, 70.0, 116.5, 128.5, 140.5) for y in (25.5, 38.5))
_BARE_ROUND_MM = (
    box(79.0, 25.0, 3.6, 22.0),
    box(111.4, 25.0, 3.6, 22.0),
    box(86.0, 17.5, 22.0, 6.0),
    box(86.0, 48.5, 22.0, 6.0),
)
_BARE_MM = 2.8  # of bare paper between two patches
_ON_PAGE_MM = (22.0, (30.0, 118.0))  # from the left; from the top, one strip and another


def strip_layout(*, grey_only: bool = False) -> Layout:
    """Plan the strip."""
    return Layout(
        sheet=CODE,
        width_mm=STRIP.width_mm,
        height_mm=STRIP.height_mm,
        grey_only=grey_only,
        qr_text=CODE,
        qr_polygon_mm=STRIP.qr_polygon_mm,
        markers=STRIP.markers,
        reference=tuple(_patches(grey_only)),
        cells=(Cell(id=WINDOW, label="", polygon_mm=_WINDOW_MM, target_lab=None),),
    )


def draw_strip(*, grey_only: bool = False) -> Drawing:
    """Draw one strip as a page of its own size."""
    return Drawing(
        width_mm=STRIP.width_mm,
        height_mm=STRIP.height_mm,
        title=gettext("Strip to lay beside paint"),
        items=tuple(_drawn(strip_layout(grey_only=grey_only))),
    )


def draw_strips(paper: Paper, *, grey_only: bool = False) -> Drawing:
    """Draw a page with two strips to cut out."""
    frame, strip = LANDSCAPE[paper], draw_strip(grey_only=grey_only)
    left, tops = _ON_PAGE_MM
    items: list[Item] = [
        Words(
            at_mm=(left, 16.0),
            text=gettext("Strips to lay beside paint: print full size, no colour correction."),
            size_mm=4.4,
            bold=True,
        ),
        Words(
            at_mm=(left, 22.5),
            text=gettext(
                "Cut a strip and its window out. Lay it flat on dry paint so that the paint fills "
                "the window, or paint a dab into it uncut; photograph all of the strip."
            ),
            size_mm=3.4,
        ),
    ]
    for top in tops:
        items += [_moved(one, left, top) for one in strip.items]
    return Drawing(
        width_mm=frame.width_mm,
        height_mm=frame.height_mm,
        title=gettext("Strips to lay beside paint"),
        items=tuple(items),
    )


def _drawn(layout: Layout) -> Iterator[Item]:
    whole = box(0.0, 0.0, layout.width_mm, layout.height_mm)
    for outline in (whole, _WINDOW_MM):
        yield Shape(polygon_mm=outline, line_grey=OUTLINE_GREY, line_mm=OUTLINE_MM)
    for mark in layout.markers:
        yield Mark(id=mark.id, square_mm=mark.corners_mm)
    yield Code(text=layout.qr_text, square_mm=layout.qr_polygon_mm)
    for patch in layout.reference:
        if patch.kind is not PatchKind.PAPER:
            yield Shape(polygon_mm=patch.polygon_mm, fill_rgb=patch.nominal_srgb)


def _moved(item: Item, left: float, top: float) -> Item:
    def at(polygon: Polygon) -> Polygon:
        return tuple((x + left, y + top) for x, y in polygon)

    if isinstance(item, Shape):
        return replace(item, polygon_mm=at(item.polygon_mm))
    if isinstance(item, Words):
        return replace(item, at_mm=(item.at_mm[0] + left, item.at_mm[1] + top))
    return replace(item, square_mm=at(item.square_mm))


def _patches(grey_only: bool) -> Iterator[Patch]:
    kinds: list[tuple[int, int, int]] = []
    for grey, colour in zip(GREYS, COLOURS, strict=True):
        kinds.append((grey, grey, grey))
        if not grey_only:
            kinds.append(colour)
    places = [(x, y) for y in _ROWS_MM for x in _IN_ROW_MM]
    for n, (x, y) in enumerate([*places, *_BESIDE_MM]):
        # Five is no divisor of the number of kinds: no corner holds only dark ones.
        fill = kinds[n * 5 % len(kinds)]
        yield printed_patch(f"s{n}", box(x, y, PATCH_MM, PATCH_MM), fill)
    for n, (x, y) in enumerate(places):
        yield printed_patch(f"p{n}", box(x + PATCH_MM + 0.8, y, _BARE_MM, PATCH_MM), None)
    for n, polygon in enumerate(_BARE_ROUND_MM):
        yield printed_patch(f"pw{n}", polygon, None)
