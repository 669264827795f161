"""The sheet for the studio wall: a picture, its values, its spots and what to mix for them."""

from collections.abc import Mapping, Sequence
from io import BytesIO

from PIL import Image as Picture
from reportlab.graphics.shapes import Circle, Drawing, Image, Rect, String
from reportlab.lib.colors import HexColor
from reportlab.lib.units import mm
from reportlab.lib.utils import ImageReader
from reportlab.platypus import Flowable, Spacer, Table
from reportlab.platypus import Image as Placed

from noema.core.colour.srgb import lab_to_hex
from noema.core.colour.value import value_to_lab
from noema.core.language import gettext
from noema.core.pictures.values import ValuePlan, middle_values
from noema.formats.logbook_pdf import parts_said
from noema.formats.paper_pages import HEAD, SMALL, SOFT, TEXT, TITLE, WIDTH, paragraph, report_bytes
from noema.formats.sheet_pdf import BOLD
from noema.formats.spots import CarriedColour

_HIGHEST = 120 * mm
_MARK, _NUMBER = 2.6 * mm, 7
_SWATCH = (22 * mm, 12 * mm)
_STEP = 15 * mm
_LINES = [("VALIGN", (0, 0), (-1, -1), "MIDDLE"), ("BOTTOMPADDING", (0, 0), (-1, -1), 5)]


def wall_pdf(
    title: str,
    shown: bytes,
    colours: Sequence[CarriedColour],
    labels: Mapping[str, str],
) -> bytes:
    """Lay the picture out with numbered spots, and under it each spot's colour and mix."""
    story: list[Flowable] = [paragraph(title, TITLE), _marked(shown, colours), Spacer(1, 4 * mm)]
    story.append(paragraph(gettext("Printed colours are near, not exact."), SOFT))
    rows = [
        [
            paragraph(str(n), HEAD),
            _swatch(one),
            [
                paragraph(one.entry.title, TEXT),
                paragraph(one.entry.words, SMALL),
                paragraph(parts_said(one.entry, labels), TEXT),
            ],
        ]
        for n, one in enumerate(colours, start=1)
    ]
    if rows:
        widths = [10 * mm, 48 * mm, WIDTH - 58 * mm]
        story.append(Table(rows, colWidths=widths, style=_LINES))
    return report_bytes(story, title)


def values_pdf(title: str, plan_png: bytes, plan: ValuePlan) -> bytes:
    """Lay a value plan out to be painted, over a row of its values and room for one's own."""
    values = middle_values(len(plan.shares))
    size = ImageReader(BytesIO(plan_png)).getSize()
    scale = min(WIDTH / size[0], 1.4 * _HIGHEST / size[1])
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
                String(x, y - 2.4, str(n), fontSize=_NUMBER, fontName=BOLD, textAnchor="middle")
            )
    return drawing


def _swatch(one: CarriedColour) -> Drawing:
    wide, high = _SWATCH
    drawing = Drawing(2 * wide, high)
    fill = HexColor(lab_to_hex([one.entry.lab])[0])
    drawing.add(Rect(0, 0, wide, high, fillColor=fill, strokeColor=None))
    drawing.add(Rect(wide, 0, wide, high, fillColor=None, strokeColor=HexColor("#6b6b6b")))
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
