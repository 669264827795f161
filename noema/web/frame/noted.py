"""Noting in the school's record what was just done, by whom and from where."""

from collections.abc import Mapping

from flask import Response, request
from flask_login import current_user

from noema.core.errors import NotFound
from noema.core.joining.deeds import Deed
from noema.core.language import N_, gettext
from noema.store.classes import class_of_school
from noema.store.people import TeacherRow
from noema.store.record import NewEntry, note_deed
from noema.web.frame.request import db, me, sessions

_FIRST_BAD_STATUS = 400

_NOTED: Mapping[str, tuple[Deed, str]] = {
    "records.grades": (Deed.EXPORTED, N_("the grade book")),
    "records.results": (Deed.EXPORTED, N_("results")),
    "records.measurements": (Deed.EXPORTED, N_("measurements")),
    "records.class_archive": (Deed.EXPORTED, N_("the archive of a class")),
    "records.school_archive": (Deed.EXPORTED, N_("the archive of the school")),
    "records.give": (Deed.EXPORTED, N_("rosters")),
    "reports.of_student": (Deed.EXPORTED, N_("a student’s report")),
    "reports.notebook_of": (Deed.EXPORTED, N_("a student’s notebook")),
    "reports.of_class": (Deed.EXPORTED, N_("the report of a class")),
    "reports.mail": (Deed.MAILED, N_("a student’s report")),
    "erasure.erase": (Deed.ERASED, N_("a student")),
    "erasure.remove": (Deed.ERASED, N_("old pictures")),
    "cards.replace": (Deed.CARD_REPLACED, N_("a student’s card")),
    "keys.hold": (Deed.KEY_CHANGED, N_("a key")),
    "keys.approve": (Deed.KEY_CHANGED, N_("a key, painted by the teacher")),
}
"""Pages that are noted whenever they are answered well; no student is named."""


def note_listed(response: Response) -> Response:
    """Note what a page did, where that is to be kept on record."""
    listed, is_in = _NOTED.get(str(request.endpoint)), hasattr(current_user, "teacher")
    if listed is not None and is_in and response.status_code < _FIRST_BAD_STATUS:
        deed, about = listed
        note(deed, gettext(about) + _of_class())
    return response


def _of_class() -> str:
    class_id = (request.view_args or {}).get("class_id")
    if class_id is None:
        return ""
    try:
        return f", {class_of_school(db(), me().school_id, class_id).name}"
    except NotFound:
        return ""


def note(deed: Deed, about: str = "", by: TeacherRow | None = None) -> None:
    """Note it with what was done: neither is kept without the other."""
    note_deed(db(), _entry(deed, about, by or me()))


def note_anyway(deed: Deed, about: str, by: TeacherRow) -> None:
    """Note it whatever becomes of the answer, as of who was turned away."""
    with sessions().begin() as session:
        note_deed(session, _entry(deed, about, by))


def _entry(deed: Deed, about: str, by: TeacherRow) -> NewEntry:
    return NewEntry(
        school_id=by.school_id,
        deed=deed,
        by_id=by.id,
        by_name=by.display_name,
        about=about,
        address=request.remote_addr or "",
    )
