"""The paint a unit takes, and what to order for it."""

import csv
from dataclasses import dataclass
from io import StringIO

from flask import Blueprint, Response, render_template

from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.core.planning.amounts import Amounts, rounded_ml, squeezed
from noema.core.planning.kept import paint_of_unit
from noema.core.planning.orders import OrderLine, order_of
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.formats.spreadsheet import plain_text
from noema.store.classes import ClassRow, class_of_school
from noema.store.units import unit_of_class
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

paint = Blueprint("paint", __name__)


@dataclass(frozen=True, kw_only=True)
class PaintLine:
    """One tube of a unit."""

    label: str
    each: str  # as a student squeezes it
    little: str  # ml, of the class
    usual: str
    much: str
    order: str  # such as 1 × 120 ml


@dataclass(frozen=True, kw_only=True)
class UnitPaintPage:
    """All tubes of a unit."""

    frame: Frame
    row: ClassRow
    lines: tuple[PaintLine, ...]
    notes: tuple[str, ...]


@paint.get("/classes/<int:class_id>/unit/paint")
def of_unit(class_id: int) -> str:
    """Show what a unit takes."""
    row = class_of_school(db(), me().school_id, class_id)
    amounts = _amounts(row)
    page = UnitPaintPage(
        frame=frame(Stage.PLAN),
        row=row,
        lines=tuple(_line(one, amounts) for one in order_of(amounts, {})),
        notes=amounts.notes,
    )
    return render_template("unit/paint.html", page=page)


@paint.get("/classes/<int:class_id>/unit/order.csv")
def order(class_id: int) -> Response:
    """Give the order as a spreadsheet."""
    row = class_of_school(db(), me().school_id, class_id)
    out = StringIO()
    table = csv.writer(out)
    table.writerow(["tube", "needed_ml", "ordered_ml", "containers"])
    for one in order_of(_amounts(row), {}):
        needed = f"{rounded_ml(one.needed_ml):g}"
        table.writerow([plain_text(one.label), needed, one.ordered_ml, _containers(one)])
    named = {"Content-Disposition": 'attachment; filename="paint-order.csv"'}
    return Response(out.getvalue(), mimetype="text/csv", headers=named)


def _amounts(row: ClassRow) -> Amounts:
    kept = unit_of_class(db(), row.id)
    if kept is None or kept.plan is None:
        raise NotFound(gettext("Nothing is planned for this class yet: give it lessons first."))
    return paint_of_unit(kept_plan_from_json(kept.plan), row.students)


def _line(one: OrderLine, amounts: Amounts) -> PaintLine:
    whole = amounts.tubes[one.tube]
    little, usual, much = (f"{rounded_ml(ml):g}" for ml in (whole.little, whole.usual, whole.much))
    return PaintLine(
        label=one.label,
        each=squeezed(amounts.per_person[one.tube].usual),
        little=little,
        usual=usual,
        much=much,
        order=_containers(one),
    )


def _containers(one: OrderLine) -> str:
    counts = {size: one.containers.count(size) for size in one.containers}
    return ", ".join(f"{count} × {size} ml" for size, count in counts.items())
