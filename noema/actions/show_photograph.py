"""A photograph as browsers show it: what they can't show is turned into a JPEG once, and kept."""

from sqlalchemy.orm import Session

from noema.devices.file_store import FileStore
from noema.formats.photo_file import for_browsers, needs_turning
from noema.store.photographs import PhotoRow, set_shown


def show_photograph(session: Session, files: FileStore, photo: PhotoRow) -> tuple[bytes, str, str]:
    """Give the bytes to show, their media type and their SHA-256."""
    if photo.shown_sha256 is not None:
        return files.get(photo.shown_sha256), "image/jpeg", photo.shown_sha256
    original = files.get(photo.sha256)
    data, mimetype = for_browsers(original)
    if not needs_turning(original):
        return data, mimetype, photo.sha256
    shown = files.put(data)
    set_shown(session, photo, shown)
    return data, mimetype, shown
