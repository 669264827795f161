"""An exercise as JSON: what is expected of every cell (docs/formats.md)."""

from collections.abc import Mapping
from typing import cast

from noema.core.exercises.asked import (
    Arrangement,
    Asked,
    AskedCell,
    Band,
    CellRole,
    Concern,
    Even,
)
from noema.core.exercises.tolerance import Tolerance
from noema.core.language import N_
from noema.core.pigments.mix import Part
from noema.core.pigments.shelf import TUBES, PaintSet
from noema.core.pigments.tube import Tube
from noema.formats.earlier_roles import with_roles
from noema.formats.hvc_json import hvc_from_json, hvc_to_json
from noema.formats.plain import Json, from_plain, to_plain

_EXERCISE = N_("exercise")


def asked_to_json(asked: Asked) -> Json:
    """Give an exercise as plain values, cells in reading order."""
    return {
        "kind": asked.kind,
        "title": asked.title,
        "arrangement": asked.arrangement.value,
        "anticlockwise": asked.anticlockwise,
        "shows_targets": asked.shows_targets,
        "cells": [_cell_to_json(cell) for cell in asked.cells],
        "rows": [
            {
                "label": band.label,
                "even": band.even.value,
                "cells": [cell.id for cell in band.cells],
            }
            for band in asked.bands
        ],
        "concerns": to_plain(asked.concerns, {}),
        "how_to": list(asked.how_to),
        "tubes": [_cell_to_json(cell) for cell in asked.tubes],
    }


def asked_from_json(values: Json, paints: PaintSet | None) -> Asked:
    """Read back what `asked_to_json` wrote; parts are tubes of the set, or built-in ones."""
    own = () if paints is None else paints.tubes
    tubes = {**TUBES, **{tube.name: tube for tube in own}}
    bodies = cast(list[Json], values["cells"])
    if any("role" not in body for body in bodies):
        bodies = with_roles(bodies, cast(list[Json], values["rows"]))
    cells = {str(body["id"]): _cell(body, tubes) for body in bodies}
    return Asked(
        kind=str(values["kind"]),
        title=str(values["title"]),
        arrangement=Arrangement(values["arrangement"]),
        anticlockwise=bool(values["anticlockwise"]),
        shows_targets=bool(values["shows_targets"]),
        bands=tuple(_band(row, cells) for row in cast(list[Json], values["rows"])),
        concerns=from_plain(tuple[Concern, ...], values["concerns"], _EXERCISE),
        how_to=tuple(cast(list[str], values["how_to"])),
        tubes=tuple(_cell(body, tubes) for body in cast(list[Json], values.get("tubes", []))),
    )


def tolerance_to_json(tolerance: Tolerance) -> Json:
    """Give tolerances as plain values."""
    return cast(Json, to_plain(tolerance, {}))


def tolerance_from_json(values: Json) -> Tolerance:
    """Read back what `tolerance_to_json` wrote."""
    return from_plain(Tolerance, values, _EXERCISE)


def _cell_to_json(cell: AskedCell) -> Json:
    whole = sum(part.amount for part in cell.parts)
    return {
        "id": cell.id,
        "label": cell.label,
        "shape": cell.shape.value,
        "end": cell.is_end,
        "role": cell.role.value,
        "of": cell.of or None,
        "lab": [round(number, 3) for number in cell.lab],
        "hvc": hvc_to_json(cell.hvc),
        "parts": {part.tube.name: float(f"{part.amount / whole:.5g}") for part in cell.parts},
        "note": cell.note,
        "limit": cell.limit or None,
    }


def _cell(values: Json, tubes: Mapping[str, Tube]) -> AskedCell:
    lightness, a, b = cast(list[float], values["lab"])
    parts = cast(dict[str, float], values["parts"])
    return AskedCell(
        id=str(values["id"]),
        label=str(values["label"]),
        lab=(lightness, a, b),
        hvc=hvc_from_json(values["hvc"]),
        parts=tuple(Part(tube=tubes[name], amount=share) for name, share in parts.items()),
        note=str(values["note"]),
        limit=str(values["limit"] or ""),
        role=CellRole(values["role"]),
        of=str(values["of"] or ""),
    )


def _band(values: Json, cells: Mapping[str, AskedCell]) -> Band:
    return Band(
        label=str(values["label"]),
        even=Even(values["even"]),
        cells=tuple(cells[cell_id] for cell_id in cast(list[str], values["cells"])),
    )
