"""A student's photograph comes in: in one form, or piece by piece over a slow link."""

from datetime import UTC, datetime

from flask import Blueprint, redirect, request, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.hand_in_own import add_piece, begin_upload, hand_in_own
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.formats.photo_file import MOST_BYTES
from noema.store.sheets import sheet_by_code
from noema.store.student_work import upload_of_student
from noema.web.frame.forms import Exactly, SentFile, Whole, read_form
from noema.web.frame.request import db, files, looks, pieces, the_student
from noema.web.handing_in.aiming import answer_of, begun_look

MOST_PIECE_BYTES = 1024 * 1024


class OwnPhotoForm(Form):
    """A whole photograph."""

    photo = SentFile(MOST_BYTES)
    another_of = Whole(name="of")


class UploadForm(Form):
    """A photograph that will come piece by piece."""

    size = Whole()
    name_ = Exactly(name="name")
    another_of = Whole(name="of")


def add_routes(painting: Blueprint) -> None:
    """Add the ways in which photographs come."""
    painting.post("/me/look")(look)
    painting.get("/me/look/<name>")(seen)
    painting.post("/me/exercises/<int:assignment_id>/photographs")(hand_in)
    painting.post("/me/exercises/<int:assignment_id>/uploads")(begin)
    painting.get("/me/uploads/<upload_id>")(how_far)
    painting.post("/me/uploads/<upload_id>")(add)


def look() -> tuple[dict[str, object], int]:
    """Have a small copy looked at while the sheet still lies there; it isn't kept."""
    return begun_look("painting.seen")


def seen(name: str) -> tuple[dict[str, object], int]:
    """Say what was seen; 202 while it is being looked at. Somebody else's sheet is said to be."""
    answer, status = answer_of(name)
    sheet = sheet_by_code(db(), the_student().school_id, str(answer.get("code", "")))
    if sheet is None or sheet.student_id == the_student().id:
        return answer, status
    theirs = gettext("This is not your sheet: photograph your own one.")
    return {**answer, "ready": False, "words": [theirs]}, status


def hand_in(assignment_id: int) -> Response:
    """Take a whole photograph, and have it looked at for what could be better in it."""
    given = read_form(OwnPhotoForm)
    photo = given.photo
    data = photo.bytes
    photograph_id = hand_in_own(
        db(),
        files(),
        the_student(),
        assignment_id,
        name=photo.file_name,
        data=data,
        received_at=datetime.now(UTC),
        another_of=given.another_of.data,
    )
    name = looks().begin(data)
    return redirect(url_for("painting.handed_in", photograph_id=photograph_id, look=name), 303)


def begin(assignment_id: int) -> tuple[dict[str, object], int]:
    """Begin to take a photograph piece by piece."""
    said = read_form(UploadForm)
    size = said.size.data or 0
    upload_id = begin_upload(
        db(),
        pieces(),
        the_student(),
        assignment_id,
        said.name_.data,
        size,
        another_of=said.another_of.data,
    )
    return {"upload": upload_id, "from": 0}, 201


def how_far(upload_id: str) -> dict[str, object]:
    """Say how many bytes have come, and where the photograph is once all have."""
    upload = upload_of_student(db(), the_student().id, upload_id)
    if upload.photograph_id is not None:
        return _answer(upload.size_bytes, upload.photograph_id)
    return _answer(pieces().length(upload.id), None)


def add(upload_id: str) -> dict[str, object]:
    """Take one piece, beginning at byte `from`."""
    data = request.get_data(cache=False)
    if len(data) > MOST_PIECE_BYTES:
        raise Refused(gettext("Send at most 1 MB at once."))
    length, photograph_id = add_piece(
        db(),
        files(),
        pieces(),
        the_student(),
        upload_id,
        at=request.args.get("from", -1, type=int),
        data=data,
        received_at=datetime.now(UTC),
    )
    return _answer(length, photograph_id)


def _answer(length: int, photograph_id: int | None) -> dict[str, object]:
    place = (
        "" if photograph_id is None else url_for("painting.handed_in", photograph_id=photograph_id)
    )
    return {"from": length, "done": place}
