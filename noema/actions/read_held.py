"""Paint is photographed with a strip beside it, or outlined by hand, and read by a job."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from noema.actions.calibrate_printer import known_printer
from noema.core.errors import Refused
from noema.core.language import N_, gettext
from noema.core.photo.by_hand import Outline, check_outline, outline_of, read_by_hand
from noema.core.photo.hints import hints
from noema.core.photo.knowledge import with_known_print
from noema.core.photo.picture import Picture
from noema.core.photo.read import ReadSheet, read_photo
from noema.core.photo.reading import CellFlag, CellReading
from noema.core.sheet.layout import Layout
from noema.core.sheet.strip import strip_layout
from noema.devices.file_store import FileStore
from noema.formats.outline_json import outline_from_json, outline_to_json
from noema.formats.photo_file import check_photo, open_photo, upright_size
from noema.formats.private_parts import without_private
from noema.formats.reading_json import reading_from_json, reading_to_json
from noema.store.base import Json
from noema.store.pictures import KeptHeld, PictureOwner, add_held, held_by_id, keep_held
from noema.store.printers import latest_printer_of_class
from noema.store.queue import queue_held

_NOTHING_READ = N_("Noema stumbled over this picture: it is kept; photograph it again.")
_BARE = N_("The window looks like bare paper: lay the strip so that paint fills it.")


@dataclass(frozen=True, kw_only=True)
class HeldPaint:
    """What was read of paint."""

    cell: CellReading | None
    said: str  # why nothing was read, or what makes it doubtful; may be empty


def hold(
    session: Session, files: FileStore, owner: PictureOwner, spot_id: int | None, data: bytes
) -> int:
    """Keep and queue a photograph of paint; gives its number."""
    check_photo(data)
    sha256 = files.put(without_private(data))
    held_id = add_held(session, owner, spot_id, sha256)
    queue_held(session, held_id)
    return held_id


def held_layout(session: Session, class_id: int) -> Layout:
    """Give the strip as the class's printer lays it, as far as that is known."""
    layout = strip_layout()
    printer = known_printer(latest_printer_of_class(session, class_id))
    return layout if printer is None else with_known_print(layout, printer.labs, printer.source)


def outline_to_begin(files: FileStore, held: KeptHeld) -> tuple[Outline, tuple[int, int]]:
    """Give an outline to be placed over paint, and the photograph's width and height."""
    size = upright_size(_picture_of(files, held))
    if held.outline is not None:
        return outline_from_json(held.outline), size
    return outline_of(None, strip_layout(), size), size


def outline(session: Session, files: FileStore, held: KeptHeld, placed: Outline) -> None:
    """Have paint read as somebody outlined it; refused, nothing has changed."""
    check_outline(placed, strip_layout(), upright_size(_picture_of(files, held)))
    keep_held(session, held.id, reading=None, outline=outline_to_json(placed))
    queue_held(session, held.id)


def read_held(session: Session, files: FileStore, held_id: int) -> None:
    """Read a photograph of paint; what happened is kept with it."""
    held = held_by_id(session, held_id)
    if held is None or held.sha256 is None or held.reading is not None:
        return
    try:
        picture = open_photo(files.get(held.sha256))
        read = _read(session, held, picture)
    except Refused as wrong:
        keep_held(session, held.id, reading=_kept(str(wrong)), outline=held.outline)
        return
    said = " ".join(hints(read.reading.flags)[:1])
    body = reading_to_json(read.reading, None) if read.reading.found else None
    keep_held(session, held.id, reading=_kept(said, body), outline=held.outline)


def give_up_held(session: Session, held_id: int) -> None:
    """Say that paint couldn't be read for a reason that is Noema's own."""
    held = held_by_id(session, held_id)
    if held is not None and held.reading is None:
        keep_held(session, held_id, reading=_kept(_NOTHING_READ), outline=held.outline)


def paint_in(held: KeptHeld) -> HeldPaint | None:
    """Give what was read of paint; None while it waits to be read."""
    if held.reading is None:
        return None
    said, body = str(held.reading["said"]), held.reading["body"]
    if body is None:
        return HeldPaint(cell=None, said=gettext(said))
    (cell,) = reading_from_json(body).cells
    if CellFlag.UNPAINTED in cell.flags:
        return HeldPaint(cell=None, said=gettext(_BARE))
    return HeldPaint(cell=cell, said=gettext(said) if said else "")


def _read(session: Session, held: KeptHeld, picture: Picture) -> ReadSheet:
    if held.outline is not None:
        return read_by_hand(picture, outline_from_json(held.outline), strip_layout())
    return read_photo(picture, held_layout(session, held.class_id))


def _picture_of(files: FileStore, held: KeptHeld) -> bytes:
    if held.sha256 is None:
        raise Refused(gettext("This picture was removed for good: its numbers are kept."))
    return files.get(held.sha256)


def _kept(said: str, body: Json | None = None) -> Json:
    return {"said": said, "body": body}
