"""Taking a photograph with the device's own camera, with hints while one aims."""

from dataclasses import dataclass

from flask import Blueprint, render_template, url_for
from wtforms import Form

from noema.core.errors import Refused
from noema.core.language import gettext
from noema.formats.photo_file import check_photo
from noema.web.frame.forms import SentFile, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import looks

aiming = Blueprint("aiming", __name__)

_MOST_LOOK_BYTES = 2 * 1024 * 1024


@dataclass(frozen=True, kw_only=True)
class AimPage:
    """The camera's page."""

    frame: Frame


class LookForm(Form):
    """A small picture to be looked at."""

    look = SentFile(_MOST_LOOK_BYTES)


@aiming.get("/photograph/camera")
def camera() -> str:
    """Show what the camera sees and what to change."""
    return render_template("handing_in/camera.html", page=AimPage(frame=frame(Stage.PHOTOGRAPH)))


@aiming.get("/photograph/advice")
def advice() -> str:
    """Say how a sheet is photographed well."""
    return render_template("handing_in/advice.html", page=AimPage(frame=frame(Stage.PHOTOGRAPH)))


@aiming.post("/photograph/look")
def look() -> tuple[dict[str, object], int]:
    """Have one small picture of the camera's looked at; it isn't kept."""
    return begun_look("aiming.seen")


@aiming.get("/photograph/look/<name>")
def seen(name: str) -> tuple[dict[str, object], int]:
    """Say what was seen; 202 while it is being looked at."""
    return answer_of(name)


def begun_look(asked_at: str) -> tuple[dict[str, object], int]:
    """Have the small picture that was sent looked at, and say where its answer will be."""
    data = sent_look()
    check_photo(data)
    return {"answer": url_for(asked_at, name=looks().begin(data))}, 202


def answer_of(name: str) -> tuple[dict[str, object], int]:
    """Give what a look saw; nothing yet, and 202, while it is under way."""
    found = looks().seen(name)
    if found is None:
        return {}, 202
    words, corners = list(found.words), list(found.corners)
    return {
        "ready": found.ready,
        "words": words,
        "corners": corners,
        "again": found.again,
        "code": found.code,
    }, 200


def sent_look() -> bytes:
    """Give the small picture that was sent to be looked at."""
    data = read_form(LookForm).look.bytes
    if not data or len(data) > _MOST_LOOK_BYTES:
        raise Refused(gettext("Send one picture of at most 2 MB as “look”."))
    return data
