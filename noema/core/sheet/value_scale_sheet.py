"""The worksheet of a value scale: one long row of cells on a landscape page.

Greys stand above the row and, in the opposite order, below it, so that light falling off across
the page can't pass for a darker print. Blank paper is kept all round the row and between cells.
"""

from collections.abc import Iterator
from dataclasses import dataclass

from noema.core.exercises.value_scale import ValueScale, how_to, plain_scale
from noema.core.sheet.drawing import Anchor, Code, Drawing, Item, Mark, Shape, Words
from noema.core.sheet.layout import Cell, Layout, Patch, PatchKind, box
from noema.core.sheet.paper import LANDSCAPE, MARGIN_MM, MARKER_MM, Frame, Paper

SIDE_MM = MARGIN_MM + MARKER_MM + 4.0  # clear of the marks at the edges
CELLS_TOP_MM, CELLS_HEIGHT_MM = 74.0, 52.0
CELL_GAP_MM = 3.0
GREYS = (56, 92, 128, 160, 192, 224)  # spread over value 2 to 9
PATCH_HEIGHT_MM, PATCH_GAP_MM = 8.0, 14.0
TOP_GREYS_MM, BOTTOM_GREYS_MM = 53.0, 135.0
OUTLINE_GREY, OUTLINE_MM = 150, 0.2  # light enough to vanish under paint


@dataclass(frozen=True, kw_only=True)
class SheetWords:
    """What is printed for the person: nothing a reader needs."""

    student: str
    school_class: str
    due: str


def value_scale_layout(scale: ValueScale, paper: Paper, code: str) -> Layout:
    """Plan the page of a value scale."""
    frame = LANDSCAPE[paper]
    return Layout(
        sheet=code,
        width_mm=frame.width_mm,
        height_mm=frame.height_mm,
        grey_only=True,
        qr_text=code,
        qr_polygon_mm=frame.qr_polygon_mm,
        markers=frame.markers,
        reference=tuple(_reference(frame, scale.steps)),
        cells=tuple(_cells(frame, scale)),
    )


def draw_value_scale(layout: Layout, scale: ValueScale, words: SheetWords) -> Drawing:
    """Draw the page for one student, on the very layout by which it will be read."""
    items: list[Item] = [Mark(id=m.id, square_mm=m.corners_mm) for m in layout.markers]
    items.append(Code(text=layout.qr_text, square_mm=layout.qr_polygon_mm))
    items += [
        Shape(polygon_mm=patch.polygon_mm, fill_grey=patch.nominal_srgb[0])
        for patch in layout.reference
        if patch.kind is PatchKind.GREY
    ]
    items += _drawn_cells(layout)
    items += _heading(layout, scale, words)
    items += _notes(layout)
    return Drawing(
        width_mm=layout.width_mm,
        height_mm=layout.height_mm,
        title=f"{scale.title} {layout.sheet}",
        items=tuple(items),
    )


def _cells(frame: Frame, scale: ValueScale) -> Iterator[Cell]:
    row = frame.width_mm - 2.0 * SIDE_MM
    stride = (row + CELL_GAP_MM) / scale.steps
    for n, cell in enumerate(plain_scale(scale).cells):
        left = SIDE_MM + n * stride
        yield Cell(
            id=cell.id,
            label=cell.label,
            polygon_mm=box(left, CELLS_TOP_MM, stride - CELL_GAP_MM, CELLS_HEIGHT_MM),
            target_lab=cell.lab,
        )


def _reference(frame: Frame, steps: int) -> Iterator[Patch]:
    yield from _grey_row(frame, "t", TOP_GREYS_MM, GREYS)
    yield from _grey_row(frame, "b", BOTTOM_GREYS_MM, GREYS[::-1])
    yield from _paper_rows(frame)
    yield from _paper_gaps(frame, steps)


def _grey_row(frame: Frame, name: str, top: float, greys: tuple[int, ...]) -> Iterator[Patch]:
    stride = (frame.width_mm - 2.0 * SIDE_MM + PATCH_GAP_MM) / len(greys)
    for n, grey in enumerate(greys):
        yield Patch(
            id=f"g{name}{n + 1}",
            kind=PatchKind.GREY,
            polygon_mm=box(SIDE_MM + n * stride, top, stride - PATCH_GAP_MM, PATCH_HEIGHT_MM),
            nominal_srgb=(grey, grey, grey),
            lab=None,
            lab_sigma=None,
            lab_source=None,
        )


def _paper(name: str, left: float, top: float, width: float, height: float) -> Patch:
    return Patch(
        id=name,
        kind=PatchKind.PAPER,
        polygon_mm=box(left, top, width, height),
        nominal_srgb=(255, 255, 255),
        lab=None,
        lab_sigma=None,
        lab_source=None,
    )


def _paper_rows(frame: Frame) -> Iterator[Patch]:
    """Keep blank strips over and under both rows of greys and along the side edges."""
    width = (frame.width_mm - 2.0 * SIDE_MM) / 6.0
    tops = (TOP_GREYS_MM - 4.5, TOP_GREYS_MM + 9.5, BOTTOM_GREYS_MM - 6.0, BOTTOM_GREYS_MM + 10.0)
    for row, top in enumerate(tops):
        for n in range(6):
            yield _paper(f"p{row + 1}{n + 1}", SIDE_MM + n * width + 1.0, top, width - 2.0, 3.0)
    for side, left in (("l", MARGIN_MM), ("r", frame.width_mm - MARGIN_MM - MARKER_MM)):
        middle = frame.height_mm / 2.0
        for n, top in enumerate((30.0, middle - 40.0, middle + 15.0, frame.height_mm - 45.0)):
            yield _paper(f"p{side}{n + 1}", left + 1.0, top, MARKER_MM - 2.0, 14.0)


def _paper_gaps(frame: Frame, steps: int) -> Iterator[Patch]:
    stride = (frame.width_mm - 2.0 * SIDE_MM + CELL_GAP_MM) / steps
    for n in range(1, steps):
        left = SIDE_MM + n * stride - CELL_GAP_MM
        yield _paper(f"pg{n}", left + 0.6, CELLS_TOP_MM, CELL_GAP_MM - 1.2, CELLS_HEIGHT_MM)


def _drawn_cells(layout: Layout) -> Iterator[Item]:
    last = len(layout.cells) - 1
    for n, cell in enumerate(layout.cells):
        yield Shape(
            polygon_mm=cell.polygon_mm,
            line_grey=OUTLINE_GREY,
            line_mm=OUTLINE_MM,
            name=cell.id,
        )
        middle = (cell.polygon_mm[0][0] + cell.polygon_mm[1][0]) / 2.0
        end = {0: " darkest", last: " lightest"}.get(n, "")
        yield Words(
            at_mm=(middle, CELLS_TOP_MM - 2.2),
            text=cell.label + end,
            size_mm=3.4,
            anchor=Anchor.MIDDLE,
            grey=70,
        )


def _heading(layout: Layout, scale: ValueScale, words: SheetWords) -> Iterator[Item]:
    code_left = layout.qr_polygon_mm[0][0]
    yield Words(at_mm=(SIDE_MM, 17.0), text=words.student, size_mm=6.4, bold=True)
    yield Words(at_mm=(SIDE_MM, 24.0), text=words.school_class, size_mm=3.8, grey=60)
    yield Words(at_mm=(SIDE_MM, 29.2), text=words.due, size_mm=3.8, grey=60)
    yield Words(
        at_mm=(code_left - 6.0, 17.0), text=layout.sheet, size_mm=6.4, bold=True, anchor=Anchor.END
    )
    yield Words(
        at_mm=(code_left - 6.0, 24.0), text=scale.title, size_mm=3.8, grey=60, anchor=Anchor.END
    )
    for n, line in enumerate(how_to(scale.medium)):
        yield Words(at_mm=(SIDE_MM, 39.0 + 5.2 * n), text=line, size_mm=3.6)


def _notes(layout: Layout) -> Iterator[Item]:
    top = BOTTOM_GREYS_MM + 20.0
    yield Words(at_mm=(SIDE_MM, top), text="Date and notes", size_mm=3.4, grey=90)
    for n in range(1, 5):
        y = top + 8.0 * n
        yield Shape(
            polygon_mm=((SIDE_MM, y), (layout.width_mm - SIDE_MM, y)),
            line_grey=190,
            line_mm=0.2,
        )
