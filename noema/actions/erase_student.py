"""Consent is withdrawn: a student goes with everything about them, and a search proves it."""

from collections.abc import Collection
from dataclasses import dataclass

from sqlalchemy.orm import Session

from noema.core.errors import NotFound, Refused
from noema.core.language import gettext
from noema.devices.file_store import FileStore
from noema.devices.piece_store import PieceStore
from noema.store import erasure
from noema.store.students import student_of_school


@dataclass(frozen=True, kw_only=True)
class Erased:
    """What went, and what a search found afterwards."""

    name: str
    photographs: int
    files: int
    traces: dict[str, int]  # rows in which the name still stands, by table
    files_left: int  # of those that went, still found in the file store

    @property
    def proven(self) -> bool:
        """Whether nothing was found afterwards."""
        return not self.traces and not self.files_left


def erase_student(
    session: Session,
    files: FileStore,
    pieces: PieceStore,
    school_id: int,
    student_id: int,
    *,
    typed_name: str,
) -> Erased:
    """Erase a student whose name was typed to make sure; then search for them everywhere.

    Namesakes and words a teacher wrote may hold the name too: the search says where.
    """
    student = student_of_school(session, school_id, student_id)
    if " ".join(typed_name.split()).casefold() != student.display_name.casefold():
        raise Refused(
            gettext(
                "Type the name as it stands, “%(display_name)s”, to erase it for good.",
                display_name=student.display_name,
            )
        )
    for upload_id in erasure.uploads_of(session, student_id):
        pieces.drop(upload_id)
    gone = erasure.erase_student(session, student_id)
    session.flush()
    for sha256 in gone.files:
        files.remove(sha256)
    return Erased(
        name=student.display_name,
        photographs=gone.photographs,
        files=len(gone.files),
        traces=erasure.traces_of(session, [student.display_name]),
        files_left=_left(files, gone.files),
    )


def _left(files: FileStore, names: Collection[str]) -> int:
    left = 0
    for name in names:
        try:
            files.get(name)
        except NotFound:
            continue
        left += 1
    return left
