"""Pages as PDF in the size that is asked for: as they are, larger, or as a poster in tiles."""

from collections.abc import Sequence

from flask import Response, request

from noema.core.errors import Refused
from noema.core.language import N_, gettext
from noema.core.sheet.drawing import Drawing
from noema.formats.sheet_pdf import posters_pdf, sheets_pdf

_LARGER = {"": 1.0, "a3": 2.0**0.5, "a2": 2.0}
"""Sizes of paper, by how much larger than A4 they are; nearly so for Letter."""

KEY_SIZES = (
    ("", N_("as a page")),
    ("a3", N_("on A3")),
    ("a2", N_("on A2")),
    ("tiles-4", N_("as a poster of 4 pages")),
    ("tiles-9", N_("as a poster of 9 pages")),
)
"""What a key sheet is offered in."""

_TILES = {"tiles-4": 2, "tiles-9": 3}


def drawings_pdf(drawings: Sequence[Drawing], title: str, file_name: str = "") -> Response:
    """Give pages as PDF in the size the address asks for."""
    size = request.args.get("size", "")
    if size in _TILES:
        data = posters_pdf(drawings, title, across=_TILES[size])
    elif size in _LARGER:
        data = sheets_pdf(drawings, title, larger=_LARGER[size])
    else:
        raise Refused(gettext("That size isn’t on the list: choose one of those offered."))
    headers = {"Content-Disposition": f'inline; filename="{file_name}"'} if file_name else {}
    return Response(data, mimetype="application/pdf", headers=headers)
