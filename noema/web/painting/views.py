"""A student's own pages, made for a phone: what is due, how to, handing in, what was read."""

from io import BytesIO

from flask import (
    Blueprint,
    Response,
    current_app,
    redirect,
    render_template,
    request,
    send_file,
    url_for,
)
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions.check_self import check_self
from noema.actions.print_sheets import drawings
from noema.actions.try_again import try_again
from noema.formats.sheet_pdf import sheets_pdf
from noema.store.photographs import photo_of_student
from noema.store.readings import straight_picture_of
from noema.store.student_work import given_one_to_student, sheet_of_student
from noema.web.frame.forms import Many, Said, read_form
from noema.web.frame.request import db, the_student
from noema.web.handing_in.pictures import picture
from noema.web.painting import uploading
from noema.web.painting.exercise import due_page, exercise_page, photograph_page
from noema.web.painting.own_sheet import handed_in_page
from noema.web.painting.progress import progress_page

painting = Blueprint("painting", __name__)
uploading.add_routes(painting)


class CheckForm(Form):
    """What a student thinks of their sheet: the cells that hold, or nothing."""

    holds = Many()
    skips = Said("nothing", name="say")


class AgainForm(Form):
    """Which cells the next sheet has."""

    only_needed = Said("needed", name="cells")


@painting.get("/me")
def due() -> str:
    """Show what is to be painted, and what was."""
    return render_template("painting/due.html", page=due_page())


@painting.get("/me/worker.js")
def worker() -> Response:
    """Give the service worker, which may keep a student's own pages and no others."""
    answer = current_app.send_static_file("js/worker.js")
    answer.headers["Service-Worker-Allowed"] = "/me"
    return answer


@painting.get("/me/progress")
def progress() -> str:
    """Show a student how they are getting on."""
    return render_template("painting/progress.html", page=progress_page())


@painting.get("/me/exercises/<int:assignment_id>")
def exercise(assignment_id: int) -> str:
    """Show an exercise: its colours, how to paint it, and earlier attempts."""
    return render_template("painting/exercise.html", page=exercise_page(assignment_id))


@painting.get("/me/exercises/<int:assignment_id>/photograph")
def photograph(assignment_id: int) -> str:
    """Ask for the photograph, or another one of the same sheet."""
    page = photograph_page(assignment_id, request.args.get("of", type=int))
    return render_template("painting/photograph.html", page=page)


@painting.get("/me/photographs/<int:photograph_id>")
def handed_in(photograph_id: int) -> str:
    """Show what became of a photograph, as far as it may be seen yet."""
    page = handed_in_page(photograph_id, request.args.get("look", ""))
    name = "own_sheet" if request.headers.get("HX-Request") else "handed_in"
    return render_template(f"painting/{name}.html", page=page)


@painting.post("/me/photographs/<int:photograph_id>/check")
def check(photograph_id: int) -> AnyResponse:
    """Keep what the student thinks of their sheet."""
    said = read_form(CheckForm)
    holds = None if said.skips.data else list(said.holds.data)
    check_self(db(), the_student(), photograph_id, holds)
    return redirect(url_for("painting.handed_in", photograph_id=photograph_id), 303)


@painting.get("/me/photographs/<int:photograph_id>/picture")
def original(photograph_id: int) -> Response:
    """Give the student's own photograph."""
    return picture(photo_of_student(db(), the_student().id, photograph_id))


@painting.get("/me/photographs/<int:photograph_id>/straight.jpg")
def straight(photograph_id: int) -> Response:
    """Give the student's own sheet, seen squarely."""
    photo = photo_of_student(db(), the_student().id, photograph_id)
    return picture(photo, straight_picture_of(db(), photo.id) or photo.sha256)


@painting.post("/me/exercises/<int:assignment_id>/again")
def again(assignment_id: int) -> AnyResponse:
    """Make the next sheet, then give its PDF."""
    only_needed = read_form(AgainForm).only_needed.data
    sheet = try_again(db(), the_student(), assignment_id, only_needed=only_needed)
    return redirect(url_for("painting.sheet_pdf", sheet_id=sheet.id), 303)


@painting.get("/me/sheets/<int:sheet_id>.pdf")
def sheet_pdf(sheet_id: int) -> Response:
    """Give one of the student's sheets to print."""
    sheet = sheet_of_student(db(), the_student().id, sheet_id)
    assignment = given_one_to_student(db(), the_student().id, sheet.assignment_id)
    data = sheets_pdf(drawings(db(), assignment, [sheet]), f"{assignment.title} {sheet.code}")
    return send_file(BytesIO(data), mimetype="application/pdf", download_name=f"{sheet.code}.pdf")
