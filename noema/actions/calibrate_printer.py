"""A printer's colours are found out: from photographs of its page beside a card, or by a meter."""

from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy.orm import Session

from noema.core.errors import BadFile, BadPicture, Refused
from noema.core.language import N_, gettext
from noema.core.photo.card import ReferenceCard
from noema.core.photo.hints import hints
from noema.core.photo.knowledge import LEARNED_SOURCE, Knowledge, Known, Srgb
from noema.core.photo.print_colours import combined, look_of_reading, look_of_samples
from noema.core.photo.read import read_photo
from noema.core.photo.reading import Reading
from noema.core.sheet.calibration_sheet import calibration_layout, squares_to_measure
from noema.core.sheet.layout import Triple
from noema.core.sheet.paper import Paper
from noema.devices.colour_meter import ColourMeter, HeldSquare
from noema.devices.file_store import FileStore
from noema.formats.measurements import samples_from_bytes
from noema.formats.photo_file import check_photo, open_photo
from noema.store.photographs import read_photographs
from noema.store.printers import (
    Printer,
    PrinterLook,
    add_card,
    add_look,
    add_printer,
    cards_of_school,
    printer_of_school,
    set_printer,
)
from noema.store.queue import queue_rereading

_PAPER_SIGMA = 0.8
_BY_METER = N_("measured with a colour meter")


@dataclass(frozen=True, kw_only=True)
class KnownPrinter:
    """What is known of a printer's colours by now."""

    source: str  # for the layout: printer calibration, meter or learned
    labs: dict[Srgb, Known]


def code_of_printer(printer_id: int) -> str:
    """Give the code on a printer's calibration page."""
    return f"PRINTER-{printer_id}"


def own_printer(session: Session, school_id: int, name: str) -> int:
    """Add a printer to a school."""
    return add_printer(session, school_id, _named(name, "printer"))


def own_card(
    session: Session, school_id: int, name: str, columns: int, rows: int, data: bytes
) -> int:
    """Add a reference card with the values its maker or a meter gives."""
    labs = tuple(sample.lab for sample in samples_from_bytes(data))
    card = ReferenceCard(name=_named(name, "card"), columns=columns, rows=rows, labs=labs)
    return add_card(session, school_id, card)


def look_at_photo(
    session: Session, files: FileStore, school_id: int, printer_id: int, card_id: int, data: bytes
) -> None:
    """Read a photograph of a printer's page with a card on it or beside it."""
    printer = printer_of_school(session, school_id, printer_id)
    owned = next((one for one in cards_of_school(session, school_id) if one.id == card_id), None)
    if owned is None:
        raise Refused(gettext("Choose the reference card that lies in the photograph."))
    check_photo(data)
    reading = _read(data, printer_id, owned.card)
    if Knowledge.CARD not in reading.knowledge:
        raise BadFile(
            gettext(
                "The card “%(name)s” can't be seen in the photograph: lay it flat "
                "on or beside the page, all of it in the picture.",
                name=owned.card.name,
            )
        )
    labs = look_of_reading(reading.cells, _paper_of(reading))
    how = f"photographed beside {owned.card.name}"
    look = PrinterLook(
        how=how, source="printer calibration", labs=labs, photograph_sha256=files.put(data)
    )
    add_look(session, school_id, printer.id, look)


def look_at_measurements(session: Session, school_id: int, printer_id: int, data: bytes) -> None:
    """Take a meter's file: the page's squares in order."""
    labs = look_of_samples([sample.lab for sample in samples_from_bytes(data)])
    look = PrinterLook(how=_BY_METER, source="meter", labs=labs)
    add_look(session, school_id, printer_id, look)


def look_with_meter(
    session: Session, school_id: int, printer_id: int, meter: ColourMeter, taken: Sequence[Triple]
) -> tuple[Triple, ...]:
    """Measure the next square of the page's first row, blank paper last; with it a look is kept.

    `taken` are the readings so far; gives them with the new one.
    """
    printer = printer_of_school(session, school_id, printer_id)
    wanted = squares_to_measure()
    if len(taken) >= len(wanted):
        raise Refused(gettext("All squares are measured: begin again to measure them once more."))
    held = HeldSquare(printer=printer.name, sent=wanted[len(taken)])
    now = (*taken, meter.read(held))
    if len(now) == len(wanted):
        look = PrinterLook(how=_BY_METER, source="meter", labs=look_of_samples(now))
        add_look(session, school_id, printer_id, look)
    return now


def choose_printer(
    session: Session, school_id: int, assignment_id: int, printer_id: int | None
) -> int:
    """Say which printer lays an assignment's sheets.

    What was photographed of them is read again; gives how many photographs that are.
    """
    if printer_id is not None:
        printer_of_school(session, school_id, printer_id)
    set_printer(session, assignment_id, printer_id)
    numbers = read_photographs(session, school_id, assignment_id)
    for photograph_id in numbers:
        queue_rereading(session, photograph_id)
    return len(numbers)


def known_printer(printer: Printer | None, camera: str | None = None) -> KnownPrinter | None:
    """Put together all looks at a printer, or what was learned of it from its sheets.

    None while nothing is known. For a photograph's camera: what other cameras' photographs tell.
    """
    if printer is None:
        return None
    if not printer.looks:
        if printer.learned is None:
            return None
        learned = printer.learned.print
        labs = learned.labs if camera is None else learned.for_camera(camera)
        return KnownPrinter(source=LEARNED_SOURCE, labs=dict(labs))
    source = "meter" if all(one.source == "meter" for one in printer.looks) else None
    labs = combined([look.labs for look in printer.looks])
    return KnownPrinter(source=source or "printer calibration", labs=labs)


def _read(data: bytes, printer_id: int, card: ReferenceCard) -> Reading:
    picture = open_photo(data)
    said: tuple[str, ...] = ()
    for paper in Paper:
        layout = calibration_layout(paper, code_of_printer(printer_id))
        reading = read_photo(picture, layout, card).reading
        if reading.found:
            return reading
        said = said or hints(reading.flags)
    raise BadPicture(
        gettext(
            "This printer's calibration page wasn't found in the photograph. %(said)s",
            said=" ".join(said[:1]),
        )
    )


def _paper_of(reading: Reading) -> Known:
    assert reading.paper is not None  # of a sheet that was found
    return Known(lab=reading.paper, sigma=_PAPER_SIGMA)


def _named(name: str, what: str) -> str:
    name = " ".join(name.replace("\0", "").split())[:60]
    if not name:
        raise Refused(gettext("Give the %(what)s a name.", what=what))
    return name
