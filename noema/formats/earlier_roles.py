"""Roles of cells in exercises kept before roles were written down: told from shape and name."""

import re
from collections.abc import Iterator, Sequence
from typing import cast

from noema.core.exercises.asked import CellRole

Json = dict[str, object]

_DARK = re.compile(r"r\d+dark")
_PAIR = re.compile(r"r\d+p\d+m")
_TWIN = re.compile(r"r\d+n2")
_TINT = re.compile(r"(?P<below>t\d+c\d+)|(?P<dark>r\d+)tint|(?P<tube>s\d+)c|tint-\w+-(?P<hue>\d+)")


def with_roles(cells: Sequence[Json], rows: Sequence[Json]) -> list[Json]:
    """Give the cells with a role each, and the cell that a twin or a tint belongs to."""
    ids = [cast(list[str], row["cells"]) for row in rows]
    above = {
        cell: whole
        for before, row in zip(ids, ids[1:], strict=False)
        for cell, whole in zip(row, before, strict=False)
    }
    beside = {cell: before for row in ids for before, cell in _neighbours(row)}
    return [{**cell, **_role(cell, above, beside)} for cell in cells]


def _neighbours(row: Sequence[str]) -> Iterator[tuple[str, str]]:
    return zip(row, row[1:], strict=False)


def _role(cell: Json, above: dict[str, str], beside: dict[str, str]) -> Json:
    name, role, of = str(cell["id"]), CellRole.STEP, ""
    if cell["end"]:
        role = CellRole.END
    elif _TWIN.fullmatch(name):
        role, of = CellRole.TWIN, beside[name]
    elif _DARK.fullmatch(name):
        role = CellRole.DARK
    elif _PAIR.fullmatch(name):
        role = CellRole.SECONDARY
    elif cell["shape"] == "diamond":
        role = CellRole.NEUTRAL
    elif tint := _TINT.fullmatch(name):
        role, of = CellRole.TINT, _whole(tint, above)
    return {"role": role.value, "of": of}


def _whole(tint: re.Match[str], above: dict[str, str]) -> str:
    """Name the mix that a tint is let down from."""
    if tint["below"]:
        return above[tint["below"]]
    if tint["dark"]:
        return f"{tint['dark']}dark"
    return f"{tint['tube']}a" if tint["tube"] else f"h{tint['hue']}"
