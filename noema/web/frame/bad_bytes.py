"""Addresses and fields that no table can hold are refused before anything is asked of one."""

from flask import abort, request
from werkzeug.routing import IntegerConverter, Map

_MOST = 2**31 - 1  # what PostgreSQL's integer holds


class RowNumber(IntegerConverter):
    """A row's number in an address; one that no row can have is no such page."""

    def __init__(self, map: Map) -> None:
        super().__init__(map, max=_MOST)


def refuse_nul() -> None:
    """Refuse the one character that text in PostgreSQL can't hold."""
    if "\0" in request.path:
        abort(404)
    fields = [request.args]
    if request.mimetype in ("application/x-www-form-urlencoded", "multipart/form-data"):
        fields.append(request.form)
    for values in fields:
        if any("\0" in part for pair in values.items(multi=True) for part in pair):
            abort(400)
