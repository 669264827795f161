"""The page by which a printer is calibrated: every colour Noema prints, three times over.

It carries the marks of every sheet. Its squares are read like cells, against a reference card
lying on its blank lower half, or measured with a colour meter one after another.
"""

from collections.abc import Iterator

from noema.core.language import gettext
from noema.core.sheet.drawing import Code, Drawing, Item, Mark, Shape, Words
from noema.core.sheet.layout import Cell, Layout, Patch, box
from noema.core.sheet.paper import LANDSCAPE, MARGIN_MM, MARKER_MM, Paper, PaperFrame
from noema.core.sheet.worksheet import COLOURS, GREYS, printed_patch

Srgb = tuple[int, int, int]

PRINTED: tuple[Srgb, ...] = (*((grey, grey, grey) for grey in GREYS), *COLOURS)
"""Every colour sent to a printer on any sheet, in the order they stand in a row."""

PAPER: Srgb = (255, 255, 255)
ROWS = 3
_SIDE_MM = MARGIN_MM + MARKER_MM + 4.0
_TOP_MM, _SQUARE_MM, _ROW_MM = 40.0, 14.0, 19.0
_SHIFT = 4  # columns by which each row begins elsewhere, so that no edge holds one colour only


def calibration_layout(paper: Paper, code: str) -> Layout:
    """Plan the page for one paper."""
    frame = LANDSCAPE[paper]
    return Layout(
        sheet=code,
        width_mm=frame.width_mm,
        height_mm=frame.height_mm,
        grey_only=True,
        qr_text=code,
        qr_polygon_mm=frame.qr_polygon_mm,
        markers=frame.markers,
        reference=tuple(_bare(frame)),
        cells=tuple(_squares(frame)),
        cells_printed=True,
    )


def squares_in_order() -> tuple[Srgb, ...]:
    """Give what stands on the page, row by row from the left."""
    count = len(PRINTED)
    return tuple(PRINTED[(n % count + _SHIFT * (n // count)) % count] for n in range(ROWS * count))


def squares_to_measure() -> tuple[Srgb, ...]:
    """Give what a meter is held on one after another: the page's first row, then bare paper."""
    return (*squares_in_order()[: len(PRINTED)], PAPER)


def printed_as(cell_id: str) -> Srgb:
    """Give what was sent to the printer for a square.

    >>> printed_as("2-196-60-48")
    (196, 60, 48)
    """
    _, red, green, blue = (int(part) for part in cell_id.split("-"))
    return red, green, blue


def draw_calibration(layout: Layout, printer: str) -> Drawing:
    """Draw the page."""
    items: list[Item] = [Mark(id=m.id, square_mm=m.corners_mm) for m in layout.markers]
    items.append(Code(text=layout.qr_text, square_mm=layout.qr_polygon_mm))
    items += [
        Shape(polygon_mm=cell.polygon_mm, fill_rgb=printed_as(cell.id)) for cell in layout.cells
    ]
    said = (
        (24.0, gettext("Calibration of %(printer)s", printer=printer), 5.0),
        (
            30.5,
            gettext("Print as you print worksheets: same paper, full size, no colour correction."),
            3.4,
        ),
        (
            112.0,
            gettext("Lay the reference card here (a card of one grey too), then photograph both"),
            3.4,
        ),
        (116.5, gettext("in even daylight, two or three times, turned a little each time."), 3.4),
    )
    items += [
        Words(at_mm=(_SIDE_MM, y), text=text, size_mm=size, bold=size > 4.0)
        for y, text, size in said
    ]
    return Drawing(
        width_mm=layout.width_mm,
        height_mm=layout.height_mm,
        title=gettext("Calibration of %(printer)s", printer=printer),
        items=tuple(items),
    )


def _squares(frame: PaperFrame) -> Iterator[Cell]:
    stride = (frame.width_mm - 2.0 * _SIDE_MM) / len(PRINTED)
    for n, sent in enumerate(squares_in_order()):
        row, column = divmod(n, len(PRINTED))
        left, top = _SIDE_MM + column * stride, _TOP_MM + row * _ROW_MM
        yield Cell(
            id=f"{row + 1}-{'-'.join(str(part) for part in sent)}",
            label="",
            polygon_mm=box(left, top, _SQUARE_MM, _SQUARE_MM),
            target_lab=None,
        )


def _bare(frame: PaperFrame) -> Iterator[Patch]:
    """Name blank paper between the rows and down the sides; the lower half may hold a card."""
    width = (frame.width_mm - 2.0 * _SIDE_MM) / 6.0
    for row in range(ROWS + 1):
        for n in range(6):
            top = _TOP_MM + row * _ROW_MM - (_ROW_MM - _SQUARE_MM) + 0.8
            yield printed_patch(
                f"p{row}{n}", box(_SIDE_MM + n * width, top, width - 2.0, 3.2), None
            )
    for side, left in (("l", MARGIN_MM), ("r", frame.width_mm - MARGIN_MM - MARKER_MM)):
        for n, top in enumerate((42.0, 62.0, 125.0, 150.0)):
            yield printed_patch(f"p{side}{n}", box(left + 1.0, top, MARKER_MM - 2.0, 14.0), None)
