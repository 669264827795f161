"""Drawings as one vector PDF, a page each."""

from collections.abc import Iterable
from io import BytesIO

from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from noema.core.language import gettext
from noema.core.sheet.drawing import Anchor, Code, Drawing, Mark, Shape, Words
from noema.core.sheet.layout import Polygon
from noema.formats.modules import black_boxes
from noema.formats.typefaces import BOLD, REGULAR, register_fonts, shaped, width

_TILE_MARGIN_MM, _GLUED_MM = 8.0, 10.0  # round every tile; and by which two overlap


def sheets_pdf(drawings: Iterable[Drawing], title: str, *, larger: float = 1.0) -> bytes:
    """Draw pages in order, so many times as large; the same drawings give the same bytes."""
    out = BytesIO()
    canvas = _canvas(out, title)
    for drawing in drawings:
        canvas.setPageSize((drawing.width_mm * larger * mm, drawing.height_mm * larger * mm))
        canvas.scale(larger, larger)
        _draw(canvas, drawing)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def posters_pdf(drawings: Iterable[Drawing], title: str, *, across: int) -> bytes:
    """Draw each page as a poster of tiles, so many across and down, on paper of its own size.

    Tiles overlap by what is glued, and say at their foot where they belong.
    """
    out = BytesIO()
    canvas = _canvas(out, title)
    for drawing in drawings:
        wide, high = drawing.width_mm, drawing.height_mm
        step = wide - 2 * _TILE_MARGIN_MM - _GLUED_MM, high - 2 * _TILE_MARGIN_MM - _GLUED_MM
        larger = min((across * step[0] + _GLUED_MM) / wide, (across * step[1] + _GLUED_MM) / high)
        for row in range(across):
            for column in range(across):
                canvas.setPageSize((wide * mm, high * mm))
                canvas.saveState()
                frame = canvas.beginPath()
                frame.rect(
                    _TILE_MARGIN_MM * mm,
                    _TILE_MARGIN_MM * mm,
                    (wide - 2 * _TILE_MARGIN_MM) * mm,
                    (high - 2 * _TILE_MARGIN_MM) * mm,
                )
                canvas.clipPath(frame, stroke=0)
                canvas.translate(
                    (_TILE_MARGIN_MM - column * step[0]) * mm,
                    (high - _TILE_MARGIN_MM + row * step[1] - larger * high) * mm,
                )
                canvas.scale(larger, larger)
                _draw(canvas, drawing)
                canvas.restoreState()
                canvas.setFillGray(0.4)
                where = gettext("row %(row)s, column %(column)s", row=row + 1, column=column + 1)
                place = _TILE_MARGIN_MM * mm, 4.0 * mm
                _draw_line(canvas, place, f"{drawing.title}, {where}", REGULAR, 3.0 * mm)
                canvas.showPage()
    canvas.save()
    return out.getvalue()


def _canvas(out: BytesIO, title: str) -> Canvas:
    register_fonts()
    canvas = Canvas(out, invariant=1, pageCompression=1)
    canvas.setTitle(title)
    return canvas


def words_width_mm(words: Words) -> float:
    """Give the width a line of words takes on paper."""
    return width(words.text, BOLD if words.bold else REGULAR, words.size_mm)


def _draw(canvas: Canvas, drawing: Drawing) -> None:
    for item in drawing.items:
        match item:
            case Shape():
                _draw_shape(canvas, drawing.height_mm, item)
            case Words():
                _draw_words(canvas, drawing.height_mm, item)
            case Mark() | Code():
                canvas.setFillGray(0.0)
                for black in black_boxes(item):
                    _trace(canvas, drawing.height_mm, black, fill=1, stroke=0)


def _draw_shape(canvas: Canvas, height_mm: float, shape: Shape) -> None:
    if shape.fill_grey is not None:
        canvas.setFillGray(shape.fill_grey / 255.0)
    if shape.fill_rgb is not None:
        canvas.setFillColorRGB(*(part / 255.0 for part in shape.fill_rgb))
    if shape.line_grey is not None:
        canvas.setStrokeGray(shape.line_grey / 255.0)
        canvas.setLineWidth(shape.line_mm * mm)
    _trace(
        canvas,
        height_mm,
        shape.polygon_mm,
        fill=int(shape.fill_grey is not None or shape.fill_rgb is not None),
        stroke=int(shape.line_grey is not None),
    )


def _draw_words(canvas: Canvas, height_mm: float, words: Words) -> None:
    canvas.setFillGray(words.grey / 255.0)
    font = BOLD if words.bold else REGULAR
    before = {Anchor.START: 0.0, Anchor.MIDDLE: 0.5, Anchor.END: 1.0}[words.anchor]
    left_mm = words.at_mm[0] - before * words_width_mm(words)
    place = left_mm * mm, (height_mm - words.at_mm[1]) * mm
    _draw_line(canvas, place, words.text, font, words.size_mm * mm)


def _draw_line(
    canvas: Canvas, place: tuple[float, float], words: str, font: str, size: float
) -> None:
    x, y = place
    for own, drawn, wide in shaped(words, font, size):
        canvas.setFont(own, size)
        canvas.drawString(x, y, drawn)
        x += wide


def _trace(canvas: Canvas, height_mm: float, polygon: Polygon, *, fill: int, stroke: int) -> None:
    path = canvas.beginPath()
    (x, y), *rest = polygon
    path.moveTo(x * mm, (height_mm - y) * mm)
    for x, y in rest:
        path.lineTo(x * mm, (height_mm - y) * mm)
    path.close()
    canvas.drawPath(path, fill=fill, stroke=stroke)
