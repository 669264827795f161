"""The sheet for the studio wall: a picture, its values, its spots and what to mix for them."""

from collections.abc import Mapping, Sequence
from io import BytesIO

from PIL import Image as Picture
from reportlab.graphics.shapes import Circle, Drawing, Image, Rect, String
from reportlab.lib.colors import HexColor
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.platypus import Flowable, PageBreak, Spacer, Table
from reportlab.platypus import Image as Placed

from noema.core.colour.srgb import lab_to_hex
from noema.core.colour.value import value_to_lab
from noema.core.language import gettext
from noema.core.pictures.values import ValuePlan, middle_values
from noema.formats.logbook_pdf import parts_said
from noema.formats.paper_pages import TEXT, TITLE, WIDTH, paragraph, report_bytes
from noema.formats.spots import CarriedColour
from noema.formats.typefaces import BOLD, REGULAR

_HIGHEST = 190 * mm
_FROM_AFAR_PT = 30  # what is read from three metres
_LARGE = ParagraphStyle("large", fontName=REGULAR, fontSize=_FROM_AFAR_PT, leading=36)
_LARGE_BOLD = ParagraphStyle("large bold", parent=_LARGE, fontName=BOLD)
_MARK = 7 * mm
_SWATCH = (52 * mm, 30 * mm)
_STEP = 15 * mm
_LINES = [("VALIGN", (0, 0), (-1, -1), "TOP"), ("BOTTOMPADDING", (0, 0), (-1, -1), 18)]


def wall_pdf(
    title: str,
    shown: bytes,
    colours: Sequence[CarriedColour],
    labels: Mapping[str, str],
) -> bytes:
    """Lay the picture out with numbered spots, then each spot's colour and mix, for a wall."""
    story: list[Flowable] = [paragraph(title, _LARGE_BOLD), Spacer(1, 4 * mm)]
    story += [_marked(shown, colours), Spacer(1, 4 * mm)]
    story += [paragraph(gettext("Printed colours are near, not exact."), TEXT), PageBreak()]
    rows = [
        [
            [paragraph(str(n), _LARGE_BOLD), Spacer(1, 4 * mm), _swatch(one)],
            [
                paragraph(one.entry.title, _LARGE_BOLD),
                paragraph(parts_said(one.entry, labels), _LARGE),
                paragraph(one.entry.words, TEXT),
            ],
        ]
        for n, one in enumerate(colours, start=1)
    ]
    if rows:
        widths = [_SWATCH[0] + 6 * mm, WIDTH - _SWATCH[0] - 6 * mm]
        story.append(Table(rows, colWidths=widths, style=_LINES))
    return report_bytes(story, title)


def values_pdf(title: str, plan_png: bytes, plan: ValuePlan) -> bytes:
    """Lay a value plan out to be painted, over a row of its values and room for one's own."""
    values = middle_values(len(plan.shares))
    size = ImageReader(BytesIO(plan_png)).getSize()
    scale = min(WIDTH / size[0], _HIGHEST / size[1])
    story: list[Flowable] = [
        paragraph(gettext("%(title)s, in %(count)s values", title=title, count=len(values)), TITLE),
        Placed(BytesIO(plan_png), size[0] * scale, size[1] * scale),
        Spacer(1, 5 * mm),
        paragraph(gettext("Paint each value into the empty field under it, and squint."), TEXT),
        _row_of_values(values, plan),
    ]
    return report_bytes(story, title)


def _marked(shown: bytes, colours: Sequence[CarriedColour]) -> Drawing:
    image = Picture.open(BytesIO(shown))
    wide, high = image.size
    scale = min(WIDTH / wide, _HIGHEST / high)
    drawing = Drawing(wide * scale, high * scale)
    drawing.add(Image(0, 0, wide * scale, high * scale, image))
    for n, one in enumerate(colours, start=1):
        if one.place is not None:
            x, y = one.place[0] * wide * scale, (1.0 - one.place[1]) * high * scale
            drawing.add(
                Circle(x, y, _MARK, fillColor=HexColor("#ffffff"), strokeColor=HexColor("#1f1f1f"))
            )
            drawing.add(
                String(
                    x,
                    y - 0.36 * _FROM_AFAR_PT,
                    str(n),
                    fontSize=_FROM_AFAR_PT,
                    fontName=BOLD,
                    textAnchor="middle",
                )
            )
    return drawing


def _swatch(one: CarriedColour) -> Drawing:
    wide, high = _SWATCH
    drawing = Drawing(wide, high)
    fill = HexColor(lab_to_hex([one.entry.lab])[0])
    drawing.add(Rect(0, 0, wide, high, fillColor=fill, strokeColor=None))
    return drawing


def _row_of_values(values: Sequence[float], plan: ValuePlan) -> Drawing:
    wide = min(WIDTH / len(values), 30 * mm)
    drawing = Drawing(wide * len(values), 2 * _STEP + 6 * mm)
    fills = lab_to_hex(value_to_lab(list(values)))
    for n, (fill, share) in enumerate(zip(fills, plan.shares, strict=True)):
        left = n * wide
        drawing.add(
            Rect(left, _STEP + 6 * mm, wide, _STEP, fillColor=HexColor(fill), strokeColor=None)
        )
        drawing.add(
            Rect(left, 6 * mm, wide, _STEP, fillColor=None, strokeColor=HexColor("#6b6b6b"))
        )
        said = f"{share.share:.0%}"
        drawing.add(
            String(left + wide / 2, 1.5 * mm, said, fontSize=9, fontName=BOLD, textAnchor="middle")
        )
    return drawing
