"""Spots and schemes as files to carry along: CSV and JSON (docs/formats.md)."""

import csv
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from io import StringIO

import orjson

from noema.core.colour.hvc import hvc_of
from noema.core.logbook.entry import Entry
from noema.formats.hvc_json import hvc_to_json
from noema.formats.logbook import parts_text
from noema.formats.spreadsheet import plain_text

SPOTS_FORMAT = "noema-spots/1"
_COLUMNS = ("name", "x", "y", "share", "L", "a", "b", "hvc", "parts", "words")


@dataclass(frozen=True, kw_only=True)
class CarriedColour:
    """One colour of a picture or of a scheme."""

    entry: Entry
    place: tuple[float, float] | None = None  # shares of width and height, of a spot
    share: float | None = None  # of the area, of a scheme's colour


def colours_csv(colours: Sequence[CarriedColour]) -> str:
    """Write a line a colour; numbers with three digits."""
    out = StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(_COLUMNS)
    for one in colours:
        x, y = ("", "") if one.place is None else (f"{v:.4f}" for v in one.place)
        share = "" if one.share is None else f"{one.share:.4f}"
        lab = [f"{part:.3f}" for part in one.entry.lab]
        parts = parts_text(one.entry.parts)
        hvc, words = hvc_of(one.entry.lab).notation, plain_text(one.entry.words)
        writer.writerow([plain_text(one.entry.title), x, y, share, *lab, hvc, parts, words])
    return out.getvalue()


def colours_json(colours: Sequence[CarriedColour], of: Mapping[str, str]) -> bytes:
    """Write colours with what they are of."""
    told = [
        {
            "name": one.entry.title,
            "place": None if one.place is None else list(one.place),
            "share": one.share,
            "lab": [round(part, 3) for part in one.entry.lab],
            "hvc": hvc_to_json(hvc_of(one.entry.lab)),
            "parts": {part.tube: part.volume for part in one.entry.parts},
            "words": one.entry.words,
        }
        for one in colours
    ]
    return orjson.dumps({"format": SPOTS_FORMAT, **of, "colours": told})
