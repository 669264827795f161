"""A teacher says whose sheet a photograph shows, or sets it aside."""

from sqlalchemy.orm import Session

from noema.core.errors import Refused
from noema.core.judging.review import ReviewState
from noema.core.language import gettext
from noema.core.progress.states import PhotoState
from noema.store.decisions import record
from noema.store.photographs import (
    PhotoRow,
    led_by,
    part_from_lead,
    photo_of_school,
    photo_to_read,
    set_photo_state,
)
from noema.store.queue import queue_reading
from noema.store.reviews import attempt_of_school
from noema.store.sheets import sheet_of_school

_IN_TRAY = (PhotoState.UNMATCHED, PhotoState.UNREADABLE)


def match_photograph(
    session: Session, *, school_id: int, teacher_id: int, photograph_id: int, sheet_id: int
) -> None:
    """Name the sheet of a photograph in the tray; it is read again as that sheet."""
    photo = _in_tray(session, school_id, photograph_id)
    sheet = sheet_of_school(session, school_id, sheet_id)
    _read_as(session, photo.id, sheet.id, teacher_id)


def set_aside(session: Session, *, school_id: int, teacher_id: int, photograph_id: int) -> None:
    """Take a photograph out of the tray without reading it; the picture is kept."""
    photo = _in_tray(session, school_id, photograph_id)
    set_photo_state(session, photo.id, PhotoState.SET_ASIDE, reason=photo.reason)
    record(session, photo.id, teacher_id, "set-aside", None)


def _in_tray(session: Session, school_id: int, photograph_id: int) -> PhotoRow:
    photo = _held(session, school_id, photograph_id)
    if photo.state not in _IN_TRAY:
        raise Refused(gettext("This photograph is no longer in the tray: look at its batch again."))
    return photo


def give_to_another(
    session: Session, *, school_id: int, teacher_id: int, photograph_id: int, sheet_id: int
) -> None:
    """Say that a read photograph shows another student's sheet; it is read again as that one."""
    photo = _held(session, school_id, photograph_id)
    if photo.state is not PhotoState.READ:
        raise Refused(gettext("This photograph isn't read: look for it in the tray."))
    attempt = attempt_of_school(session, school_id, photograph_id)
    if attempt.review.state is not ReviewState.OPEN:
        raise Refused(gettext("Undo your decision about this sheet first, then say whose it is."))
    sheet = sheet_of_school(session, school_id, sheet_id)
    if sheet.id == photo.sheet_id:
        raise Refused(gettext("It is that sheet already: choose another one."))
    for one in (photo, *led_by(session, photo.id)):
        part_from_lead(session, one.id)
        _read_as(session, one.id, sheet.id, teacher_id)


def _held(session: Session, school_id: int, photograph_id: int) -> PhotoRow:
    """Give a photograph as it is once whoever else changes it is done."""
    photo_of_school(session, school_id, photograph_id)
    return photo_to_read(session, photograph_id) or photo_of_school(
        session, school_id, photograph_id
    )


def _read_as(session: Session, photograph_id: int, sheet_id: int, teacher_id: int) -> None:
    set_photo_state(session, photograph_id, PhotoState.READING, sheet_id=sheet_id)
    record(session, photograph_id, teacher_id, "match", None)
    queue_reading(session, photograph_id)
