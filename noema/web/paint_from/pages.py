"""The pages of pictures, the same for a student and for a class before its teacher."""

from collections.abc import Callable
from functools import wraps
from typing import Any

from flask import Blueprint, Response, redirect, render_template, request
from werkzeug.exceptions import NotFound as NoSuchPage
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions import paint_from
from noema.actions.log_colours import add_note
from noema.actions.rank_tubes import ask_for_tubes
from noema.actions.read_held import hold, outline, paint_in
from noema.core.errors import NotFound, Refused
from noema.core.language import gettext
from noema.core.pictures.spots import USUAL_RADIUS
from noema.core.pictures.values import value_plan
from noema.core.sheet.paper import Paper
from noema.core.sheet.strip import draw_strips
from noema.formats.logbook import logbook_gpl, logbook_svg
from noema.formats.photo_file import for_browsers
from noema.formats.sheet_pdf import sheets_pdf
from noema.formats.spots import CarriedColour, colours_csv, colours_json
from noema.formats.wall_pdf import values_pdf, wall_pdf
from noema.store.pictures import (
    KeptHeld,
    KeptSpot,
    held_of,
    latest_held,
    picture_of_spot,
    remove_spot,
    spot_of,
    spots_of,
)
from noema.web.frame.forms import SentFile, TextLine, Whole, read_form
from noema.web.frame.once import do_once
from noema.web.frame.outlining import OutlineForm, outline_sent
from noema.web.frame.private_file import privately
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, files
from noema.web.logbook.finding import labels_of
from noema.web.paint_from.desk import DeskOf, PictureDesk, class_desk, own_desk
from noema.web.paint_from.few import cupboard_asked, tubes_page
from noema.web.paint_from.holding import (
    MOST_PHOTO_BYTES,
    EaselPage,
    HeldPage,
    PaintForm,
    WriteDownForm,
    held_shown,
    outline_page,
)
from noema.web.paint_from.images import LOOKS, image_of, plan_png
from noema.web.paint_from.listing import list_page
from noema.web.paint_from.scheming import carried_scheme, scheme_asked, schemes_page
from noema.web.paint_from.spotting import (
    SpotForm,
    SpotLookForm,
    carried_spots,
    look_of,
    marks_of,
    spots_page,
)
from noema.web.paint_from.valuing import steps_asked, values_page

FORMS = ("pdf", "csv", "json", "svg", "gpl")
Answer = AnyResponse | str | tuple[str, int]


class NewPictureForm(Form):
    """A picture: a file, one of the scenes, or one that is the class's."""

    photo = SentFile(MOST_PHOTO_BYTES)
    title = TextLine(most=80)
    scene = TextLine(most=20)
    copy = Whole()


_PAGES: list[tuple[str, str, Callable[..., Answer]]] = []


def _page(method: str, rule: str) -> Callable[[Callable[..., Answer]], Callable[..., Answer]]:
    """Note a page that is shown at both addresses; it takes the desk and what its rule names."""

    def note_it(view: Callable[..., Answer]) -> Callable[..., Answer]:
        _PAGES.append((method, rule, view))
        return view

    return note_it


@_page("GET", "")
def of_pictures(desk: PictureDesk) -> str:
    """Show the pictures, and how to add one."""
    return render_template("paint_from/list.html", page=list_page(desk))


@_page("POST", "")
def add(desk: PictureDesk) -> AnyResponse:
    """Add a picture."""
    do_once()
    return redirect(_add(desk), 303)


@_page("GET", "/strip.pdf")
def strip(desk: PictureDesk) -> Response:
    """Give the strip to print."""
    drawing = draw_strips(Paper.A4)
    return _file(sheets_pdf([drawing], drawing.title), "application/pdf", "strip.pdf")


@_page("GET", "/<int:picture_id>")
def spots(desk: PictureDesk, picture_id: int) -> str:
    """Show a picture and its spots."""
    page = spots_page(desk, desk.picture(picture_id), LOOKS)
    return render_template("paint_from/spots.html", page=page)


@_page("POST", "/<int:picture_id>/spots")
def point(desk: PictureDesk, picture_id: int) -> AnyResponse:
    """Put a spot in, or change one."""
    do_once()
    return redirect(_point(desk, picture_id), 303)


@_page("POST", "/<int:picture_id>/spots/<int:spot_id>/remove")
def take_out(desk: PictureDesk, picture_id: int, spot_id: int) -> AnyResponse:
    """Take a spot out."""
    picture = desk.own(picture_id)
    remove_spot(db(), spot_of(db(), picture.id, spot_id).id)
    return redirect(desk.url("spots", picture_id=picture_id), 303)


@_page("POST", "/<int:picture_id>/remove")
def remove(desk: PictureDesk, picture_id: int) -> AnyResponse:
    """Remove a picture for good."""
    picture = desk.own(picture_id)
    paint_from.remove(db(), desk.owner_of(picture), picture)
    return redirect(desk.url("of_pictures"), 303)


@_page("GET", "/<int:picture_id>/as/<look>")
def image(desk: PictureDesk, picture_id: int, look: str) -> Response:
    """Give the picture in one of the ways painters look at it."""
    return image_of(desk, desk.picture(picture_id), look)


@_page("GET", "/<int:picture_id>/values")
def values(desk: PictureDesk, picture_id: int) -> str:
    """Show how dark and light it is."""
    page = values_page(desk, desk.picture(picture_id))
    return render_template("paint_from/values.html", page=page)


@_page("GET", "/<int:picture_id>/values.pdf")
def plan_on_paper(desk: PictureDesk, picture_id: int) -> Response:
    """Give the value plan to print."""
    steps = steps_asked()
    picture = desk.picture(picture_id)
    plan = value_plan(paint_from.colours_of_kept(files(), picture), steps)
    data = values_pdf(picture.title, plan_png(picture, steps), plan)
    return _file(data, "application/pdf", "values.pdf")


@_page("GET", "/<int:picture_id>/tubes")
def tubes(desk: PictureDesk, picture_id: int) -> str:
    """Show which few tubes do."""
    page = tubes_page(desk, desk.picture(picture_id))
    part = "HX-Request" in request.headers
    return render_template(f"paint_from/{'ranked' if part else 'tubes'}.html", page=page)


@_page("POST", "/<int:picture_id>/tubes")
def look_through(desk: PictureDesk, picture_id: int) -> AnyResponse:
    """Have a cupboard looked through."""
    ask_for_tubes(db(), desk.own(picture_id), cupboard_asked(desk))
    return redirect(desk.url("tubes", picture_id=picture_id), 303)


@_page("GET", "/<int:picture_id>/schemes")
def schemes(desk: PictureDesk, picture_id: int) -> str:
    """Show schemes from one of its colours outwards."""
    page = schemes_page(desk, desk.picture(picture_id))
    return render_template("paint_from/schemes.html", page=page)


@_page("GET", "/<int:picture_id>/scheme.<form>")
def carry_scheme(desk: PictureDesk, picture_id: int, form: str) -> Response:
    """Give a scheme to carry along."""
    picture = desk.picture(picture_id)
    colours = carried_scheme(scheme_asked(desk, picture), desk)
    return _carried(desk, colours, picture.title, form, "scheme", b"")


@_page("GET", "/<int:picture_id>/spots.<form>")
def carry(desk: PictureDesk, picture_id: int, form: str) -> Response:
    """Give spots to carry along, or the sheet for the wall."""
    picture = desk.picture(picture_id)
    colours = carried_spots(desk, picture, spots_of(db(), picture.id))
    shown = files().get(picture.shown_sha256)
    return _carried(desk, colours, picture.title, form, "spots", shown)


@_page("GET", "/<int:picture_id>/easel")
def easel(desk: PictureDesk, picture_id: int) -> str:
    """Show the picture beside the easel."""
    page = _easel(desk, picture_id)
    part = "HX-Request" in request.headers
    return render_template(f"paint_from/{'held_part' if part else 'easel'}.html", page=page)


@_page("POST", "/held")
def hold_paint(desk: PictureDesk) -> AnyResponse:
    """Keep a photograph of paint and have it read."""
    do_once()
    return redirect(_hold(desk), 303)


@_page("GET", "/held/<int:held_id>")
def held(desk: PictureDesk, held_id: int) -> str:
    """Show what was read of paint."""
    page = _held_page(desk, held_of(db(), desk.owner, held_id))
    part = "HX-Request" in request.headers
    return render_template(f"paint_from/{'held_part' if part else 'held'}.html", page=page)


@_page("GET", "/held/<int:held_id>/photo")
def held_photo(desk: PictureDesk, held_id: int) -> Response:
    """Give a photograph of paint."""
    kept = held_of(db(), desk.owner, held_id)
    if kept.sha256 is None:
        raise NotFound(gettext("This picture was removed for good: its numbers are kept."))
    data, mimetype = for_browsers(files().get(kept.sha256))
    return privately(data, mimetype)


@_page("GET", "/held/<int:held_id>/outline")
def place_outline(desk: PictureDesk, held_id: int) -> str:
    """Show a photograph of paint and an outline over it."""
    page = outline_page(desk, held_of(db(), desk.owner, held_id))
    return render_template("paint_from/outline.html", page=page)


@_page("POST", "/held/<int:held_id>/outline")
def place(desk: PictureDesk, held_id: int) -> Answer:
    """Have paint read as its outline lies."""
    sent = read_form(OutlineForm)
    kept = held_of(db(), desk.owner, held_id)
    try:
        outline(db(), files(), kept, outline_sent(sent))
    except Refused as refusal:
        db().rollback()
        page = outline_page(desk, kept, sent, str(refusal))
        return render_template("paint_from/outline.html", page=page), status_of(refusal)
    return redirect(_home_of(desk, kept), 303)


@_page("POST", "/held/<int:held_id>/note")
def note(desk: PictureDesk, held_id: int) -> AnyResponse:
    """Write a colour that was read into the logbook."""
    do_once()
    form = read_form(WriteDownForm)
    paint = paint_in(held_of(db(), desk.owner, held_id))
    if paint is None or paint.cell is None:
        raise Refused(gettext("Nothing was read of this photograph: outline the paint first."))
    add_note(
        db(),
        desk.log_source(),
        title=form.title.data,
        parts=form.parts.data,
        words=form.words.data,
        lab=paint.cell.lab,
        paints=desk.paints,
    )
    return redirect(desk.logbook_url(), 303)


def _add(desk: PictureDesk) -> str:
    form = read_form(NewPictureForm)
    if form.scene.data:
        number = paint_from.take_scene(db(), files(), desk.owner, form.scene.data)
    elif form.copy.data:
        number = paint_from.copy_picture(db(), desk.owner, desk.picture(form.copy.data))
    else:
        data = form.photo.bytes
        title = form.title.data or form.photo.file_name.rpartition(".")[0][:80]
        number = paint_from.take_picture_in(db(), files(), desk.owner, title, data)
    return desk.url("spots", picture_id=number)


def _point(desk: PictureDesk, picture_id: int) -> str:
    form, picture = read_form(SpotForm), desk.own(picture_id)
    if form.x.data is None or form.y.data is None:
        raise Refused(gettext("Point at a place in the picture first."))
    known = None if not form.spot.data else spot_of(db(), picture.id, form.spot.data)
    new = paint_from.NewSpot(
        name=form.name.data,
        part=form.part.data,
        x=form.x.data / 100.0,
        y=form.y.data / 100.0,
        radius=form.radius.data or USUAL_RADIUS,
    )
    number = paint_from.point(
        db(),
        files(),
        picture,
        desk.owner_of(picture),
        new,
        desk.given,
        desk.table,
        0 if known is None else known.id,
    )
    return desk.url("spots", picture_id=picture.id, spot=number)


def _easel(desk: PictureDesk, picture_id: int) -> EaselPage:
    picture = desk.picture(picture_id)
    known = spots_of(db(), picture.id)
    wanted = read_form(SpotLookForm, request.args).spot.data
    spot = next((one for one in known if one.id == wanted), known[-1] if known else None)
    kept = None if spot is None else latest_held(db(), desk.owner, spot.id)
    return EaselPage(
        frame=desk.frame,
        desk=desk,
        name=desk.name,
        picture=picture,
        tab="easel",
        marks=marks_of(picture, known, spot),
        chosen=None if spot is None else look_of(spot, known, desk),
        held=None if kept is None else held_shown(desk, kept, spot),
    )


def _hold(desk: PictureDesk) -> str:
    form = read_form(PaintForm)
    spot = None if form.spot.data is None else _spot_seen(desk, form.spot.data)
    number = hold(db(), files(), desk.owner, None if spot is None else spot.id, form.photo.bytes)
    return _home_of(desk, held_of(db(), desk.owner, number))


def _spot_seen(desk: PictureDesk, spot_id: int) -> KeptSpot:
    """Give a spot of a picture that may be looked at."""
    picture = desk.picture(picture_of_spot(db(), spot_id))
    return spot_of(db(), picture.id, spot_id)


def _home_of(desk: PictureDesk, kept: KeptHeld) -> str:
    """Give the page on which what was read of paint is shown."""
    if kept.spot_id is None:
        return desk.url("held", held_id=kept.id)
    picture_id = picture_of_spot(db(), kept.spot_id)
    return desk.url("easel", picture_id=picture_id, spot=kept.spot_id)


def _held_page(desk: PictureDesk, kept: KeptHeld) -> HeldPage:
    spot = None if kept.spot_id is None else _spot_seen(desk, kept.spot_id)
    paint = paint_in(kept)
    logbook = ""
    if paint is not None and paint.cell is not None:
        lightness, a, b = (f"{part:.2f}" for part in paint.cell.lab)
        logbook = desk.logbook_url(lightness=lightness, a=a, b=b)
    return HeldPage(
        frame=desk.frame,
        desk=desk,
        name=desk.name,
        held=held_shown(desk, kept, spot),
        logbook=logbook,
        tubes=tuple(tube.name for tube in desk.paints.tubes),
    )


def _carried(
    desk: PictureDesk,
    colours: tuple[CarriedColour, ...],
    title: str,
    form: str,
    what: str,
    shown: bytes,
) -> Response:
    entries = [one.entry for one in colours]
    if form == "pdf" and shown:
        data: str | bytes = wall_pdf(title, shown, colours, labels_of(desk.given))
        return _file(data, "application/pdf", f"{what}.pdf")
    if form == "csv":
        return _file(colours_csv(colours), "text/csv", f"{what}.csv")
    if form == "json":
        of = {"picture": title, "set": desk.paints.name}
        return _file(colours_json(colours, of), "application/json", f"{what}.json")
    if form == "svg":
        return _file(logbook_svg(entries), "image/svg+xml", f"{what}.svg")
    if form == "gpl":
        return _file(logbook_gpl(entries, title), "text/plain", f"{what}.gpl")
    raise NoSuchPage


def _file(data: str | bytes, mimetype: str, name: str) -> Response:
    answer = Response(data, mimetype=mimetype)
    answer.headers.set("Content-Disposition", "attachment", filename=name)
    return answer


def _blueprint(name: str, prefix: str, desk_of: DeskOf, *named: str) -> Blueprint:
    """Make the pages at one address, for whoever `desk_of` finds by what the prefix names."""
    made = Blueprint(name, __name__, url_prefix=prefix)
    for method, rule, view in _PAGES:

        @wraps(view)
        def shown(view: Callable[..., Answer] = view, **where: Any) -> Answer:
            desk = desk_of(**{one: where.pop(one) for one in named})
            return view(desk, **where)

        made.add_url_rule(rule, view.__name__, shown, methods=[method])
    return made


own_pictures = _blueprint("own_pictures", "/me/pictures", own_desk)
class_pictures = _blueprint(
    "class_pictures", "/classes/<int:class_id>/pictures", class_desk, "class_id"
)
