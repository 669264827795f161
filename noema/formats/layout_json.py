"""Sheet layouts as JSON, format noema-sheet/1 (docs/formats.md)."""

import json
from typing import cast

from noema.core.colour.hvc import hvc_of
from noema.core.errors import BadFile
from noema.core.language import N_, Term, gettext
from noema.core.sheet.layout import (
    FORMAT,
    MARKER_DICTIONARY,
    Cell,
    Layout,
    Marker,
    Patch,
    Polygon,
    Triple,
)
from noema.formats.hvc_json import hvc_to_json
from noema.formats.plain import Json, from_plain, to_plain

_LAYOUT = N_("layout")
_DIGITS = {"polygon_mm": 3, "corners_mm": 3}
_UNKNOWN: Json = {"lab": None, "lab_sigma": None, "lab_source": None, "lab_gain": None}


def layout_to_json(layout: Layout) -> Json:
    """Give the layout as plain values, ready for json.dumps."""
    return {
        "format": FORMAT,
        "sheet": layout.sheet,
        "page": {"width_mm": layout.width_mm, "height_mm": layout.height_mm},
        "print": {"grey_only": layout.grey_only, "cells": layout.cells_printed},
        "marker_dictionary": MARKER_DICTIONARY,
        "qr": {
            "text": layout.qr_text,
            "polygon_mm": to_plain(layout.qr_polygon_mm, _DIGITS, "polygon_mm"),
        },
        "markers": to_plain(layout.markers, _DIGITS),
        "reference": to_plain(layout.reference, _DIGITS),
        "cells": [_cell_to_json(cell) for cell in layout.cells],
    }


def layout_from_text(text: str) -> Layout:
    """Read a layout file, or refuse it in a sentence that names what is missing."""
    try:
        return layout_from_json(json.loads(text))
    except json.JSONDecodeError as wrong:
        raise BadFile(
            gettext(
                "The layout is not JSON (line %(lineno)s): %(msg)s.",
                lineno=wrong.lineno,
                msg=wrong.msg,
            )
        ) from wrong


def layout_from_json(given: object) -> Layout:
    """Read a layout from plain values."""
    if not isinstance(given, dict) or given.get("format") != FORMAT:
        raise BadFile(
            gettext(
                "The layout does not say it is of format %(format)s: give a layout.json.",
                format=FORMAT,
            )
        )
    try:
        return _layout(given)
    except (KeyError, TypeError, ValueError, IndexError) as wrong:
        raise BadFile(
            gettext("The layout is incomplete or has a wrong value at %(wrong)s.", wrong=wrong)
        ) from wrong


def _layout(given: Json) -> Layout:
    page, qr, print_ = (cast(Json, given[name]) for name in ("page", "qr", "print"))
    layout = Layout(
        sheet=str(given["sheet"]),
        width_mm=float(cast(float, page["width_mm"])),
        height_mm=float(cast(float, page["height_mm"])),
        grey_only=bool(print_["grey_only"]),
        cells_printed=bool(print_.get("cells", False)),
        qr_text=str(qr["text"]),
        qr_polygon_mm=_polygon(qr["polygon_mm"]),
        markers=from_plain(tuple[Marker, ...], given["markers"], _LAYOUT),
        reference=from_plain(
            tuple[Patch, ...],
            [{**_UNKNOWN, **patch} for patch in cast(list[Json], given["reference"])],
            _LAYOUT,
        ),
        cells=tuple(_cell(cell) for cell in cast(list[Json], given["cells"])),
    )
    if len(layout.markers) < 4 or not layout.cells:
        raise BadFile(
            gettext("The layout has fewer than four markers or no cells: nothing can be read.")
        )
    return layout


def _polygon(given: object) -> Polygon:
    points = from_plain(Polygon, given, _LAYOUT)
    if len(points) < 3:
        raise ValueError("a polygon of fewer than three points")
    return points


def _cell_to_json(cell: Cell) -> Json:
    target = None
    if cell.target_lab is not None:
        target = {
            "lab": [round(part, 3) for part in cell.target_lab],
            "hvc": hvc_to_json(hvc_of(cell.target_lab)),
        }
    return {
        "id": cell.id,
        "label": cell.label,
        "polygon_mm": to_plain(cell.polygon_mm, _DIGITS, "polygon_mm"),
        "target": target,
    }


def _cell(given: Json) -> Cell:
    target = cast(Json | None, given.get("target"))
    lab = target.get("lab") if target else None
    return Cell(
        id=str(given["id"]),
        label=Term(given.get("label", "")),
        polygon_mm=_polygon(given["polygon_mm"]),
        target_lab=None if lab is None else from_plain(Triple, lab, _LAYOUT),
    )
