"""An exercise as JSON: what is expected of every cell (docs/formats.md)."""

from collections.abc import Iterator, Mapping
from dataclasses import replace
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
from noema.formats.said_json import resaid, sources_to_json

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
        **({"sources": sources} if (sources := sources_to_json(_texts(asked))) else {}),
    }


def asked_from_json(values: Json, paints: PaintSet | None) -> Asked:
    """Read back what `asked_to_json` wrote; parts are tubes of the set, or built-in ones."""
    own = () if paints is None else paints.tubes
    tubes = {**TUBES, **{tube.name: tube for tube in own}}
    bodies = cast(list[Json], values["cells"])
    if any("role" not in body for body in bodies):
        bodies = with_roles(bodies, cast(list[Json], values["rows"]))
    sources = cast(Json, values.get("sources", {}))
    cells = {str(body["id"]): _cell(body, tubes, sources) for body in bodies}
    return Asked(
        kind=str(values["kind"]),
        title=str(values["title"]),
        arrangement=Arrangement(values["arrangement"]),
        anticlockwise=bool(values["anticlockwise"]),
        shows_targets=bool(values["shows_targets"]),
        bands=tuple(_band(row, cells, sources) for row in cast(list[Json], values["rows"])),
        concerns=tuple(
            _resaid(concern, sources)
            for concern in from_plain(tuple[Concern, ...], values["concerns"], _EXERCISE)
        ),
        how_to=tuple(resaid(line, sources) for line in cast(list[str], values["how_to"])),
        tubes=tuple(
            _cell(body, tubes, sources) for body in cast(list[Json], values.get("tubes", []))
        ),
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


def _texts(asked: Asked) -> Iterator[str]:
    """Give all that an exercise says, but its title, which is its name."""
    yield from asked.how_to
    for band in asked.bands:
        yield band.label
    for cell in asked.on_paper:
        yield from (cell.label, cell.note, cell.limit)
    for concern in asked.concerns:
        yield from (concern.sentence, concern.suggestion)


def _resaid(concern: Concern, sources: Json) -> Concern:
    return replace(
        concern,
        sentence=resaid(concern.sentence, sources),
        suggestion=resaid(concern.suggestion, sources),
    )


def _cell(values: Json, tubes: Mapping[str, Tube], sources: Json) -> AskedCell:
    lightness, a, b = cast(list[float], values["lab"])
    parts = cast(dict[str, float], values["parts"])
    return AskedCell(
        id=str(values["id"]),
        label=resaid(values["label"], sources),
        lab=(lightness, a, b),
        hvc=hvc_from_json(values["hvc"]),
        parts=tuple(Part(tube=tubes[name], amount=share) for name, share in parts.items()),
        note=resaid(values["note"], sources),
        limit=resaid(values["limit"] or "", sources),
        role=CellRole(values["role"]),
        of=str(values["of"] or ""),
    )


def _band(values: Json, cells: Mapping[str, AskedCell], sources: Json) -> Band:
    return Band(
        label=resaid(values["label"], sources),
        even=Even(values["even"]),
        cells=tuple(cells[cell_id] for cell_id in cast(list[str], values["cells"])),
    )
