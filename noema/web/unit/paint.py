"""The paint a unit takes: of a student, a table and the class, and what the cupboard lacks."""

from collections import defaultdict
from dataclasses import dataclass

from flask import Blueprint, render_template, request
from flask import Response as PlainResponse

from noema.actions.cupboard import cupboard_of, used_of
from noema.core.errors import NotFound
from noema.core.language import gettext, ngettext, written
from noema.core.planning.amounts import Range, notes_of_amounts, rounded_ml, squeezed, times
from noema.core.planning.factor import LearnedFactor
from noema.core.planning.lay_out import USUAL_TABLE
from noema.core.planning.orders import OrderLine, order_of
from noema.core.planning.paint_uses import (
    PaintUse,
    TubeInMedium,
    labels_of,
    learned_use,
    together_by_paint,
    uses_of,
)
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.formats.order_list import order_csv
from noema.store.classes import ClassRow, class_of_school
from noema.store.cupboard import lesson_paint_of_class
from noema.store.units import unit_of_class
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

paint = Blueprint("paint", __name__)

_TABLES = (2, 3, 4, 5, 6, 8)  # people at one


@dataclass(frozen=True, kw_only=True)
class PaintLine:
    """One tube of a unit."""

    label: str
    medium: str
    each: str  # as a student squeezes it
    table: str  # as it is squeezed for a table
    little: str  # ml, of the class
    usual: str
    much: str
    there: str  # ml in the cupboard now
    order: str  # such as 1 × 120 ml


@dataclass(frozen=True, kw_only=True)
class UnitPaintPage:
    """All tubes of a unit."""

    frame: Frame
    row: ClassRow
    lines: tuple[PaintLine, ...]
    notes: tuple[str, ...]
    learned: str  # how this class paints beside others; empty where nobody said
    a_table: int
    tables: tuple[int, ...]


@paint.get("/classes/<int:class_id>/unit/paint")
def of_unit(class_id: int) -> str:
    """Show what a unit takes."""
    row = class_of_school(db(), me().school_id, class_id)
    a_table = request.args.get("table", USUAL_TABLE, type=int)
    a_table = a_table if a_table in _TABLES else USUAL_TABLE
    uses, use = _uses(row)
    each, whole = together_by_paint(uses, 1), together_by_paint(uses, row.students + 1)
    page = UnitPaintPage(
        frame=frame(Stage.PLAN),
        row=row,
        lines=tuple(
            _line(one, each[one.paint], whole[one.paint], a_table) for one in _order(row, uses)
        ),
        notes=notes_of_amounts(),
        learned=_learned(use),
        a_table=a_table,
        tables=_TABLES,
    )
    return render_template("unit/paint.html", page=page)


@paint.get("/classes/<int:class_id>/unit/order.csv")
def order(class_id: int) -> PlainResponse:
    """Give the order as a spreadsheet."""
    row = class_of_school(db(), me().school_id, class_id)
    uses, _ = _uses(row)
    data = order_csv(_order(row, uses))
    named = {"Content-Disposition": 'attachment; filename="paint-order.csv"'}
    return PlainResponse(data, mimetype="text/csv", headers=named)


def _uses(row: ClassRow) -> tuple[tuple[PaintUse, ...], LearnedFactor]:
    kept = unit_of_class(db(), row.id)
    if kept is None or kept.plan is None:
        raise NotFound(gettext("Nothing is planned for this class yet: give it lessons first."))
    use = learned_use(used_of(lesson_paint_of_class(db(), row.id)))
    return uses_of(kept_plan_from_json(kept.plan), use), use


def _order(row: ClassRow, uses: tuple[PaintUse, ...]) -> tuple[OrderLine, ...]:
    """Say what to order for what is still to be painted, beside what the cupboard has."""
    found, there = cupboard_of(db(), me().school_id), defaultdict[TubeInMedium, float](float)
    for one in found.left:
        there[one.paint] += one.left_ml
    to_come = [use for use in uses if use.at is None or use.at >= found.now]
    needed = together_by_paint(to_come, row.students + 1)
    needed_ml = {use.paint: 0.0 for use in uses}
    needed_ml |= {paint: ml.much for paint, ml in needed.items()}
    return order_of(needed_ml, there, labels_of(uses))


def _learned(use: LearnedFactor) -> str:
    if not use.count:
        return ""
    more = round(100 * (use.factor - 1.0))
    return ngettext(
        "Learned from %(count)s amount this class really used: %(percent)s in 100 %(more)s "
        "than usual.",
        "Learned from %(count)s amounts this class really used: %(percent)s in 100 %(more)s "
        "than usual.",
        use.count,
        percent=abs(more),
        more=gettext("more") if more >= 0 else gettext("less"),
    )


def _line(one: OrderLine, each: Range, whole: Range, a_table: int) -> PaintLine:
    little, usual, much = (
        written(rounded_ml(ml)) for ml in (whole.little, whole.usual, whole.much)
    )
    return PaintLine(
        label=one.label,
        medium=one.paint.medium.value,
        each=squeezed(each.usual),
        table=squeezed(times(each, a_table).usual),
        little=little,
        usual=usual,
        much=much,
        there=written(one.there_ml, ".0f"),
        order=one.said,
    )
