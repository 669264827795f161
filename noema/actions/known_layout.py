"""Everything that is known by now of a sheet in a photograph: what it is read by."""

import hashlib
import json
from dataclasses import asdict, dataclass

from sqlalchemy.orm import Session

from noema.actions.calibrate_printer import known_printer
from noema.actions.work_out_exercise import Exercise
from noema.core.photo.by_hand import Outline, read_by_hand
from noema.core.photo.card import ReferenceCard
from noema.core.photo.knowledge import with_known_print, with_known_tubes
from noema.core.photo.picture import Picture
from noema.core.photo.read import ReadSheet, read_found
from noema.core.photo.stages.identify import Identified, IdentifiedSheet
from noema.core.photo.stages.place import Sought
from noema.core.sheet.layout import Layout, Triple
from noema.formats.layout_json import layout_from_json, layout_to_json
from noema.formats.outline_json import outline_from_json, outline_to_json
from noema.store.photographs import PhotoRow, beside_photo
from noema.store.printers import printer_of_assignment
from noema.store.sheets import SheetRow, layouts_of_sheets

_OWN = "own-"
_DIGITS = 12


@dataclass(frozen=True, kw_only=True)
class KnownLayout:
    """A layout to read by, and what helps."""

    layout: Layout
    card: ReferenceCard | None  # that lies beside the sheet
    outline: Outline | None  # as a teacher placed it
    basis: str  # changes whenever what is known changes; empty where nothing is

    def read(
        self, picture: Picture, found: Identified, own: IdentifiedSheet | None, *, check_code: bool
    ) -> ReadSheet:
        """Read a photograph: as a teacher placed the sheet, or else by its marks."""
        if self.outline is not None:
            return read_by_hand(picture, self.outline, self.layout, self.card)
        sought = Sought(picture=picture, layout=self.layout, card=self.card)
        return read_found(sought, found, own, check_code=check_code)


def known_layout(
    session: Session, photo: PhotoRow, sheet: SheetRow, exercise: Exercise
) -> KnownLayout:
    """Give a sheet's layout with its printer's colours, its measured tubes, a card, an outline."""
    layout = layout_from_json(layouts_of_sheets(session, [sheet.id])[sheet.id])
    known = layout
    printer = known_printer(printer_of_assignment(session, sheet.assignment_id), photo.camera)
    if printer is not None:
        known = with_known_print(known, printer.labs, printer.source)
    known = with_known_tubes(known, _measured_tubes(exercise))
    beside = beside_photo(session, photo.id)
    outline = None if beside.outline is None else outline_from_json(beside.outline)
    said: dict[str, object] = {
        "layout": None if known == layout else layout_to_json(known),
        "card": None if beside.card is None else asdict(beside.card),
        "outline": None if outline is None else outline_to_json(outline),
    }
    return KnownLayout(layout=known, card=beside.card, outline=outline, basis=_digest(said))


def _digest(said: dict[str, object]) -> str:
    more = {name: value for name, value in said.items() if value is not None}
    if not more:
        return ""
    # Readings by a layout alone keep the name they have had.
    body = json.dumps(more["layout"] if set(more) == {"layout"} else more, sort_keys=True)
    return hashlib.sha256(body.encode()).hexdigest()[:_DIGITS]


def _measured_tubes(exercise: Exercise) -> dict[str, Triple]:
    """Give the colours of cells that are a measured tube and nothing else."""
    return {
        cell.id: cell.lab
        for cell in exercise.asked.on_paper
        if len(cell.parts) == 1 and cell.parts[0].tube.name.startswith(_OWN)
    }
