"""Printers and reference cards: what a printer really lays, found out once."""

from dataclasses import dataclass

import numpy as np
from flask import Blueprint, Response, redirect, render_template, url_for
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions.calibrate_printer import (
    choose_printer,
    code_of_printer,
    known_printer,
    look_at_measurements,
    look_at_photo,
    own_card,
    own_printer,
)
from noema.core.colour.difference import ciede2000
from noema.core.colour.srgb import lab_to_hex, linear_to_lab, srgb_to_linear
from noema.core.errors import BadFile, Refused
from noema.core.language import gettext, ngettext, written
from noema.core.sheet.calibration_sheet import PAPER, calibration_layout, draw_calibration
from noema.core.sheet.paper import Paper
from noema.formats.days import day_of_year
from noema.formats.sheet_pdf import sheets_pdf
from noema.store.assignments import assignment_of_school
from noema.store.printers import (
    OwnedCard,
    Printer,
    cards_of_school,
    forget_looks,
    printer_of_school,
    printers_of_school,
)
from noema.web.frame.forms import SentFile, SentFiles, TextLine, Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, files, me, meter

printers = Blueprint("printers", __name__)

_MOST_PHOTOS = 3
_MOST_FILE_BYTES = 1024 * 1024


@dataclass(frozen=True, kw_only=True)
class PrintersPage:
    """All printers and cards."""

    frame: Frame
    printers: tuple[Printer, ...]
    cards: tuple[OwnedCard, ...]
    sentence: str = ""


@dataclass(frozen=True, kw_only=True)
class Laid:
    """One colour as it was sent and as this printer lays it."""

    words: str
    sent_fill: str
    laid_fill: str
    lab: str
    sigma: str
    away: str


@dataclass(frozen=True, kw_only=True)
class PrinterPage:
    """One printer and its calibration."""

    frame: Frame
    printer: Printer
    cards: tuple[OwnedCard, ...]
    laid: tuple[Laid, ...]
    learned: str  # where what it lays was learned from photographs: from which
    sentence: str = ""
    has_meter: bool = False
    papers: tuple[Paper, ...] = tuple(Paper)
    most: int = _MOST_PHOTOS


class PrinterForm(Form):
    """A printer that is added."""

    name_ = TextLine(name="name")


class CardForm(Form):
    """A reference card and the file of its values."""

    name_ = TextLine(name="name")
    columns = Whole()
    rows = Whole()
    values = SentFile(_MOST_FILE_BYTES)


class LooksForm(Form):
    """Photographs of a calibration page beside a card."""

    photos = SentFiles()
    card = Whole()


class MeasuredForm(Form):
    """A file a colour meter wrote."""

    file = SentFile(_MOST_FILE_BYTES)


class ChosenPrinterForm(Form):
    """The printer that lays an assignment's sheets; none: it isn't known."""

    printer = Whole()


@printers.get("/printers")
def overview() -> str:
    """Show printers and cards."""
    return render_template("printers/overview.html", page=_overview())


@printers.post("/printers")
def add() -> AnyResponse | tuple[str, int]:
    """Add a printer."""
    try:
        number = own_printer(db(), me().school_id, read_form(PrinterForm).name_.data)
    except Refused as refusal:
        page = _overview(str(refusal))
        return render_template("printers/overview.html", page=page), status_of(refusal)
    return redirect(url_for("printers.printer", printer_id=number), 303)


@printers.post("/printers/cards")
def add_card() -> AnyResponse | tuple[str, int]:
    """Add a reference card with its values."""
    try:
        given = read_form(CardForm)
        own_card(
            db(),
            me().school_id,
            given.name_.data,
            given.columns.data or 0,
            given.rows.data or 0,
            _filled(given.values),
        )
    except Refused as refusal:
        page = _overview(str(refusal))
        return render_template("printers/overview.html", page=page), status_of(refusal)
    return redirect(url_for("printers.overview"), 303)


@printers.get("/printers/<int:printer_id>")
def printer(printer_id: int) -> str:
    """Show a printer, how it was looked at, and what it lays."""
    return render_template("printers/printer.html", page=_page(printer_id))


@printers.get("/printers/<int:printer_id>/page-<paper>.pdf")
def calibration_pdf(printer_id: int, paper: str) -> Response:
    """Give the calibration page."""
    named = printer_of_school(db(), me().school_id, printer_id).name
    chosen = Paper.A4 if paper == Paper.A4.value else Paper.LETTER
    layout = calibration_layout(chosen, code_of_printer(printer_id))
    data = sheets_pdf(
        [draw_calibration(layout, named)], gettext("Calibration of %(named)s", named=named)
    )
    return Response(data, mimetype="application/pdf")


@printers.post("/printers/<int:printer_id>/photographs")
def photographs(printer_id: int) -> AnyResponse | tuple[str, int]:
    """Take one to three photographs of the page beside a card."""
    given = read_form(LooksForm)
    photos, card_id = given.photos.files, given.card.data or 0
    try:
        if not 1 <= len(photos) <= _MOST_PHOTOS:
            raise BadFile(
                gettext(
                    "Choose one to %(most_photos)s photographs of the calibration page.",
                    most_photos=_MOST_PHOTOS,
                )
            )
        for file in photos:
            look_at_photo(db(), files(), me().school_id, printer_id, card_id, file.read())
    except Refused as refusal:
        return _refused(printer_id, refusal)
    return redirect(url_for("printers.printer", printer_id=printer_id), 303)


@printers.post("/printers/<int:printer_id>/measurements")
def measurements(printer_id: int) -> AnyResponse | tuple[str, int]:
    """Take a meter's file."""
    try:
        look_at_measurements(
            db(), me().school_id, printer_id, _filled(read_form(MeasuredForm).file)
        )
    except Refused as refusal:
        return _refused(printer_id, refusal)
    return redirect(url_for("printers.printer", printer_id=printer_id), 303)


@printers.post("/printers/<int:printer_id>/anew")
def anew(printer_id: int) -> AnyResponse:
    """Begin the calibration anew, after a change of ink or paper."""
    forget_looks(db(), me().school_id, printer_id)
    return redirect(url_for("printers.printer", printer_id=printer_id), 303)


@printers.post("/assignments/<int:assignment_id>/printer")
def choose(assignment_id: int) -> AnyResponse:
    """Say which printer lays an assignment's sheets."""
    assignment_of_school(db(), me().school_id, assignment_id)
    chosen = read_form(ChosenPrinterForm).printer.data or None
    if choose_printer(db(), me().school_id, assignment_id, chosen):
        return redirect(url_for("again.page"), 303)
    return redirect(url_for("printing.sheets", assignment_id=assignment_id), 303)


def _refused(printer_id: int, refusal: Refused) -> tuple[str, int]:
    db().rollback()
    page = _page(printer_id, str(refusal))
    return render_template("printers/printer.html", page=page), status_of(refusal)


def _filled(given: SentFile) -> bytes:
    if not given.data:
        raise BadFile(
            gettext("Choose a file of measured colours first: CGATS.17 text or CSV with Lab.")
        )
    return given.bytes[:_MOST_FILE_BYTES]


def _overview(sentence: str = "") -> PrintersPage:
    return PrintersPage(
        frame=frame(Stage.PRINT),
        printers=printers_of_school(db(), me().school_id),
        cards=cards_of_school(db(), me().school_id),
        sentence=sentence,
    )


def _page(printer_id: int, sentence: str = "") -> PrinterPage:
    found = printer_of_school(db(), me().school_id, printer_id)
    return PrinterPage(
        frame=frame(Stage.PRINT),
        printer=found,
        cards=cards_of_school(db(), me().school_id),
        laid=_laid(found),
        learned=_learned_from(found),
        has_meter=meter() is not None,
        sentence=sentence,
    )


def _learned_from(found: Printer) -> str:
    if found.looks or found.learned is None:
        return ""
    learned = found.learned.print
    said = ngettext(
        "Learned from %(count)s photograph of its sheets since %(day)s (cameras: %(cameras)s).",
        "Learned from %(count)s photographs of its sheets since %(day)s (cameras: %(cameras)s).",
        learned.photographs,
        day=day_of_year(learned.since),
        cameras=learned.cameras,
    )
    if learned.cameras > 1:
        return said
    alone = gettext("One camera can't be told from the printer: another phone's pictures help.")
    return f"{said} {alone}"


def _laid(found: Printer) -> tuple[Laid, ...]:
    known = known_printer(found)
    if known is None:
        return ()
    sent = [linear_to_lab(srgb_to_linear([part / 255.0 for part in one])) for one in known.labs]
    labs = [one.lab for one in known.labs.values()]
    fills = lab_to_hex(np.array([*sent, *labs]))
    return tuple(
        Laid(
            words=gettext("blank paper") if rgb == PAPER else " ".join(str(part) for part in rgb),
            sent_fill=fills[n],
            laid_fill=fills[len(sent) + n],
            lab=" ".join(f"{part:.1f}" for part in one.lab),
            sigma=written(one.sigma, ".1f"),
            away=written(float(ciede2000(sent[n], one.lab)), ".1f"),
        )
        for n, (rgb, one) in enumerate(known.labs.items())
    )
