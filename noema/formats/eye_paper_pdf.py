"""A series for the eye on paper: numbered rows of four greys."""

from collections.abc import Sequence

from reportlab.graphics.shapes import Drawing, Rect, String
from reportlab.lib.colors import HexColor
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Spacer, Table

from noema.core.language import gettext
from noema.core.seeing.paper import LETTERS
from noema.core.seeing.question import EyeQuestion
from noema.formats.paper_pages import HEAD, SOFT, TEXT, TITLE, WIDTH, paragraph, report_bytes
from noema.formats.typefaces import BOLD

_PATCH, _GAP, _HIGH = 16 * mm, 3 * mm, 13 * mm


def eye_paper_pdf(rows: Sequence[EyeQuestion], code: str) -> bytes:
    """Draw the page; greys are sent to the printer as they are."""
    cells = [[_drawn(number, row)] for number, row in enumerate(rows, start=1)]
    half = -(-len(cells) // 2)
    paired = [
        [*cells[n], *(cells[n + half] if n + half < len(cells) else [""])] for n in range(half)
    ]
    story: list[Flowable] = [
        paragraph(gettext("Light and dark, on paper"), TITLE),
        paragraph(gettext("Code %(code)s", code=code), HEAD),
        paragraph(
            gettext(
                "In each row one grey is lighter than the other three. Look in daylight, squint, "
                "and answer on your phone: Train your eye, On paper."
            ),
            TEXT,
        ),
        Spacer(1, 4 * mm),
        Table(paired, colWidths=[WIDTH / 2] * 2),
        Spacer(1, 3 * mm),
        paragraph(
            gettext("Print it on the printer it was made for, without any improving of colours."),
            SOFT,
        ),
    ]
    return report_bytes(story, gettext("Light and dark, on paper"))


def _drawn(number: int, row: EyeQuestion) -> Drawing:
    drawing = Drawing(WIDTH / 2 - 4 * mm, _HIGH + 5 * mm)
    drawing.add(String(0, 0.5 * _HIGH, str(number), fontName=BOLD, fontSize=11))
    for place, (letter, fill) in enumerate(zip(LETTERS, row.fills, strict=True)):
        x = 9 * mm + place * (_PATCH + _GAP)
        drawing.add(
            Rect(x, 4 * mm, _PATCH, _HIGH - 4 * mm, fillColor=HexColor(fill), strokeColor=None)
        )
        drawing.add(String(x + 0.5 * _PATCH, 0, letter, fontName=BOLD, fontSize=9))
    return drawing
