"""Photographs and straightened sheets as pictures, for those who may see them."""

from flask import Blueprint, Response

from noema.actions.show_photograph import show_photograph
from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.store.photographs import PhotoRow, photo_of_school
from noema.store.readings import straight_picture_of
from noema.web.frame.private_file import privately
from noema.web.frame.request import db, files, me

pictures = Blueprint("pictures", __name__)


@pictures.get("/photographs/<int:photograph_id>/original")
def original(photograph_id: int) -> Response:
    """Give the photograph as it was received."""
    return picture(photo_of_school(db(), me().school_id, photograph_id))


@pictures.get("/photographs/<int:photograph_id>/straight.jpg")
def straight(photograph_id: int) -> Response:
    """Give the sheet seen squarely."""
    photo = photo_of_school(db(), me().school_id, photograph_id)
    sha256 = straight_picture_of(db(), photo.id)
    if sha256 is None:
        raise NotFound(
            gettext("This photograph has no straightened picture: no sheet was found in it.")
        )
    return picture(photo, sha256)


def picture(photo: PhotoRow, sha256: str | None = None) -> Response:
    """Give a photograph, or another picture of it, to somebody who may see it."""
    if photo.picture_gone:
        raise NotFound(gettext("This picture was removed for good: its numbers are kept."))
    if sha256 is None:
        data, mimetype, kept = show_photograph(db(), files(), photo)
    else:
        data, mimetype, kept = files().get(sha256), "image/jpeg", sha256
    return privately(data, mimetype, kept)
