"""Consent is withdrawn: a student goes with everything about them, and a search proves it.

Rows go in one transaction; files follow it, by a job that can be repeated, so that a failure loses
nothing of what then still stands.
"""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from noema.core.errors import Refused
from noema.core.language import gettext
from noema.devices.mail import Outbox
from noema.store import erasure
from noema.store.queue import queue_leaving
from noema.store.students import student_of_school


@dataclass(frozen=True, kw_only=True)
class Erased:
    """What went, and what a search found afterwards."""

    name: str
    photographs: int
    files: int  # that leave the file store now
    letters: int  # that lay in the outbox
    traces: dict[str, int]  # rows in which the name still stands, by table


def erase_student(
    session: Session, outbox: Outbox, school_id: int, student_id: int, *, typed_name: str
) -> Erased:
    """Erase a student whose name was typed to make sure; then search for them in the school.

    Namesakes and words a teacher wrote may hold the name too: the search says where. Their files,
    and pieces of photographs on their way, leave once this is kept.
    """
    student = student_of_school(session, school_id, student_id)
    if " ".join(typed_name.split()).casefold() != student.display_name.casefold():
        raise Refused(
            gettext(
                "Type the name as it stands, “%(display_name)s”, to erase it for good.",
                display_name=student.display_name,
            )
        )
    uploads = erasure.uploads_of(session, student_id)
    gone = erasure.erase_student(session, student_id)
    session.flush()
    erasure.leave(session, school_id, gone.files)
    letters = outbox.naming(student.display_name)
    queue_leaving(session, uploads, letters)
    return Erased(
        name=student.display_name,
        photographs=gone.photographs,
        files=len(gone.files),
        letters=len(letters),
        traces=erasure.traces_of(session, school_id, [student.display_name]),
    )
