"""Printing worksheets: one PDF for a class, or single sheets."""

import json
from dataclasses import dataclass

from flask import Blueprint, Response, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as AnyResponse

from noema.actions import print_sheets as actions
from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.formats.sheet_svg import sheet_svg
from noema.store.assignments import (
    AssignmentRow,
    assignment_of_school,
    assignments_found,
    class_goes_on,
    still_given,
)
from noema.store.printers import Printer, printer_of_assignment, printers_of_school
from noema.store.sheets import (
    SheetRow,
    layouts_of_sheets,
    sheet_of_school,
    sheets_of_assignment,
)
from noema.web.frame.leaf import LeafPlace, leaf_place, wanted_leaf
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.printing.sizes import drawings_pdf

printing = Blueprint("printing", __name__)

_MOST_SHOWN = 40


@dataclass(frozen=True, kw_only=True)
class PrintPage:
    """Assignments that stand, of classes that go on."""

    frame: Frame
    items: tuple[AssignmentRow, ...]
    leaf: LeafPlace


@dataclass(frozen=True, kw_only=True)
class SheetsPage:
    """The sheets of one assignment."""

    frame: Frame
    row: AssignmentRow
    sheets: tuple[SheetRow, ...]
    printers: tuple[Printer, ...]
    chosen: Printer | None  # that lays them


@printing.get("/print")
def overview() -> str:
    """Show what is to be printed."""
    wanted = wanted_leaf(_MOST_SHOWN)
    leaf = assignments_found(db(), me().school_id, wanted, class_goes_on(), still_given())
    page = PrintPage(frame=frame(Stage.PRINT), items=leaf.shown, leaf=leaf_place(wanted, leaf))
    return render_template("printing/overview.html", page=page)


@printing.get("/assignments/<int:assignment_id>/sheets")
def sheets(assignment_id: int) -> str:
    """Show an assignment's sheets, each as SVG and layout."""
    page = SheetsPage(
        frame=frame(Stage.PRINT),
        row=assignment_of_school(db(), me().school_id, assignment_id),
        sheets=sheets_of_assignment(db(), assignment_id),
        printers=printers_of_school(db(), me().school_id),
        chosen=printer_of_assignment(db(), assignment_id),
    )
    return render_template("printing/sheets.html", page=page)


@printing.post("/assignments/<int:assignment_id>/sheets")
def make_sheets(assignment_id: int) -> AnyResponse:
    """Make the sheets that are missing, then give the PDF."""
    actions.print_sheets(db(), me().school_id, assignment_id)
    return redirect(url_for("printing.pdf", assignment_id=assignment_id), 303)


@printing.get("/assignments/<int:assignment_id>/sheets.pdf")
def pdf(assignment_id: int) -> Response:
    """Give each student's newest sheet as one PDF, or only the sheets that are named."""
    assignment = assignment_of_school(db(), me().school_id, assignment_id)
    printed = sheets_of_assignment(db(), assignment_id)
    wanted = set(request.args.getlist("sheet", type=int))
    chosen = [s for s in printed if s.id in wanted] if wanted else actions.newest_sheets(printed)
    if not chosen:
        raise NotFound(gettext("No sheets have been made for this assignment: print them first."))
    title = f"{assignment.title}, {assignment.class_name}"
    drawings = actions.drawings(db(), assignment, chosen)
    return drawings_pdf(drawings, title, f"{assignment.stem}.pdf")


@printing.get("/sheets/<int:sheet_id>.svg")
def svg(sheet_id: int) -> Response:
    """Give one sheet as SVG."""
    sheet = sheet_of_school(db(), me().school_id, sheet_id)
    assignment = assignment_of_school(db(), me().school_id, sheet.assignment_id)
    drawing = actions.drawings(db(), assignment, [sheet])[0]
    return Response(sheet_svg(drawing), mimetype="image/svg+xml")


@printing.get("/sheets/<int:sheet_id>/layout.json")
def layout(sheet_id: int) -> Response:
    """Give one sheet's layout, format noema-sheet/1."""
    sheet = sheet_of_school(db(), me().school_id, sheet_id)
    body = layouts_of_sheets(db(), [sheet.id])[sheet.id]
    return Response(json.dumps(body, indent=1), mimetype="application/json")
