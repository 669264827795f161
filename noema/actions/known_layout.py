"""A sheet's layout with everything that is known by now of what is on it."""

import hashlib
import json
from dataclasses import dataclass

from sqlalchemy.orm import Session

from noema.actions.calibrate_printer import known_printer
from noema.actions.work_out_exercise import Exercise
from noema.core.photo.knowledge import with_known_print, with_known_tubes
from noema.core.sheet.layout import Layout, Triple
from noema.formats.layout_json import layout_from_json, layout_to_json
from noema.store.printers import printer_of_assignment
from noema.store.sheets import SheetRow, layouts_of_sheets

_OWN = "own-"
_DIGITS = 12


@dataclass(frozen=True, kw_only=True)
class KnownLayout:
    """A layout to read by."""

    layout: Layout
    basis: str  # changes whenever what is known changes; empty where nothing is


def known_layout(session: Session, sheet: SheetRow, exercise: Exercise) -> KnownLayout:
    """Give a sheet's layout with its printer's colours and its measured tubes."""
    layout = layout_from_json(layouts_of_sheets(session, [sheet.id])[sheet.id])
    known = layout
    printer = known_printer(printer_of_assignment(session, sheet.assignment_id))
    if printer is not None:
        known = with_known_print(known, printer.labs, printer.source)
    known = with_known_tubes(known, _measured_tubes(exercise))
    if known == layout:
        return KnownLayout(layout=layout, basis="")
    body = json.dumps(layout_to_json(known), sort_keys=True).encode()
    return KnownLayout(layout=known, basis=hashlib.sha256(body).hexdigest()[:_DIGITS])


def _measured_tubes(exercise: Exercise) -> dict[str, Triple]:
    """Give the colours of cells that are a measured tube and nothing else."""
    return {
        cell.id: cell.lab
        for cell in exercise.asked.cells
        if len(cell.parts) == 1 and cell.parts[0].tube.name.startswith(_OWN)
    }
