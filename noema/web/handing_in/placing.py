"""Placing a sheet's outline over a photograph by hand."""

from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.place_outline import ToPlace, place_outline, to_place
from noema.core.errors import BadOutline, Refused
from noema.core.language import gettext, say_kept
from noema.core.photo.by_hand import Outline, box_of
from noema.core.progress.states import PhotoState
from noema.core.sheet.layout import Point
from noema.formats.outline_json import outline_from_json
from noema.store.photographs import PhotoRow, photo_of_school
from noema.store.sheets import SheetRow
from noema.web.frame.forms import TextLine, Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, files, me

placing = Blueprint("placing", __name__)


@dataclass(frozen=True, kw_only=True)
class PlacedCell:
    """A cell to be drawn over the photograph."""

    id: str
    label: str
    corners: str  # "x,y x,y ...": shares of the box round all cells


@dataclass(frozen=True, kw_only=True)
class PlacingPage:
    """A photograph with an outline over it."""

    frame: Frame
    photo_id: int
    title: str
    sheet: SheetRow
    size_px: tuple[int, int]
    box_mm: tuple[float, float]
    cells: tuple[PlacedCell, ...]
    corners: str
    sides: str
    paper: str
    nudges: str
    sentence: str


@dataclass(frozen=True, kw_only=True)
class PlacedPage:
    """A photograph that is being read as its outline lies."""

    frame: Frame
    photo: PhotoRow


class OutlineForm(Form):
    """An outline as the page writes it, or a person types it: places as "x,y x,y"."""

    sheet = Whole()
    corners = TextLine()
    sides = TextLine()
    paper = TextLine()
    nudges = TextLine()


@placing.get("/photographs/<int:photograph_id>/outline")
def page(photograph_id: int) -> Response | str:
    """Show the photograph and the outline over it; first ask whose it is, where nobody knows."""
    shown = _page(photograph_id, request.args.get("sheet", type=int))
    if shown is None:
        return redirect(url_for("finding.whose", photograph_id=photograph_id), 303)
    return render_template("handing_in/placing.html", page=shown)


@placing.post("/photographs/<int:photograph_id>/outline")
def place(photograph_id: int) -> Response | tuple[str, int]:
    """Read the photograph as the outline lies."""
    given = read_form(OutlineForm)
    sheet_id = given.sheet.data
    try:
        place_outline(
            db(),
            files(),
            school_id=me().school_id,
            teacher_id=me().id,
            photograph_id=photograph_id,
            sheet_id=sheet_id,
            outline=_outline(given),
        )
    except Refused as refusal:
        db().rollback()
        shown = _page(photograph_id, sheet_id, given, str(refusal))
        if shown is None:
            raise
        return render_template("handing_in/placing.html", page=shown), status_of(refusal)
    return redirect(url_for("placing.placed", photograph_id=photograph_id), 303)


@placing.get("/photographs/<int:photograph_id>/placed")
def placed(photograph_id: int) -> Response | str:
    """Wait until the photograph is read as the outline lies, then go on to what came of it."""
    photo = photo_of_school(db(), me().school_id, photograph_id)
    asks_again = "HX-Request" in request.headers
    if photo.state is PhotoState.READING:
        page = PlacedPage(frame=frame(Stage.PHOTOGRAPH), photo=photo)
        again = Response(status=204)
        return again if asks_again else render_template("handing_in/placed.html", page=page)
    on_desk = photo.state is PhotoState.READ and not photo.reason
    door = url_for("reviewing.desk" if on_desk else "placing.page", photograph_id=photograph_id)
    return Response(headers={"HX-Redirect": door}) if asks_again else redirect(door, 303)


def _page(
    photograph_id: int,
    sheet_id: int | None,
    sent: OutlineForm | None = None,
    sentence: str = "",
) -> PlacingPage | None:
    ready = to_place(db(), files(), me().school_id, photograph_id, sheet_id)
    if ready is None:
        return None
    box = box_of(ready.layout)
    sent = sent or OutlineForm()
    return PlacingPage(
        frame=frame(Stage.PHOTOGRAPH),
        photo_id=photograph_id,
        title=f"{ready.sheet.student}, {ready.sheet.code}",
        sheet=ready.sheet,
        size_px=ready.size_px,
        box_mm=(box[2][0] - box[0][0], box[2][1] - box[0][1]),
        cells=_cells(ready),
        # What was just refused is shown as it was sent, so that it can be put right.
        corners=sent.corners.data or _said(ready.outline.corners),
        sides=sent.sides.data or _said(ready.outline.sides),
        paper=sent.paper.data or _said(ready.outline.paper),
        nudges=sent.nudges.data or _said_nudges(ready.outline),
        sentence=sentence or say_kept(ready.photo.reason or ""),
    )


def _cells(ready: ToPlace) -> tuple[PlacedCell, ...]:
    box = box_of(ready.layout)
    (left, top), (right, bottom) = box[0], box[2]
    return tuple(
        PlacedCell(
            id=cell.id,
            label=cell.label,
            corners=_said(
                tuple(
                    ((x - left) / (right - left), (y - top) / (bottom - top))
                    for x, y in cell.polygon_mm
                )
            ),
        )
        for cell in ready.layout.cells
    )


def _outline(given: OutlineForm) -> Outline:
    return outline_from_json(
        {
            **{name: _points(name, given[name].data) for name in ("corners", "sides", "paper")},
            "nudges": dict(_nudge(part) for part in given.nudges.data.split()),
        }
    )


def _points(name: str, text: str) -> list[list[float]]:
    """Read "x,y x,y": what the page writes and a person may type."""
    try:
        return [[float(one) for one in part.split(",")] for part in text.split()]
    except ValueError as wrong:
        raise BadOutline(
            gettext("Write the %(name)s as pairs like 0.25,0.5 with blanks between.", name=name)
        ) from wrong


def _nudge(part: str) -> tuple[str, list[float]]:
    try:
        name, across, down = part.replace(":", ",").rsplit(",", 2)
        return name, [float(across), float(down)]
    except ValueError as wrong:
        raise BadOutline(
            gettext("Write moved cells as name:right,down in mm, like c3:1.5,-2.")
        ) from wrong


def _said(points: tuple[Point, ...]) -> str:
    return " ".join(f"{x:.4f},{y:.4f}" for x, y in points)


def _said_nudges(outline: Outline) -> str:
    return " ".join(f"{name}:{x:.1f},{y:.1f}" for name, (x, y) in outline.nudges.items())
