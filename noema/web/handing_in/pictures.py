"""Photographs and straightened sheets as pictures, for those who may see them."""

from io import BytesIO

from flask import Blueprint, Response, send_file

from noema.core.errors import NotFound
from noema.formats.photo_file import for_browsers
from noema.store.photographs import photo_of_school
from noema.store.readings import straight_picture_of
from noema.web.frame.request import db, files, me

pictures = Blueprint("pictures", __name__)


@pictures.get("/photographs/<int:photograph_id>/original")
def original(photograph_id: int) -> Response:
    """Give the photograph as it was received."""
    photo = photo_of_school(db(), me().school_id, photograph_id)
    return _picture(photo.sha256)


@pictures.get("/photographs/<int:photograph_id>/straight.jpg")
def straight(photograph_id: int) -> Response:
    """Give the sheet seen squarely."""
    photo = photo_of_school(db(), me().school_id, photograph_id)
    sha256 = straight_picture_of(db(), photo.id)
    if sha256 is None:
        raise NotFound("This photograph has no straightened picture: no sheet was found in it.")
    return _picture(sha256)


def _picture(sha256: str) -> Response:
    data, mimetype = for_browsers(files().get(sha256))
    # The bytes under a hash never change, but only this person may keep them.
    response = send_file(BytesIO(data), mimetype=mimetype, etag=sha256, max_age=3600)
    response.cache_control.private = True
    response.cache_control.public = False
    return response
