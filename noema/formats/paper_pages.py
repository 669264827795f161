"""Pages of paper to read: how their words are set."""

from io import BytesIO

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate

from noema.formats.typefaces import BOLD, REGULAR, marked_up, register_fonts

_MARGIN = 18 * mm
WIDTH = A4[0] - 2 * _MARGIN
TITLE = ParagraphStyle("title", fontName=BOLD, fontSize=20, leading=25)
HEAD = ParagraphStyle("head", fontName=BOLD, fontSize=12, leading=16, spaceBefore=8)
TEXT = ParagraphStyle("text", fontName=REGULAR, fontSize=10, leading=14)
SMALL = ParagraphStyle("small", fontName=REGULAR, fontSize=8, leading=11)
SOFT = ParagraphStyle("soft", parent=SMALL, textColor=HexColor("#4a4a4a"))


def report_bytes(story: list[Flowable], title: str) -> bytes:
    """Lay a story out on pages of A4; the same story gives the same bytes."""
    register_fonts()
    out = BytesIO()
    SimpleDocTemplate(
        out,
        pagesize=A4,
        leftMargin=_MARGIN,
        rightMargin=_MARGIN,
        topMargin=_MARGIN,
        bottomMargin=_MARGIN,
        title=title,
        author="Noema",
        invariant=1,
    ).build(story)
    return out.getvalue()


def paragraph(words: str, style: ParagraphStyle) -> Paragraph:
    """Set plain words in a style."""
    register_fonts()
    marked, shapes = marked_up(words, style.fontName)
    return Paragraph(
        marked, ParagraphStyle(style.name, parent=style, shaping=1) if shapes else style
    )
