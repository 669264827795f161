"""Swatches of a tube taken from a photographed sheet of tube swatches."""

from dataclasses import dataclass
from typing import Any, cast

from noema.core.errors import NotFound
from noema.core.photo.reading import CellFlag, CellReading
from noema.core.pigments.shelf import TUBES, WHITE
from noema.formats.reading_json import reading_from_json
from noema.store.readings import SwatchSheet, swatch_sheets
from noema.web.frame.request import db, me

_KIND = "tube-swatches"
_MASSTONE, _TINT = "a", "c"  # last letters of the cells that are opaque: thick, 1 to 10
_TINT_PARTS = "10"
_UNSEEN = frozenset({CellFlag.UNPAINTED, CellFlag.OUTSIDE, CellFlag.GLARE})


@dataclass(frozen=True, kw_only=True)
class SheetTube:
    """One tube on one photographed sheet."""

    ref: str  # photograph and cell
    label: str


@dataclass(frozen=True, kw_only=True)
class Line:
    """One swatch as typed or read."""

    with_name: str  # empty: masstone
    parts: str
    lab: str

    @property
    def label(self) -> str:
        """What it is called."""
        return f"1 to {self.parts} {self.with_name}" if self.with_name else "masstone"


@dataclass(frozen=True, kw_only=True)
class SheetSwatches:
    """A tube's swatches from a sheet."""

    base: str
    lines: tuple[Line, ...]
    sigma: float  # CIEDE2000: how far the reader may be wrong


def tubes_on_sheets() -> tuple[SheetTube, ...]:
    """Give every tube on the sheets read lately."""
    return tuple(
        SheetTube(
            ref=f"{sheet.photograph_id}-{cell}",
            label=f"{tube.replace('-', ' ')}: {sheet.student or 'your own sheet'}, "
            f"{sheet.class_name}",
        )
        for sheet in swatch_sheets(db(), me().school_id, _KIND)
        for cell, tube in _tubes(sheet)
    )


def swatches_of(ref: str) -> SheetSwatches:
    """Take one tube's opaque swatches from a sheet; a thin one says nothing of its masstone."""
    photo, _, cell = ref.partition("-")
    for sheet in swatch_sheets(db(), me().school_id, _KIND):
        tubes = dict(_tubes(sheet))
        if str(sheet.photograph_id) == photo and cell in tubes:
            read = {one.id: one for one in reading_from_json(sheet.body).cells}
            return _taken(tubes[cell], cell, read)
    raise NotFound("There is no such swatch on a sheet read lately: choose it from the list.")


def _tubes(sheet: SwatchSheet) -> list[tuple[str, str]]:
    """Give the masstone cells that are a built-in tube's, with its name."""
    cells = cast(list[dict[str, Any]], sheet.asked["cells"])
    found = [(str(cell["id"]), next(iter(cell["parts"]))) for cell in cells if cell["end"]]
    return [(cell, tube) for cell, tube in found if tube in TUBES]


def _taken(tube: str, cell: str, read: dict[str, CellReading]) -> SheetSwatches:
    stem = cell.removesuffix(_MASSTONE)
    wanted = (
        ("", "", read.get(cell)),
        (WHITE, _TINT_PARTS, read.get(f"{stem}{_TINT}")),
    )
    seen = [
        (name, parts, one)
        for name, parts, one in wanted
        if one is not None and not _UNSEEN & set(one.flags)
    ]
    if not seen:
        raise NotFound("That swatch couldn't be read on its sheet: choose another.")
    return SheetSwatches(
        base=tube,
        lines=tuple(
            Line(with_name=name, parts=parts, lab=" ".join(f"{x:.1f}" for x in one.lab))
            for name, parts, one in seen
        ),
        sigma=max(one.sigma for _, _, one in seen),
    )
