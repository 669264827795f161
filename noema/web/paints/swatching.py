"""Tubes of the school's own: swatches measured, the model bent to them and kept."""

from dataclasses import dataclass

import numpy as np
from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.fit_own_tube import fit_own_tube, remove_own_tube, try_fit
from noema.core.colour.srgb import lab_to_hex
from noema.core.errors import BadPaint, Refused
from noema.core.language import gettext, written
from noema.core.pigments.drying import Binder
from noema.core.pigments.fit import FittedTube, Swatch
from noema.core.pigments.mix import Part, mix_labs
from noema.core.pigments.shelf import TUBES, builtin_tube
from noema.core.pigments.tube import Tube
from noema.devices.colour_meter import HeldSwatch
from noema.formats.measurements import lab_from_text, samples_from_bytes
from noema.store.paints import own_tube
from noema.web.drawings.tube import tint_words
from noema.web.frame.forms import Exactly, SentFile, TextLine, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me, meter
from noema.web.paints.sheet_swatches import Line, SheetTube, swatches_of, tubes_on_sheets
from noema.web.paints.views import TubeRow, tube_rows

swatching = Blueprint("swatching", __name__)

_LINES = 3
_MOST_FILE_BYTES = 1024 * 1024
_USUAL = (("", ""), ("titanium-white", "10"), ("titanium-white", "50"))


@dataclass(frozen=True, kw_only=True)
class Compared:
    """A measured swatch beside what the model makes of it."""

    label: str
    measured: str
    modelled: str
    away: str
    lab: str


@dataclass(frozen=True, kw_only=True)
class NewTubePage:
    """The form, and how well the tube fits so far."""

    frame: Frame
    label: str
    base: str
    lines: tuple[Line, ...]
    has_meter: bool
    sheet_tubes: tuple[SheetTube, ...]  # that could be taken from a photographed sheet
    fitted: FittedTube | None = None
    compared: tuple[Compared, ...] = ()
    rows: tuple[TubeRow, ...] = ()
    sentence: str = ""
    tint_words: tuple[str, ...] = tint_words(Binder.ACRYLIC)
    bases: tuple[Tube, ...] = tuple(TUBES.values())


@dataclass(frozen=True, kw_only=True)
class TubePage:
    """A tube of the school's own."""

    frame: Frame
    fitted: FittedTube
    compared: tuple[Compared, ...]
    rows: tuple[TubeRow, ...]
    sentence: str = ""
    tint_words: tuple[str, ...] = tint_words(Binder.ACRYLIC)


class LinesForm(Form):
    """The swatches as they are written down, a number behind each name."""


for _n in range(_LINES):
    for _name in ("with", "parts", "lab"):
        setattr(LinesForm, f"{_name}_{_n}", TextLine())


class SwatchForm(Form):
    """A tube, its swatches, and what is to be done with them."""

    label = Exactly()
    base = Exactly()
    do = Exactly()
    file = SentFile(_MOST_FILE_BYTES)


@swatching.get("/paints/tubes/new")
def new_tube() -> str:
    """Show the form with the usual three swatches, or those of a photographed sheet."""
    ref = request.args.get("from")
    if ref is None:
        lines = tuple(Line(with_name=name, parts=parts, lab="") for name, parts in _USUAL)
        return render_template("paints/swatch.html", page=_page("", "scarlet", lines))
    taken = swatches_of(ref)
    bare = [Line(with_name="", parts="", lab="")] * (_LINES - len(taken.lines))
    said = gettext(
        "Read from the photograph, each within about %(sigma)s CIEDE2000: "
        "a meter is surer. Name the tube and try the fit.",
        sigma=written(taken.sigma, ".1f"),
    )
    page = _page("", taken.base, (*taken.lines, *bare), said)
    return render_template("paints/swatch.html", page=page)


@swatching.post("/paints/tubes/new")
def swatch_tube() -> Response | str | tuple[str, int]:
    """Read the meter or a file, try the fit, or keep the tube."""
    given = read_form(SwatchForm)
    label, base, do = given.label.data, given.base.data, given.do.data or "fit"
    lines = _lines()
    try:
        builtin_tube(base)
        lines = _filled(lines, given, do)
        if do == "keep":
            tube = fit_own_tube(db(), me().school_id, base, label, _swatches(lines)).tube
            return redirect(url_for("swatching.tube", tube_name=tube.name))
        page = _page(label, base, lines)
        if do == "fit":
            page = _tried(label, base, lines)
    except Refused as refusal:
        page = _page(label, base, lines, str(refusal))
        return render_template("paints/swatch.html", page=page), status_of(refusal)
    return render_template("paints/swatch.html", page=page)


@swatching.get("/paints/tubes/<tube_name>")
def tube(tube_name: str) -> str:
    """Show a tube of the school's own."""
    return render_template("paints/tube.html", page=_tube_page(tube_name))


@swatching.post("/paints/tubes/<tube_name>/remove")
def remove(tube_name: str) -> Response | tuple[str, int]:
    """Take a tube off the shelf."""
    page = _tube_page(tube_name)
    try:
        remove_own_tube(db(), me().school_id, tube_name)
    except BadPaint as refusal:
        page = _tube_page(tube_name, str(refusal))
        return render_template("paints/tube.html", page=page), status_of(refusal)
    return redirect(url_for("paints.shelf"))


def _lines() -> tuple[Line, ...]:
    form = read_form(LinesForm)
    return tuple(
        Line(
            with_name=form[f"with_{n}"].data,
            parts=form[f"parts_{n}"].data,
            lab=form[f"lab_{n}"].data,
        )
        for n in range(_LINES)
    )


def _filled(lines: tuple[Line, ...], given: SwatchForm, do: str) -> tuple[Line, ...]:
    """Fill lines from the meter or a measurement file where that was asked for."""
    if do == "file":
        return _from_file(lines, given.file)
    if not do.startswith("read-"):
        return lines
    instrument = meter()
    if instrument is None:
        raise BadPaint(
            gettext("No meter is connected: type the numbers or send a measurement file.")
        )
    place = int(do.removeprefix("read-")) if do.removeprefix("read-").isdigit() else _LINES
    if place >= _LINES:
        raise BadPaint(gettext("There is no such line: read one of those shown."))
    held = HeldSwatch(
        tube=builtin_tube(given.base.data),
        label=given.label.data,
        mixed_with=_mixed_with(lines[place]),
    )
    lab = instrument.read(held)
    return tuple(_with_lab(line, lab) if n == place else line for n, line in enumerate(lines))


def _from_file(lines: tuple[Line, ...], file: SentFile) -> tuple[Line, ...]:
    if not file.data:
        raise BadPaint(
            gettext("Choose a measurement file first: CGATS.17 text or CSV with Lab values.")
        )
    samples = samples_from_bytes(file.bytes)[:_LINES]
    labs = [sample.lab for sample in samples]
    return tuple(
        _with_lab(line, labs[n]) if n < len(labs) else line for n, line in enumerate(lines)
    )


def _with_lab(line: Line, lab: tuple[float, float, float]) -> Line:
    return Line(
        with_name=line.with_name, parts=line.parts, lab=" ".join(f"{number:g}" for number in lab)
    )


def _mixed_with(line: Line) -> tuple[Part, ...]:
    if not line.with_name:
        return ()
    try:
        parts = float(line.parts.replace(",", "."))
    except ValueError as wrong:
        raise BadPaint(
            gettext("“%(parts)s” isn't a number of parts: say how many to one.", parts=line.parts)
        ) from wrong
    return (Part(tube=builtin_tube(line.with_name), amount=parts),)


def _swatches(lines: tuple[Line, ...]) -> tuple[Swatch, ...]:
    return tuple(
        Swatch(
            label=line.label, mixed_with=_mixed_with(line), lab=lab_from_text(line.lab, line.label)
        )
        for line in lines
        if line.lab
    )


def _page(label: str, base: str, lines: tuple[Line, ...], sentence: str = "") -> NewTubePage:
    return NewTubePage(
        frame=frame(Stage.PLAN),
        label=label,
        base=base,
        lines=lines,
        has_meter=meter() is not None,
        sheet_tubes=tubes_on_sheets(),
        sentence=sentence,
    )


def _tried(label: str, base: str, lines: tuple[Line, ...]) -> NewTubePage:
    swatches = _swatches(lines)
    fitted = try_fit(base, label, swatches)
    return NewTubePage(
        frame=frame(Stage.PLAN),
        label=label,
        base=base,
        lines=lines,
        has_meter=meter() is not None,
        sheet_tubes=tubes_on_sheets(),
        fitted=fitted,
        compared=_compared(fitted, swatches),
        rows=tube_rows((fitted.tube, builtin_tube(base)), Binder.ACRYLIC),
    )


def _tube_page(tube_name: str, sentence: str = "") -> TubePage:
    own = own_tube(db(), me().school_id, tube_name)
    return TubePage(
        frame=frame(Stage.PLAN),
        fitted=own.fitted,
        compared=_compared(own.fitted, own.swatches),
        rows=tube_rows((own.fitted.tube, builtin_tube(own.fitted.base)), Binder.ACRYLIC),
        sentence=sentence,
    )


def _compared(fitted: FittedTube, swatches: tuple[Swatch, ...]) -> tuple[Compared, ...]:
    modelled = [
        mix_labs(
            [fitted.tube, *(part.tube for part in swatch.mixed_with)],
            [1.0, *(part.amount for part in swatch.mixed_with)],
        )
        for swatch in swatches
    ]
    fills = lab_to_hex(np.array([*(swatch.lab for swatch in swatches), *modelled]))
    half = len(swatches)
    return tuple(
        Compared(
            label=swatch.label.replace("-", " "),
            measured=fills[n],
            modelled=fills[half + n],
            away=written(miss, ".1f"),
            lab=" ".join(f"{number:g}" for number in swatch.lab),
        )
        for n, (swatch, miss) in enumerate(zip(swatches, fitted.misses, strict=True))
    )
