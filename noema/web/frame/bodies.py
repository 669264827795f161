"""How much may be sent to which page: more is refused by its announced size, before it is read."""

from flask import abort, request

from noema.formats.photo_file import MOST_BYTES

_MB = 2**20
_USUAL = 4 * _MB
_PHOTO = MOST_BYTES + _MB
_MOST = {
    "handing_in.hand_in": 40 * MOST_BYTES + _MB,
    "handing_in.add_to_batch": _PHOTO,
    "handing_in.another": _PHOTO,
    "painting.hand_in": _PHOTO,
    "printers.photographs": 4 * MOST_BYTES,
    "own_pictures.add": _PHOTO,
    "own_pictures.hold_paint": _PHOTO,
    "class_pictures.add": _PHOTO,
    "class_pictures.hold_paint": _PHOTO,
    "trial.hand_in": _PHOTO,
    "records.take": 17 * _MB,
}
"""By endpoint, where it is more than forms, texts and small files take."""


def limit_body() -> None:
    """Refuse a body that is larger than its page takes."""
    most = _MOST.get(request.endpoint or "", _USUAL)
    request.max_content_length = most
    if (request.content_length or 0) > most:
        abort(413)
