"""Outlines placed by hand as JSON (docs/formats.md)."""

import json
from typing import cast

from noema.core.errors import BadOutline
from noema.core.language import gettext
from noema.core.photo.by_hand import Outline
from noema.core.sheet.layout import Point

Json = dict[str, object]

_DIGITS = 5


def outline_to_json(outline: Outline) -> Json:
    """Give an outline as plain values."""
    return {
        "corners": _points(outline.corners),
        "sides": _points(outline.sides),
        "paper": _points(outline.paper),
        "nudges": {name: [round(x, 2), round(y, 2)] for name, (x, y) in outline.nudges.items()},
    }


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
        values = cast(dict[str, list[list[float]]], given)
        nudges = cast(dict[str, list[float]], values.get("nudges") or {})
        return Outline(
            corners=_read(values["corners"]),
            sides=_read(values.get("sides") or []),
            paper=_read(values.get("paper") or []),
            nudges={str(name)[:20]: (float(x), float(y)) for name, (x, y) in nudges.items()},
        )
    except (KeyError, TypeError, ValueError, AttributeError) as wrong:
        raise BadOutline(gettext("The outline isn't complete: place it once more.")) from wrong


def _points(points: tuple[Point, ...]) -> list[list[float]]:
    return [[round(x, _DIGITS), round(y, _DIGITS)] for x, y in points]


def _read(points: list[list[float]]) -> tuple[Point, ...]:
    return tuple((float(x), float(y)) for x, y in points)
