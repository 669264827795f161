"""A class's measurements out: CSV, JSON and CGATS.17 text, each saying its conventions."""

import csv
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from io import StringIO
from typing import Any, cast

import orjson

from noema.formats.spreadsheet import plain_text

FORMAT = "noema-measurements/1"
CONVENTIONS: Mapping[str, str] = {
    "lab": "CIELAB, D50 white, CIE 1931 2 degree observer, L* 0 to 100",
    "hue100": "hue of ASTM D1535 (illuminant C, 2 degrees), 0 to 100, 5R = 5; none for neutrals",
    "value": "value of ASTM D1535, 0 to 10",
    "chroma": "chroma of ASTM D1535",
    "sigma": "the reader's own one sigma of the colour, CIEDE2000 units",
    "time": "ISO 8601, UTC",
}


@dataclass(frozen=True, kw_only=True)
class SheetMeasured:
    """One read sheet."""

    student: str
    exercise: str
    sheet: str  # its code
    handed_in: datetime
    reading: Mapping[str, Any]  # as the contract's reading JSON


_COLUMNS = (
    "student", "exercise", "sheet", "handed_in", "cell", "L* (D50/2)", "a* (D50/2)", "b* (D50/2)",
    "hue (D1535)", "hue100 (0-100)", "value (0-10)", "chroma", "sigma (CIEDE2000)", "flags",
)  # fmt: skip


def measurements_csv(sheets: Sequence[SheetMeasured]) -> bytes:
    """Give a line a cell; the header says units."""
    out = StringIO(newline="")
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(_COLUMNS)
    for one in sheets:
        for cell in cast(list[dict[str, Any]], one.reading["cells"]):
            hvc = cell["hvc"]
            hue100 = "" if hvc["hue100"] is None else hvc["hue100"]
            colour = [*cell["lab"], hvc["hue"], hue100, hvc["value"], hvc["chroma"]]
            flags = " ".join(cell["flags"])
            start = [
                plain_text(one.student),
                plain_text(one.exercise),
                one.sheet,
                _time(one.handed_in),
            ]
            writer.writerow([*start, cell["id"], *colour, cell["sigma"], flags])
    return out.getvalue().encode("utf-8-sig")


def measurements_json(sheets: Sequence[SheetMeasured]) -> bytes:
    """Give one object: its format, its conventions, and every sheet with its cells."""
    body = {
        "format": FORMAT,
        "conventions": dict(CONVENTIONS),
        "sheets": [
            {
                "student": one.student,
                "exercise": one.exercise,
                "sheet": one.sheet,
                "handed_in": _time(one.handed_in),
                "cells": [
                    {name: cell[name] for name in ("id", "lab", "hvc", "sigma", "flags")}
                    for cell in one.reading["cells"]
                ],
            }
            for one in sheets
        ],
    }
    return orjson.dumps(body, option=orjson.OPT_INDENT_2)


def measurements_cgats(sheets: Sequence[SheetMeasured], made_at: datetime) -> bytes:
    """Give CGATS.17 text (ISO 28178 keywords): a sample a cell, named sheet:cell."""
    cells = [(one.sheet, cell) for one in sheets for cell in one.reading["cells"]]
    lines = [
        "CGATS.17",
        'ORIGINATOR "Noema"',
        f'CREATED "{made_at:%Y-%m-%d}"',
        'DESCRIPTOR "Painted cells read from photographs"',
        'WEIGHTING_FUNCTION "ILLUMINANT, D50"',
        'WEIGHTING_FUNCTION "OBSERVER, 2 degree"',
        'KEYWORD "SIGMA_DE00"',
        'SIGMA_DE00 "one sigma of the reader, CIEDE2000, in column DE_2000"',
        "NUMBER_OF_FIELDS 6",
        "BEGIN_DATA_FORMAT",
        "SAMPLE_ID SAMPLE_NAME LAB_L LAB_A LAB_B DE_2000",
        "END_DATA_FORMAT",
        f"NUMBER_OF_SETS {len(cells)}",
        "BEGIN_DATA",
    ]
    for n, (sheet, cell) in enumerate(cells, start=1):
        lightness, a, b = cell["lab"]
        name = f'"{sheet}:{cell["id"]}"'
        lines.append(f"{n} {name} {lightness:.4f} {a:.4f} {b:.4f} {cell['sigma']:.3f}")
    return ("\n".join([*lines, "END_DATA", ""])).encode("ascii", "replace")


def _time(at: datetime) -> str:
    return at.strftime("%Y-%m-%dT%H:%M:%SZ")
