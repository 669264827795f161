"""Readings as JSON: the line `noema read` prints and what the records keep (docs/formats.md)."""

import json
from typing import cast

from noema.core.errors import BadFile
from noema.core.language import gettext
from noema.core.photo.knowledge import Knowledge
from noema.core.photo.reading import CellFlag, CellReading, Reading, SheetFlag
from noema.core.sheet.layout import Triple
from noema.formats.hvc_json import hvc_from_json, hvc_to_json

Json = dict[str, object]

_HUE_PER_DELTA, _CHROMA_PER_DELTA = 1.5, 0.4  # the same for steps of hue and chroma
_VALUE_PER_DELTA = 0.1  # value steps a CIEDE2000 unit of lightness is worth, roughly


def reading_to_json(reading: Reading, photo: str | None) -> Json:
    """Give a reading as plain values."""
    return {
        "photo": photo,
        "sheet": reading.sheet,
        "found": reading.found,
        "reader": reading.reader,
        "flags": [flag.value for flag in reading.flags],
        "knowledge": [one.value for one in reading.knowledge],
        "paper": None if reading.paper is None else [round(part, 2) for part in reading.paper],
        "cells": [_cell_to_json(cell) for cell in reading.cells],
    }


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
    """Read a reading from plain values."""
    try:
        values = cast(Json, given)
        return Reading(
            sheet=cast(str | None, values["sheet"]),
            found=bool(values["found"]),
            flags=tuple(SheetFlag(flag) for flag in cast(list[str], values["flags"])),
            cells=tuple(_cell(cell) for cell in cast(list[Json], values["cells"])),
            knowledge=tuple(Knowledge(one) for one in cast(list[str], values.get("knowledge", []))),
            paper=_paper(values.get("paper")),
            reader=str(values.get("reader", "unknown")),
        )
    except (KeyError, TypeError, ValueError, AttributeError) as wrong:
        raise BadFile(
            gettext("The reading is incomplete or has a wrong value at %(wrong)s.", wrong=wrong)
        ) from wrong


def _paper(given: object) -> Triple | None:
    if given is None:
        return None
    lightness, a, b = cast(list[float], given)
    return (float(lightness), float(a), float(b))


def _cell_to_json(cell: CellReading) -> Json:
    return {
        "id": cell.id,
        "lab": [round(part, 3) for part in cell.lab],
        "hvc": hvc_to_json(cell.hvc),
        "sigma": round(cell.sigma, 3),
        "sigma_value": round(cell.sigma_value, 4),
        "sigma_step": round(cell.sigma_step, 4),
        "sigma_hue": round(cell.sigma_hue, 2),
        "sigma_chroma": round(cell.sigma_chroma, 3),
        "coverage": round(cell.coverage, 3),
        "unevenness": round(cell.unevenness, 3),
        "spill": round(cell.spill, 3),
        "flags": [flag.value for flag in cell.flags],
    }


def _cell(given: Json) -> CellReading:
    lab = cast(list[float], given["lab"])
    sigma = float(cast(float, given["sigma"]))
    fallback = sigma * _VALUE_PER_DELTA
    return CellReading(
        id=str(given["id"]),
        lab=(float(lab[0]), float(lab[1]), float(lab[2])),
        hvc=hvc_from_json(given["hvc"]),
        sigma=sigma,
        sigma_value=float(cast(float, given.get("sigma_value", fallback))),
        sigma_step=float(cast(float, given.get("sigma_step", fallback))),
        sigma_hue=float(cast(float, given.get("sigma_hue", sigma * _HUE_PER_DELTA))),
        sigma_chroma=float(cast(float, given.get("sigma_chroma", sigma * _CHROMA_PER_DELTA))),
        coverage=float(cast(float, given.get("coverage", 1.0))),
        unevenness=float(cast(float, given.get("unevenness", 0.0))),
        spill=float(cast(float, given.get("spill", 0.0))),
        flags=tuple(CellFlag(flag) for flag in cast(list[str], given["flags"])),
    )
