"""Readings as JSON: the line `noema read` prints and what the records keep (docs/formats.md)."""

import json

from noema.core.errors import BadFile
from noema.core.language import N_, gettext
from noema.core.photo.reading import Reading
from noema.formats.hvc_json import hvc_to_json
from noema.formats.plain import Json, from_plain, to_plain

_READING = N_("reading")
_DIGITS = {
    "paper": 2,
    "sigma_level": 3,
    "lab": 3,
    "sigma": 3,
    "sigma_value": 4,
    "sigma_step": 4,
    "sigma_hue": 2,
    "sigma_chroma": 3,
    "coverage": 3,
    "unevenness": 3,
    "spill": 3,
}
_OF_SIGMA = {"sigma_value": 0.1, "sigma_step": 0.1, "sigma_hue": 1.5, "sigma_chroma": 0.4}
"""What a CIEDE2000 of sigma is worth, roughly, in readings that kept no more than it."""

_USUAL = {"coverage": 1.0, "unevenness": 0.0, "spill": 0.0}


def reading_to_json(reading: Reading, photo: str | None) -> Json:
    """Give a reading as plain values."""
    body = to_plain(reading, _DIGITS)
    assert isinstance(body, dict)
    cells = [
        {**cell, "hvc": hvc_to_json(read.hvc)}
        for cell, read in zip(body["cells"], reading.cells, strict=True)
    ]
    return {"photo": photo, **body, "cells": cells}


def reading_from_text(text: str) -> Reading:
    """Read the first reading of a file written by `noema read`."""
    line = next((line for line in text.splitlines() if line.strip()), "")
    try:
        return reading_from_json(json.loads(line))
    except json.JSONDecodeError as wrong:
        raise BadFile(
            gettext(
                "The reading is not JSON: %(msg)s at column %(colno)s.",
                msg=wrong.msg,
                colno=wrong.colno,
            )
        ) from wrong


def reading_from_json(given: object) -> Reading:
    """Read a reading from plain values; earlier readers kept less of a cell's doubt."""
    if isinstance(given, dict) and isinstance(given.get("cells"), list):
        cells = [_filled(cell) if isinstance(cell, dict) else cell for cell in given["cells"]]
        given = {"reader": "unknown", **given, "cells": cells}
    return from_plain(Reading, given, _READING)


def _filled(cell: Json) -> Json:
    sigma = cell.get("sigma")
    guessed = (
        {name: share * sigma for name, share in _OF_SIGMA.items()}
        if isinstance(sigma, int | float)
        else {}
    )
    return {**_USUAL, **guessed, **cell}
