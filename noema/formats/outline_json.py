"""Outlines placed by hand as JSON (docs/formats.md)."""

import json
from typing import cast

import msgspec

from noema.core.errors import BadOutline
from noema.core.language import gettext
from noema.core.photo.by_hand import Outline
from noema.formats.plain import Json, to_plain

_DIGITS = {"corners": 5, "sides": 5, "paper": 5}


def outline_to_json(outline: Outline) -> Json:
    """Give an outline as plain values."""
    return cast(Json, to_plain(outline, _DIGITS))


def outline_from_text(text: str) -> Outline:
    """Read an outline's file."""
    try:
        return outline_from_json(json.loads(text))
    except json.JSONDecodeError as wrong:
        raise BadOutline(
            gettext(
                "The outline is not JSON (line %(lineno)s): %(msg)s.",
                lineno=wrong.lineno,
                msg=wrong.msg,
            )
        ) from wrong


def outline_from_json(given: object) -> Outline:
    """Read an outline from plain values, or refuse it in a sentence."""
    try:
        kept = {name: part for name, part in cast(Json, given).items() if part is not None}
        return msgspec.convert(kept, Outline)
    except (msgspec.ValidationError, AttributeError) as wrong:
        raise BadOutline(gettext("The outline isn't complete: place it once more.")) from wrong
