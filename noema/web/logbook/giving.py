"""A logbook as a file to carry along."""

from collections.abc import Callable, Mapping, Sequence

from flask import Response
from werkzeug.exceptions import NotFound

from noema.core.logbook.entry import Entry
from noema.formats.logbook import (
    logbook_cgats,
    logbook_csv,
    logbook_gpl,
    logbook_json,
    logbook_svg,
)
from noema.formats.logbook_pdf import logbook_pdf

FORMS = ("pdf", "csv", "json", "txt", "svg", "gpl")
_MOST_CARDS = 300  # on paper: a hundred pages would be nobody's notebook


def given(form: str, entries: Sequence[Entry], name: str, labels: Mapping[str, str]) -> Response:
    """Give entries in one of the forms."""
    ways: dict[str, tuple[str, Callable[[], str | bytes]]] = {
        "pdf": ("application/pdf", lambda: logbook_pdf(entries[-_MOST_CARDS:], name, labels)),
        "csv": ("text/csv", lambda: logbook_csv(entries)),
        "json": ("application/json", lambda: logbook_json(entries)),
        "txt": ("text/plain", lambda: logbook_cgats(entries)),
        "svg": ("image/svg+xml", lambda: logbook_svg(entries)),
        "gpl": ("text/plain", lambda: logbook_gpl(entries, name)),
    }
    if form not in ways:
        raise NotFound
    kind, write = ways[form]
    answer = Response(write(), mimetype=kind)
    answer.headers.set("Content-Disposition", "attachment", filename=f"logbook.{form}")
    return answer
