"""A teacher places a sheet's outline over a photograph by hand; a job reads it so."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from noema.core.errors import Refused
from noema.core.language import gettext
from noema.core.photo.by_hand import Outline, check_outline, outline_of
from noema.core.photo.stages.identify import find_sheets
from noema.core.photo.stages.place import SheetToPlace, Sought, place
from noema.core.progress.states import PhotoState
from noema.core.sheet.layout import Layout
from noema.devices.file_store import FileStore
from noema.formats.layout_json import layout_from_json
from noema.formats.outline_json import outline_from_json, outline_to_json
from noema.formats.photo_file import open_photo, upright_size
from noema.store.decisions import record
from noema.store.photographs import (
    PhotoRow,
    beside_photo,
    photo_of_school,
    photo_to_read,
    set_outline,
    set_photo_state,
)
from noema.store.queue import queue_reading
from noema.store.sheets import SheetRow, layouts_of_sheets, sheet_of_school


@dataclass(frozen=True, kw_only=True)
class ToPlace:
    """A photograph and the outline to be placed over it."""

    photo: PhotoRow
    sheet: SheetRow
    layout: Layout
    outline: Outline  # to begin with
    size_px: tuple[int, int]  # width and height of the photograph, upright


def to_place(
    session: Session, files: FileStore, school_id: int, photograph_id: int, sheet_id: int | None
) -> ToPlace | None:
    """Give what is needed to place an outline; None until it is said whose sheet it is."""
    photo = photo_of_school(session, school_id, photograph_id)
    number = _named(photo, sheet_id)
    if number is None:
        return None
    sheet = sheet_of_school(session, school_id, number)
    layout = _layout(session, sheet)
    picture = open_photo(files.get(photo.sha256))
    size = (picture.rgb.shape[1], picture.rgb.shape[0])
    placed_before = beside_photo(session, photo.id).outline
    if placed_before is not None:
        outline = outline_from_json(placed_before)
    else:
        found = find_sheets(picture).part(photo.part)
        sought = Sought(picture=picture, layout=layout)
        placed = place(SheetToPlace(sought=sought, found=found)).placed if found else None
        outline = outline_of(placed, layout, size)
    return ToPlace(photo=photo, sheet=sheet, layout=layout, outline=outline, size_px=size)


def place_outline(
    session: Session,
    files: FileStore,
    *,
    school_id: int,
    teacher_id: int,
    photograph_id: int,
    sheet_id: int | None,
    outline: Outline,
) -> None:
    """Keep the outline and queue the reading by it; refused, nothing has changed."""
    photo_of_school(session, school_id, photograph_id)
    photo = photo_to_read(session, photograph_id)
    assert photo is not None
    if photo.state is PhotoState.READING:
        raise Refused(
            gettext("This photograph is just being read: wait a moment, then look again.")
        )
    number = _named(photo, sheet_id)
    if number is None:
        raise Refused(gettext("Say first whose sheet this is."))
    sheet = sheet_of_school(session, school_id, number)
    layout = _layout(session, sheet)
    if set(outline.nudges) - {cell.id for cell in layout.cells}:
        raise Refused(gettext("The outline is of another sheet than this: place it once more."))
    check_outline(outline, layout, upright_size(files.get(photo.sha256)))
    set_outline(session, photo.id, outline_to_json(outline))
    record(session, photo.id, teacher_id, "place", None)
    set_photo_state(session, photo.id, PhotoState.READING, sheet_id=sheet.id)
    queue_reading(session, photo.id)


def _named(photo: PhotoRow, sheet_id: int | None) -> int | None:
    """Give the sheet's number: what was read once stays that sheet's."""
    if photo.state is PhotoState.READ:
        return photo.sheet_id
    return sheet_id or photo.sheet_id


def _layout(session: Session, sheet: SheetRow) -> Layout:
    return layout_from_json(layouts_of_sheets(session, [sheet.id])[sheet.id])
