"""Swatches of a tube taken from a photographed sheet of tube swatches."""

from dataclasses import dataclass

from noema.core.errors import NotFound
from noema.core.exercises.asked import Asked, CellRole
from noema.core.exercises.catalogue import KINDS, has
from noema.core.exercises.kind import Trait
from noema.core.language import gettext
from noema.core.photo.reading import CellFlag, CellReading
from noema.core.pigments.shelf import TUBES, WHITE
from noema.core.words.tubes import tube_words
from noema.formats.asked_json import asked_from_json
from noema.formats.reading_json import reading_from_json
from noema.store.readings import swatch_sheets
from noema.web.frame.request import db, me

_KINDS = tuple(name for name in KINDS if has(name, Trait.SHOWS_TUBES))
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
        return (
            gettext("1 to %(parts)s %(with_name)s", parts=self.parts, with_name=self.with_name)
            if self.with_name
            else gettext("masstone")
        )


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
            label=f"{tube_words(tube, {})}: {sheet.student or gettext('your own sheet')}, "
            f"{sheet.class_name}",
        )
        for sheet in swatch_sheets(db(), me().school_id, _KINDS)
        for cell, tube in _tubes(asked_from_json(sheet.asked, None))
    )


def swatches_of(ref: str) -> SheetSwatches:
    """Take one tube's opaque swatches from a sheet; a thin one says nothing of its masstone."""
    photo, _, cell = ref.partition("-")
    for sheet in swatch_sheets(db(), me().school_id, _KINDS):
        asked = asked_from_json(sheet.asked, None)
        tubes = dict(_tubes(asked))
        if str(sheet.photograph_id) == photo and cell in tubes:
            read = {one.id: one for one in reading_from_json(sheet.body).cells}
            return _taken(tubes[cell], cell, _tint_of(cell, asked), read)
    raise NotFound(
        gettext("There is no such swatch on a sheet read lately: choose it from the list.")
    )


def _tubes(asked: Asked) -> list[tuple[str, str]]:
    """Give the masstone cells that are a built-in tube's, with its name."""
    found = [(cell.id, cell.parts[0].tube.name) for cell in asked.cells if cell.is_end]
    return [(cell, tube) for cell, tube in found if tube in TUBES]


def _tint_of(masstone: str, asked: Asked) -> str:
    """Name the cell of the same tube let down with white; empty where there is none."""
    tints = (one.id for one in asked.cells if one.role is CellRole.TINT and one.of == masstone)
    return next(tints, "")


def _taken(tube: str, cell: str, tint: str, read: dict[str, CellReading]) -> SheetSwatches:
    wanted = (
        ("", "", read.get(cell)),
        (WHITE, _TINT_PARTS, read.get(tint)),
    )
    seen = [
        (name, parts, one)
        for name, parts, one in wanted
        if one is not None and not _UNSEEN & set(one.flags)
    ]
    if not seen:
        raise NotFound(gettext("That swatch couldn't be read on its sheet: choose another."))
    return SheetSwatches(
        base=tube,
        lines=tuple(
            Line(with_name=name, parts=parts, lab=" ".join(f"{x:.1f}" for x in one.lab))
            for name, parts, one in seen
        ),
        sigma=max(one.sigma for _, _, one in seen),
    )
