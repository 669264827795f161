"""The cupboard: tubes and bottles, what runs out when, the order, what could stand in."""

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import date

from flask import Blueprint, Response, redirect, render_template, url_for
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions.cupboard import Cupboard, count_anew, cupboard_of, put_in, set_lead_days
from noema.actions.stand_in import neighbours_of
from noema.core.errors import Refused
from noema.core.exercises.media import Medium
from noema.core.language import N_, gettext, written
from noema.core.planning.amounts import rounded_ml
from noema.core.planning.cupboard import Container, StockLine, order_by, stock_lines
from noema.core.planning.instead import Neighbour
from noema.core.planning.orders import SIZES_ML, OrderLine, order_of
from noema.core.planning.paint_uses import TubeInMedium
from noema.formats.days import day
from noema.formats.order_list import order_csv, order_pdf
from noema.store.cupboard import drop_container, lead_days_of
from noema.store.paints import all_tubes
from noema.web.frame.clock import today
from noema.web.frame.forms import Number, OneOf, TextLine, Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me

cupboard = Blueprint("cupboard", __name__)


@dataclass(frozen=True, kw_only=True)
class PaintInStock:
    """One paint of the cupboard."""

    paint: TubeInMedium
    label: str
    containers: tuple[Container, ...]  # as they should be now
    left: str  # ml
    to_come: str  # ml, little to much
    out: str  # when it runs out, in words; empty where it doesn't
    lacks: bool
    order_by: date | None


@dataclass(frozen=True, kw_only=True)
class CupboardPage:
    """The cupboard."""

    frame: Frame
    paints: tuple[PaintInStock, ...]
    order: tuple[OrderLine, ...]  # what is to be ordered
    lead_days: int
    tubes: tuple[tuple[str, str], ...]
    media: tuple[Medium, ...]
    sizes: tuple[int, ...]
    sentence: str = ""


@dataclass(frozen=True, kw_only=True)
class StandInPage:
    """What could stand in for a paint."""

    frame: Frame
    label: str
    medium: str
    found: tuple[Neighbour, ...]


class PutInForm(Form):
    """Tubes or bottles that came."""

    tube = TextLine()
    medium = OneOf(Medium, N_("Choose a medium."), usual=Medium.ACRYLIC)
    size = Number(what=N_("the size"))
    count = Whole()


class CountForm(Form):
    """What is left."""

    left = Number(what=N_("what is left"))


class LeadForm(Form):
    """How long paint takes to come."""

    days = Whole()


@cupboard.get("/school/cupboard")
def of_school() -> str:
    """Show the cupboard."""
    return render_template("cupboard/cupboard.html", page=_page())


@cupboard.post("/school/cupboard")
def put() -> AnyResponse | tuple[str, int]:
    """Put tubes or bottles in."""
    given = read_form(PutInForm)
    try:
        put_in(
            db(),
            me().school_id,
            given.tube.data,
            given.medium.data,
            float(given.size.data or 0.0),
            given.count.data or 0,
        )
    except Refused as refusal:
        return _refused(refusal)
    return _back()


@cupboard.post("/school/cupboard/<int:container_id>")
def count(container_id: int) -> AnyResponse | tuple[str, int]:
    """Say what is left in one."""
    given = read_form(CountForm)
    try:
        left = -1.0 if given.left.data is None else float(given.left.data)
        count_anew(db(), me().school_id, container_id, left)
    except Refused as refusal:
        return _refused(refusal)
    return _back()


@cupboard.post("/school/cupboard/<int:container_id>/gone")
def take_out(container_id: int) -> AnyResponse:
    """Take one out."""
    drop_container(db(), me().school_id, container_id)
    return _back()


@cupboard.post("/school/cupboard/lead")
def lead() -> AnyResponse | tuple[str, int]:
    """Say how many days paint takes to come."""
    try:
        days = read_form(LeadForm).days.data
        set_lead_days(db(), me().school_id, -1 if days is None else days)
    except Refused as refusal:
        return _refused(refusal)
    return _back()


@cupboard.get("/school/cupboard/order.csv")
def order_sheet() -> Response:
    """Give the order as a spreadsheet."""
    lines, by = _whole_order()
    named = {"Content-Disposition": 'attachment; filename="paint-order.csv"'}
    return Response(order_csv(lines, by), mimetype="text/csv", headers=named)


@cupboard.get("/school/cupboard/order.pdf")
def order_paper() -> Response:
    """Give the order on paper."""
    lines, by = _whole_order()
    return Response(order_pdf(lines, me().school_name, today(), by), mimetype="application/pdf")


@cupboard.get("/school/cupboard/instead/<medium>/<tube>")
def stand_in(medium: str, tube: str) -> str:
    """Show what could stand in for a paint that lacks."""
    label, found = neighbours_of(db(), me().school_id, tube, medium)
    page = StandInPage(frame=frame(Stage.PLAN), label=label, medium=medium, found=found)
    return render_template("cupboard/stand_in.html", page=page)


def _back() -> AnyResponse:
    return redirect(url_for("cupboard.of_school"), 303)


def _refused(refusal: Refused) -> tuple[str, int]:
    page = _page(str(refusal))
    return render_template("cupboard/cupboard.html", page=page), status_of(refusal)


def _whole_order() -> tuple[tuple[OrderLine, ...], dict[TubeInMedium, date]]:
    found = cupboard_of(db(), me().school_id)
    lines = stock_lines(found.containers, found.takes, found.now)
    return _order(lines, found), _order_days(lines)


def _order(lines: Iterable[StockLine], found: Cupboard) -> tuple[OrderLine, ...]:
    some = tuple(lines)
    needed = {one.paint: one.to_come.much for one in some}
    return order_of(needed, {one.paint: one.left_ml for one in some}, found.labels)


def _order_days(lines: Iterable[StockLine]) -> dict[TubeInMedium, date]:
    days = lead_days_of(db(), me().school_id)
    return {one.paint: order_by(one.maybe_out, days) for one in lines if one.maybe_out is not None}


def _page(sentence: str = "") -> CupboardPage:
    found = cupboard_of(db(), me().school_id)
    lines = stock_lines(found.containers, found.takes, found.now)
    by, there = _order_days(lines), defaultdict[TubeInMedium, list[Container]](list)
    for one in found.left:
        there[one.paint].append(one)
    tubes = all_tubes(db(), me().school_id)
    return CupboardPage(
        frame=frame(Stage.PLAN),
        paints=tuple(
            _in_stock(line, found.labels[line.paint], there[line.paint], by.get(line.paint))
            for line in lines
        ),
        order=tuple(one for one in _order(lines, found) if one.containers),
        lead_days=lead_days_of(db(), me().school_id),
        tubes=tuple(sorted(((name, tube.label) for name, tube in tubes.items()), key=_label)),
        media=tuple(medium for medium in Medium if not medium.is_dry),
        sizes=SIZES_ML,
        sentence=sentence,
    )


def _label(one: tuple[str, str]) -> str:
    return one[1].casefold()


def _in_stock(
    line: StockLine, label: str, containers: Iterable[Container], by: date | None
) -> PaintInStock:
    return PaintInStock(
        paint=line.paint,
        label=label,
        containers=tuple(sorted(containers, key=lambda one: one.order)),
        left=written(line.left_ml, ".0f"),
        to_come=_to_come(line),
        out=_out(line),
        lacks=line.usually_out is not None,
        order_by=by,
    )


def _to_come(line: StockLine) -> str:
    if not line.to_come.much:
        return gettext("nothing")
    little, much = (written(rounded_ml(ml)) for ml in (line.to_come.little, line.to_come.much))
    return gettext("%(little)s to %(much)s ml", little=little, much=much)


def _out(line: StockLine) -> str:
    if line.usually_out is not None and not line.usually_out.class_name:
        return gettext("runs out on %(day)s", day=day(line.usually_out.at.date()))
    if line.usually_out is not None:
        return gettext(
            "runs out on %(day)s, with %(name)s",
            day=day(line.usually_out.at.date()),
            name=line.usually_out.class_name,
        )
    if line.maybe_out is not None:
        return gettext("may run out on %(day)s", day=day(line.maybe_out.at.date()))
    return ""
