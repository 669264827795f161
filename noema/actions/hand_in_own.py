"""A student hands in a photograph of their own sheet, whole or piece by piece.

Pieces may come twice or be cut off: the sender asks how far it got and goes on from there. The
photograph is kept before the answer goes out, and the same one is never taken twice.
"""

from datetime import datetime, timedelta
from secrets import token_hex

from sqlalchemy.orm import Session

from noema.actions.hand_in_photo import HandedIn, hand_in_photo
from noema.core.errors import BadPicture, OutOfDate, Refused, TooManyTries
from noema.core.language import N_, gettext
from noema.devices.file_store import FileStore
from noema.devices.piece_store import PieceStore
from noema.formats.photo_file import MOST_BYTES
from noema.store.photographs import add_student_batch, handed_in_since, photo_of_student
from noema.store.student_work import (
    UploadRow,
    add_upload,
    end_upload,
    given_one_to_student,
    sheets_of_student,
    upload_of_student,
    uploads_under_way,
)
from noema.store.students import StudentRow

MOST_UNDER_WAY = 4
"""Photographs of one student's on their way at once; the oldest gives way to a fifth."""

MOST_IN_A_WHILE, _WHILE = 40, timedelta(hours=1)
"""Photographs one student hands in within an hour: more than any lesson asks for."""

_SOMEBODY_ELSES = N_(
    "This very photograph was handed in by somebody else: photograph your own sheet."
)


def hand_in_own(
    session: Session,
    files: FileStore,
    student: StudentRow,
    assignment_id: int,
    *,
    name: str,
    data: bytes,
    received_at: datetime,
    another_of: int | None = None,
) -> int:
    """Keep and queue a photograph; gives its number, also when it had come before.

    It may be another picture of the sheet in an earlier one of theirs.
    """
    _has_sheet(session, student, assignment_id)
    _is_own(session, student, another_of)
    if handed_in_since(session, student.id, received_at - _WHILE) >= MOST_IN_A_WHILE:
        raise TooManyTries(
            gettext(
                "You handed in %(most)s photographs within an hour: wait for what is read of them.",
                most=MOST_IN_A_WHILE,
            )
        )
    if not data:
        raise BadPicture(gettext("Choose the photograph of your sheet first."))
    if len(data) > MOST_BYTES:
        raise BadPicture(gettext("The photograph is over 30 MB: send a smaller one."))
    handed_in = hand_in_photo(
        session,
        files,
        school_id=student.school_id,
        batch_id=add_student_batch(
            session, student.school_id, student.id, assignment_id, another_of
        ),
        name=name,
        data=data,
        received_at=received_at,
    )
    return _number(session, student, handed_in)


def begin_upload(
    session: Session,
    pieces: PieceStore,
    student: StudentRow,
    assignment_id: int,
    name: str,
    size: int,
    another_of: int | None = None,
) -> str:
    """Note that a photograph is on its way; gives the name its pieces come under."""
    _has_sheet(session, student, assignment_id)
    _is_own(session, student, another_of)
    if not 1 <= size <= MOST_BYTES:
        raise BadPicture(gettext("Send a photograph of at most 30 MB."))
    for late in uploads_under_way(session, student.id)[: 1 - MOST_UNDER_WAY]:
        pieces.drop(late)
        end_upload(session, late, None)
    upload_id = token_hex(16)
    on_its_way = UploadRow(
        id=upload_id,
        assignment_id=assignment_id,
        name=name[-200:] or "photograph",
        size_bytes=size,
        another_of=another_of,
    )
    add_upload(session, student.id, on_its_way)
    return upload_id


def add_piece(
    session: Session,
    files: FileStore,
    pieces: PieceStore,
    student: StudentRow,
    upload_id: str,
    *,
    at: int,
    data: bytes,
    received_at: datetime,
) -> tuple[int, int | None]:
    """Take one piece; gives how many bytes are there and, once whole, the photograph's number."""
    upload = upload_of_student(session, student.id, upload_id)
    if upload.photograph_id is not None:
        return upload.size_bytes, upload.photograph_id
    if at < 0 or at + len(data) > upload.size_bytes:
        raise OutOfDate(gettext("That is more than the photograph has: begin again."))
    length = pieces.append(upload.id, at, data)
    if length < upload.size_bytes:
        return length, None
    return length, _whole(session, files, pieces, student, upload, received_at)


def _whole(
    session: Session,
    files: FileStore,
    pieces: PieceStore,
    student: StudentRow,
    upload: UploadRow,
    received_at: datetime,
) -> int:
    data = pieces.take(upload.id)
    try:
        photograph_id = hand_in_own(
            session,
            files,
            student,
            upload.assignment_id,
            name=upload.name,
            data=data,
            received_at=received_at,
            another_of=upload.another_of,
        )
    except BadPicture:
        pieces.drop(upload.id)
        raise
    end_upload(session, upload.id, photograph_id)
    # Its bytes lie in the file store by now; were this not reached they would only lie twice.
    pieces.drop(upload.id)
    return photograph_id


def _has_sheet(session: Session, student: StudentRow, assignment_id: int) -> None:
    given_one_to_student(session, student.id, assignment_id)
    if not sheets_of_student(session, student.id, assignment_id):
        raise Refused(gettext("There is no sheet of yours yet: ask your teacher to print it."))


def _is_own(session: Session, student: StudentRow, photograph_id: int | None) -> None:
    if photograph_id is not None:
        photo_of_student(session, student.id, photograph_id)


def _number(session: Session, student: StudentRow, handed_in: HandedIn) -> int:
    if handed_in.refused or handed_in.photo is None:
        raise BadPicture(handed_in.refused or gettext("Send a photograph."))
    if handed_in.known:
        try:
            photo_of_student(session, student.id, handed_in.photo.id)
        except Refused as wrong:
            raise Refused(gettext(_SOMEBODY_ELSES)) from wrong
    return handed_in.photo.id
