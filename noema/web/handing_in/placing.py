"""Placing a sheet's outline over a photograph by hand."""

from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from noema.actions.place_outline import place_outline, to_place
from noema.core.errors import Refused
from noema.core.language import say_kept
from noema.core.progress.states import PhotoState
from noema.store.photographs import PhotoRow, photo_of_school
from noema.store.sheets import SheetRow
from noema.web.frame.forms import read_form
from noema.web.frame.outlining import OutlineForm, Outlining, outline_sent, outlining
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, files, me

placing = Blueprint("placing", __name__)


@dataclass(frozen=True, kw_only=True)
class PlacingPage:
    """A photograph with an outline over it."""

    frame: Frame
    photo_id: int
    title: str
    sheet: SheetRow
    over: Outlining
    sentence: str


@dataclass(frozen=True, kw_only=True)
class PlacedPage:
    """A photograph that is being read as its outline lies."""

    frame: Frame
    photo: PhotoRow


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
            outline=outline_sent(given),
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
    return PlacingPage(
        frame=frame(Stage.PHOTOGRAPH),
        photo_id=photograph_id,
        title=f"{ready.sheet.student}, {ready.sheet.code}",
        sheet=ready.sheet,
        over=outlining(
            url_for("pictures.original", photograph_id=photograph_id),
            ready.size_px,
            ready.layout,
            ready.outline,
            sent,
        ),
        sentence=sentence or say_kept(ready.photo.reason or ""),
    )
