"""The record of what was done, as a spreadsheet."""

import csv
from collections.abc import Iterable
from datetime import datetime
from io import StringIO

from noema.formats.spreadsheet import plain_text

_HEADINGS = ("at", "deed", "by", "about", "address")


def record_csv(entries: Iterable[tuple[datetime, str, str, str, str]]) -> str:
    """Write entries: when (in UTC), what, by whom, about what and from which address."""
    out = StringIO()
    table = csv.writer(out)
    table.writerow(_HEADINGS)
    for at, *cells in entries:
        table.writerow([at.isoformat(), *map(plain_text, cells)])
    return out.getvalue()
