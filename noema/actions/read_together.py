"""Several photographs of one sheet, taken in a lesson, are one attempt.

Each is read and kept by itself. The one that was read first stands for the attempt: it is judged by
what all of them show together.
"""

import hashlib
from dataclasses import dataclass
from datetime import timedelta

from sqlalchemy.orm import Session

from noema.actions.judge_sheets import judge_sheet, standard_of
from noema.actions.known_layout import known_layout
from noema.actions.work_out_exercise import exercise_of, for_sheet
from noema.core.photo.reading import READER_VERSION, Reading
from noema.core.photo.together import read_together, same_paint
from noema.formats.reading_json import reading_from_json, reading_to_json
from noema.store.assignments import assignment_of_school
from noema.store.base import Json
from noema.store.photographs import (
    MOST_TOGETHER,
    PhotoRow,
    led_by,
    open_attempts_of_sheet,
    photo_of_school,
    set_together,
)
from noema.store.readings import add_reading, reading_of, straight_of
from noema.store.sheets import SheetRow

_LESSON = timedelta(minutes=90)
_DIGITS = 12


@dataclass(frozen=True, kw_only=True)
class _Own:
    """What one photograph shows by itself."""

    number: int  # of the reading
    body: Json
    reading: Reading


def join_attempt(session: Session, photo: PhotoRow, sheet: SheetRow, reading: Reading) -> bool:
    """Join an undecided attempt at the same sheet, if one shows the same paint.

    It came within a lesson, or was named when this photograph was handed in. Paint that was gone
    over since makes an attempt of its own. Gives whether one was joined.
    """
    since, until = photo.received_at - _LESSON, photo.received_at + _LESSON
    named = photo.another_of
    if named is not None:
        named = photo_of_school(session, photo.school_id, named).lead_id or named
    for lead in open_attempts_of_sheet(session, sheet.id, since, until, named):
        own = None if lead.id == photo.id else _own_reading(session, lead, sheet)
        if own is None or not same_paint(reading, own.reading):
            continue
        if len(led_by(session, lead.id)) + 1 < MOST_TOGETHER:
            set_together(session, photo.id, lead.id, sheet.id)
            judge_attempt(session, lead, sheet, own.number, own.reading)
            return True
    return False


def judge_attempt(
    session: Session, photo: PhotoRow, sheet: SheetRow, reading_id: int, reading: Reading
) -> None:
    """Judge the attempt a photograph belongs to, by all of its photographs together."""
    lead = photo
    if photo.lead_id is not None:
        lead = photo_of_school(session, photo.school_id, photo.lead_id)
    together = _as_one(session, lead, sheet)
    if together is not None:
        reading_id, reading = together.number, together.reading
    if together is not None or lead.id == photo.id:
        standard = standard_of(session, sheet.assignment_id)
        judge_sheet(session, lead.id, reading_id, reading, standard, sheet.cells)


def _as_one(session: Session, lead: PhotoRow, sheet: SheetRow) -> _Own | None:
    """Read an attempt's photographs together; None where there is only one."""
    others = led_by(session, lead.id)
    if not others:
        return None
    read = [own for one in (lead, *others) if (own := _own_reading(session, one, sheet))]
    if len(read) < 2:
        return None
    named = ",".join(str(own.number) for own in read)
    basis = f"together:{hashlib.sha256(named.encode()).hexdigest()[:_DIGITS]}"
    kept = reading_of(session, lead.id, sheet.id, READER_VERSION, basis)
    if kept is None:
        first, reading = read[0], read_together([own.reading for own in read])
        body = {
            **reading_to_json(reading, lead.original_name),
            "outlines": first.body.get("outlines", {}),
            "photos": [own.body.get("photo") for own in read],
        }
        straight = straight_of(session, first.number)
        number = add_reading(session, lead.id, sheet.id, READER_VERSION, body, straight, basis)
        kept = number, body
    return _Own(number=kept[0], body=kept[1], reading=reading_from_json(kept[1]))


def _own_reading(session: Session, photo: PhotoRow, sheet: SheetRow) -> _Own | None:
    """Give what a photograph shows by itself, by all that is known of its sheet now."""
    assignment = assignment_of_school(session, photo.school_id, sheet.assignment_id)
    exercise = for_sheet(exercise_of(session, assignment), sheet.cells)
    basis = known_layout(session, photo, sheet, exercise).basis
    kept = reading_of(session, photo.id, sheet.id, READER_VERSION, basis)
    if kept is None:
        return None
    return _Own(number=kept[0], body=kept[1], reading=reading_from_json(kept[1]))
