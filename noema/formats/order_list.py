"""What to order, as a spreadsheet and on paper."""

import csv
from collections.abc import Mapping, Sequence
from datetime import date
from io import StringIO

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Spacer, Table

from noema.core.language import gettext
from noema.core.planning.amounts import rounded_ml
from noema.core.planning.orders import OrderLine
from noema.core.planning.paint_uses import TubeInMedium
from noema.formats.paper_pages import HEAD, SOFT, TEXT, TITLE, WIDTH, paragraph, report_bytes
from noema.formats.spreadsheet import plain_text

_WIDTHS = (0.3, 0.15, 0.12, 0.12, 0.16, 0.15)  # shares of the page, of columns
_NO_DAYS: Mapping[TubeInMedium, date] = {}


def order_csv(lines: Sequence[OrderLine], by: Mapping[TubeInMedium, date] = _NO_DAYS) -> str:
    """Give an order as CSV; `by` are the days until which to order, where they matter."""
    out = StringIO()
    table = csv.writer(out)
    table.writerow(
        ["tube", "medium", "needed_ml", "there_ml", "ordered_ml", "containers", "order_by"]
    )
    for one in lines:
        day = by.get(one.paint)
        table.writerow(
            [
                plain_text(one.label),
                one.paint.medium.value,
                f"{rounded_ml(one.needed_ml):g}",
                f"{one.there_ml:.0f}",
                one.ordered_ml,
                one.said,
                "" if day is None else day.isoformat(),
            ]
        )
    return out.getvalue()


def order_pdf(
    lines: Sequence[OrderLine], school: str, on: date, by: Mapping[TubeInMedium, date] = _NO_DAYS
) -> bytes:
    """Give an order on paper: what is to come, with room to tick it off."""
    story: list[Flowable] = [
        paragraph(school, TITLE),
        paragraph(gettext("Paint order, %(day)s", day=on.isoformat()), SOFT),
        Spacer(1, 4 * mm),
    ]
    wanted = [one for one in lines if one.containers]
    heads = (
        gettext("Tube"),
        gettext("Medium"),
        gettext("Needed, ml"),
        gettext("There, ml"),
        gettext("Order"),
        gettext("Order by"),
    )
    rows = [[paragraph(words, HEAD) for words in heads]]
    for one in wanted:
        day = by.get(one.paint)
        cells = (
            f"□ {gettext(one.label)}",
            gettext(one.paint.medium.value),
            f"{rounded_ml(one.needed_ml):g}",
            f"{one.there_ml:.0f}",
            one.said,
            "" if day is None else day.isoformat(),
        )
        rows.append([paragraph(words, TEXT) for words in cells])
    if wanted:
        widths = [WIDTH * share for share in _WIDTHS]
        story.append(Table(rows, colWidths=widths, repeatRows=1))
    else:
        story.append(paragraph(gettext("Nothing lacks: there is nothing to order."), TEXT))
    return report_bytes(story, gettext("Paint order"))
