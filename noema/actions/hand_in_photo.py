"""A photograph is received: its private parts left out, kept first, then queued to be read."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session

from noema.core.errors import BadPicture
from noema.core.language import gettext
from noema.devices.file_store import FileStore, hash_of
from noema.formats.photo_file import MOST_BYTES, check_photo
from noema.formats.private_parts import without_private
from noema.formats.scan import is_scan, pages_of_scan
from noema.store.people import keeps_originals
from noema.store.photographs import (
    NewPhoto,
    PhotoRow,
    add_photo,
    photo_by_sha256,
    photo_of_school,
)
from noema.store.queue import queue_reading


@dataclass(frozen=True, kw_only=True)
class HandedIn:
    """What became of one file."""

    name: str  # as it was sent
    photo: PhotoRow | None  # None where the file was refused
    known: bool = False  # the very same photograph was there already
    refused: str | None = None  # why, in a sentence


def hand_in_file(
    session: Session,
    files: FileStore,
    *,
    school_id: int,
    batch_id: int,
    name: str,
    data: bytes,
    received_at: datetime,
) -> tuple[HandedIn, ...]:
    """Keep and queue a photograph, or every page of a scan; the scan itself is kept as well."""
    pages: tuple[tuple[str, bytes], ...] = ((name, data),)
    scan_sha256 = None
    if is_scan(data):
        if len(data) > MOST_BYTES:
            refused = gettext("The scan is over 30 MB: send fewer.")
            return (HandedIn(name=name, photo=None, refused=refused),)
        try:
            drawn = pages_of_scan(data)
        except BadPicture as wrong:
            return (HandedIn(name=name, photo=None, refused=str(wrong)),)
        scan_sha256 = hash_of(data)
        pages = tuple(
            (gettext("%(name)s, page %(n)s", name=name, n=n), page)
            for n, page in enumerate(drawn, start=1)
        )
    handed_in = tuple(
        hand_in_photo(
            session,
            files,
            school_id=school_id,
            batch_id=batch_id,
            name=page_name,
            data=page,
            received_at=received_at,
            scan_sha256=scan_sha256,
        )
        for page_name, page in pages
    )
    if scan_sha256 is not None and any(one.photo and not one.known for one in handed_in):
        files.put(data)  # before the rows that speak of it are kept
    return handed_in


def hand_in_photo(
    session: Session,
    files: FileStore,
    *,
    school_id: int,
    batch_id: int,
    name: str,
    data: bytes,
    received_at: datetime,
    read_after_s: int = 0,
    scan_sha256: str | None = None,
) -> HandedIn:
    """Keep and queue one photograph; a file that is no photograph is refused by name.

    Where it was taken, and other private parts, are kept only where a school wants them.
    """
    name = name.replace("\0", "")[-200:] or "photograph"
    try:
        picture = check_photo(data)
    except BadPicture as wrong:
        return HandedIn(name=name, photo=None, refused=str(wrong))
    if not keeps_originals(session, school_id):
        data = without_private(data)
    sha256 = hash_of(data)
    known = photo_by_sha256(session, school_id, sha256)
    if known is not None and known.picture_gone:
        return HandedIn(name=name, photo=known, known=True)  # what was removed stays removed
    files.put(data)
    new = NewPhoto(
        school_id=school_id,
        batch_id=batch_id,
        sha256=sha256,
        size_bytes=len(data),
        megapixels=picture.megapixels,
        original_name=name,
        received_at=received_at,
        scan_sha256=scan_sha256,
    )
    photograph_id = add_photo(session, new)
    if photograph_id is None:
        known = photo_by_sha256(session, school_id, sha256)
        return HandedIn(name=name, photo=known, known=True)
    queue_reading(session, photograph_id, read_after_s)
    return HandedIn(name=name, photo=photo_of_school(session, school_id, photograph_id))
