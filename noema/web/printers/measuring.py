"""Measuring a printer's page with the colour meter, square by square."""

from dataclasses import dataclass
from math import isfinite

from flask import Blueprint, redirect, render_template, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.calibrate_printer import look_with_meter
from noema.core.colour.srgb import lab_to_hex
from noema.core.errors import MeterAway, Refused
from noema.core.language import N_, gettext
from noema.core.sheet.calibration_sheet import squares_to_measure
from noema.core.sheet.layout import Triple
from noema.store.printers import Printer, printer_of_school
from noema.web.frame.forms import Exactly, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me, meter

measuring = Blueprint("measuring", __name__)

_SPOILED = N_("The readings so far were spoiled on the way: begin again.")


@dataclass(frozen=True, kw_only=True)
class Square:
    """One square of the row."""

    sent_fill: str
    laid_fill: str | None  # once it was measured
    lab: str


@dataclass(frozen=True, kw_only=True)
class MeasuringPage:
    """How far the row is measured."""

    frame: Frame
    printer: Printer
    squares: tuple[Square, ...]
    done: int
    taken: str  # the readings so far, as the form carries them
    before: str  # and without the last
    sentence: str = ""


class ReadingsForm(Form):
    """The readings so far, which travel along, and whether the last one goes."""

    taken = Exactly()
    back = Exactly()


@measuring.get("/printers/<int:printer_id>/meter")
def page(printer_id: int) -> str:
    """Show which square comes first."""
    return render_template("printers/measuring.html", page=_page(printer_id, ()))


@measuring.post("/printers/<int:printer_id>/meter")
def measure(printer_id: int) -> Response | str | tuple[str, int]:
    """Measure the next square, or go back by one; the readings so far travel in the form."""
    given = read_form(ReadingsForm)
    taken = _taken(given.taken.data)
    if given.back.raw_data:
        return render_template("printers/measuring.html", page=_page(printer_id, taken))
    instrument = meter()
    try:
        if instrument is None:
            raise MeterAway(gettext("No meter is connected: send its file instead."))
        now = look_with_meter(db(), me().school_id, printer_id, instrument, taken)
    except Refused as refusal:
        shown = _page(printer_id, taken, str(refusal))
        return render_template("printers/measuring.html", page=shown), status_of(refusal)
    if len(now) == len(squares_to_measure()):
        return redirect(url_for("printers.printer", printer_id=printer_id), 303)
    return render_template("printers/measuring.html", page=_page(printer_id, now))


def _page(printer_id: int, taken: tuple[Triple, ...], sentence: str = "") -> MeasuringPage:
    wanted = squares_to_measure()
    laid = lab_to_hex([*taken]) if taken else []
    squares = tuple(
        Square(
            sent_fill=f"#{red:02x}{green:02x}{blue:02x}",
            laid_fill=laid[n] if n < len(taken) else None,
            lab=" ".join(f"{part:.1f}" for part in taken[n]) if n < len(taken) else "",
        )
        for n, (red, green, blue) in enumerate(wanted)
    )
    return MeasuringPage(
        frame=frame(Stage.PRINT),
        printer=printer_of_school(db(), me().school_id, printer_id),
        squares=squares,
        done=len(taken),
        taken=_said(taken),
        before=_said(taken[:-1]),
        sentence=sentence,
    )


def _said(taken: tuple[Triple, ...]) -> str:
    return " ".join(",".join(f"{part:g}" for part in lab) for lab in taken)


def _taken(text: str) -> tuple[Triple, ...]:
    try:
        labs = [tuple(float(part) for part in one.split(",")) for one in text.split()]
        taken = tuple((lightness, a, b) for lightness, a, b in labs)
    except ValueError as wrong:
        raise Refused(gettext(_SPOILED)) from wrong
    if len(taken) > len(squares_to_measure()) or not all(
        isfinite(part) for lab in taken for part in lab
    ):
        raise Refused(gettext(_SPOILED))
    return taken
