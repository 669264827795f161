"""A logbook on paper: cards with a swatch, a mix and room to paint it beside."""

from collections.abc import Mapping, Sequence

from reportlab.graphics.shapes import Drawing, Rect
from reportlab.lib.colors import HexColor
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Spacer, Table

from noema.core.colour.srgb import lab_to_hex
from noema.core.language import gettext
from noema.core.logbook.entry import Entry
from noema.core.pigments.says import say_volumes
from noema.formats.paper_pages import SMALL, SOFT, TEXT, TITLE, WIDTH, paragraph, report_bytes

_ACROSS = 3
_SWATCH = (48 * mm, 14 * mm)
_CARD = [
    ("VALIGN", (0, 0), (-1, -1), "TOP"),
    ("BOX", (0, 0), (-1, -1), 0.4, HexColor("#b9b9b9")),
    ("INNERGRID", (0, 0), (-1, -1), 0.4, HexColor("#b9b9b9")),
    ("BOTTOMPADDING", (0, 0), (-1, -1), 6),
]


def logbook_pdf(entries: Sequence[Entry], name: str, labels: Mapping[str, str]) -> bytes:
    """Lay entries out as cards, three a row; `labels` are what tubes are called, by name."""
    story: list[Flowable] = [
        paragraph(gettext("Logbook of %(name)s", name=name), TITLE),
        paragraph(
            gettext(
                "Printed colours are near, not exact: paint the right half of each swatch yourself."
            ),
            SOFT,
        ),
        Spacer(1, 4 * mm),
    ]
    if not entries:
        story.append(paragraph(gettext("Nothing stands in it yet."), TEXT))
    cells = [_card(one, labels) for one in entries]
    rows = [cells[n : n + _ACROSS] for n in range(0, len(cells), _ACROSS)]
    if rows:
        filled = [[*row, *[""] * (_ACROSS - len(row))] for row in rows]
        story.append(Table(filled, colWidths=[WIDTH / _ACROSS] * _ACROSS, style=_CARD))
    return report_bytes(story, gettext("Logbook of %(name)s", name=name))


def parts_said(entry: Entry, labels: Mapping[str, str]) -> str:
    """Say an entry's parts as a painter counts them; empty where they aren't known."""
    return say_volumes([(labels.get(part.tube, part.tube), part.volume) for part in entry.parts])


def _card(entry: Entry, labels: Mapping[str, str]) -> list[Flowable]:
    wide, high = _SWATCH
    swatch = Drawing(wide, high)
    fill = HexColor(lab_to_hex([entry.lab])[0])
    swatch.add(Rect(0, 0, wide / 2, high, fillColor=fill, strokeColor=None))
    swatch.add(Rect(wide / 2, 0, wide / 2, high, fillColor=None, strokeColor=HexColor("#6b6b6b")))
    lines: list[Flowable] = [swatch, paragraph(entry.title, TEXT)]
    lines += [
        paragraph(words, SMALL)
        for words in (parts_said(entry, labels), entry.words, entry.made_on)
        if words
    ]
    return lines
