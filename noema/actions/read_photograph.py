"""A stored photograph is read, matched to its student and judged.

Doing it twice changes nothing: a reading exists once for a photograph, a sheet and a version of the
reader, and the photograph's row is held while it is read.
"""

from dataclasses import replace

from sqlalchemy.orm import Session

from noema.actions.known_layout import known_layout
from noema.actions.learn_printer import ask_to_learn
from noema.actions.learn_tubes import ask_to_learn_tubes
from noema.actions.read_together import join_attempt, judge_attempt
from noema.actions.show_photograph import show_photograph
from noema.actions.work_out_exercise import exercise_of, for_sheet
from noema.core.errors import BadOutline, BadPicture
from noema.core.language import N_
from noema.core.photo.hints import hints
from noema.core.photo.no_sheet import why_no_sheet
from noema.core.photo.picture import Picture
from noema.core.photo.read import ReadSheet
from noema.core.photo.reading import READER_VERSION, Reading
from noema.core.photo.stages.identify import Identified, IdentifiedSheet, identify
from noema.core.progress.states import PhotoState
from noema.devices.file_store import FileStore
from noema.formats.photo_file import jpeg_bytes, open_photo
from noema.formats.reading_json import reading_from_json, reading_to_json
from noema.store.assignments import assignment_of_school
from noema.store.judgements import is_judged
from noema.store.photographs import (
    NewPhoto,
    PhotoRow,
    add_photo,
    beside_photo,
    handed_in_by,
    photo_to_read,
    set_camera,
    set_photo_state,
)
from noema.store.queue import queue_reading
from noema.store.readings import add_reading, reading_of
from noema.store.sheets import SheetRow, sheet_by_code, sheet_of_school
from noema.store.student_work import sheets_of_student
from noema.store.tries import count_try, stumbled_count, stumbled_over

_MOST_SHEETS = 20  # in one photograph
_ALL = 1000  # tries, more than any photograph has
_LOOK_AGAIN = N_("It is kept; say whose it is, or photograph the sheet again.")
_NOT_YOURS = N_("This sheet belongs to somebody else: hand in your own, or ask your teacher.")
_STUMBLED = N_("Noema stumbled over this picture.")
_NO_CODE = N_("The sheet is there but its code can't be read.")
_OTHER_CODE = N_("No sheet of your school has the code on it.")


def read_photograph(session: Session, files: FileStore, photograph_id: int) -> None:
    """Read one photograph as far as it can be read; what happened is in its state."""
    photo = photo_to_read(session, photograph_id)
    if photo is None or photo.state is not PhotoState.READING:
        return
    try:
        picture = open_photo(files.get(photo.sha256))
    except BadPicture as wrong:
        set_photo_state(session, photo.id, PhotoState.UNREADABLE, reason=str(wrong))
        return
    photo = _taken_with(session, photo, picture.camera)
    if photo.sheet_id is not None and beside_photo(session, photo.id).outline is not None:
        _read_as_placed(session, files, photo, picture)
        return
    show_photograph(session, files, photo)  # so that nobody waits for it at the first look
    found = identify(picture)
    if photo.part == 0:
        _add_others(session, photo, len(found.sheets))
    own = found.part(photo.part)
    sheet = _sheet_of(session, photo, picture, found, own)
    if sheet is not None:
        read_sheet(session, files, photo, sheet, picture, found)


def _taken_with(session: Session, photo: PhotoRow, camera: str) -> PhotoRow:
    set_camera(session, photo.id, camera)
    return replace(photo, camera=camera)


def _read_as_placed(session: Session, files: FileStore, photo: PhotoRow, picture: Picture) -> None:
    """Read by an outline placed by hand; where that fails, what was read before stays."""
    sheet = sheet_of_school(session, photo.school_id, photo.sheet_id or 0)
    try:
        reading = read_sheet(session, files, photo, sheet, picture, Identified())
        reason = " ".join(hints(reading.flags)[:1])
        if reading.found:
            return
    except BadOutline as wrong:
        reason = str(wrong)
    state = PhotoState.READ if is_judged(session, photo.id) else PhotoState.UNREADABLE
    set_photo_state(session, photo.id, state, sheet_id=sheet.id, reason=reason)


def _add_others(session: Session, photo: PhotoRow, sheets: int) -> None:
    """Make every further sheet in a photograph an attempt of its own."""
    for part in range(1, min(sheets, _MOST_SHEETS)):
        new = NewPhoto(
            school_id=photo.school_id,
            batch_id=photo.batch_id,
            sha256=photo.sha256,
            size_bytes=photo.size_bytes,
            megapixels=photo.megapixels,
            original_name=f"{photo.original_name[:180]}, sheet {part + 1}",
            received_at=photo.received_at,
            part=part,
        )
        photograph_id = add_photo(session, new)
        if photograph_id is not None:
            queue_reading(session, photograph_id)


def give_up_reading(session: Session, photograph_id: int) -> None:
    """Say that a photograph couldn't be read for a reason that is Noema's own."""
    photo = photo_to_read(session, photograph_id)
    if photo is not None and photo.state is PhotoState.READING:
        reason = f"{_STUMBLED}\n{_LOOK_AGAIN}"
        set_photo_state(session, photo.id, PhotoState.UNREADABLE, reason=reason)


def stumbled(session: Session, school_id: int) -> int:
    """How many photographs of a school did Noema stumble over?"""
    return stumbled_count(session, school_id, _STUMBLED)


def try_these_again(session: Session, school_id: int) -> int:
    """Read again what Noema stumbled over; gives how many photographs there are."""
    photos = stumbled_over(session, school_id, _STUMBLED)
    for photograph_id in photos:
        set_photo_state(session, photograph_id, PhotoState.READING, reason=None)
        count_try(session, photograph_id, -_ALL)
        queue_reading(session, photograph_id)
    return len(photos)


def _sheet_of(
    session: Session,
    photo: PhotoRow,
    picture: Picture,
    found: Identified,
    seen: IdentifiedSheet | None,
) -> SheetRow | None:
    """Give the sheet a teacher named or the code on the paper names; else set the state."""
    if photo.sheet_id is not None:
        return sheet_of_school(session, photo.school_id, photo.sheet_id)
    if seen is None:
        reason = hints(why_no_sheet(picture.rgb, bool(found.marks.ids)))[0]
        set_photo_state(session, photo.id, PhotoState.UNREADABLE, reason=reason)
        return None
    own = _own_sheet(session, photo)
    if seen.code is None and own is not None:
        return own
    if seen.code is None:
        reason = f"{_NO_CODE}\n{_LOOK_AGAIN}"
        set_photo_state(session, photo.id, PhotoState.UNMATCHED, reason=reason)
        return None
    sheet = sheet_by_code(session, photo.school_id, seen.code)
    if sheet is None:
        reason = f"{_OTHER_CODE}\n{_LOOK_AGAIN}"
        set_photo_state(
            session, photo.id, PhotoState.UNMATCHED, reason=reason, code_seen=seen.code[:40]
        )
    elif own is not None and sheet.student_id != own.student_id:
        set_photo_state(
            session, photo.id, PhotoState.UNMATCHED, reason=_NOT_YOURS, code_seen=sheet.code
        )
        return None
    return sheet


def _own_sheet(session: Session, photo: PhotoRow) -> SheetRow | None:
    """Give the newest sheet of the student who handed it in; None where a teacher did."""
    sender = handed_in_by(session, photo.id)
    if sender is None:
        return None
    sheets = sheets_of_student(session, sender.student_id, sender.assignment_id)
    return sheets[-1] if sheets else None


def read_sheet(
    session: Session,
    files: FileStore,
    photo: PhotoRow,
    sheet: SheetRow,
    picture: Picture,
    found: Identified,
) -> Reading:
    """Read a photograph as a sheet and judge it; its state says what came of it."""
    assignment = assignment_of_school(session, photo.school_id, sheet.assignment_id)
    exercise = for_sheet(exercise_of(session, assignment), sheet.cells)
    known = known_layout(session, photo, sheet, exercise)
    kept = reading_of(session, photo.id, sheet.id, READER_VERSION, known.basis)
    if kept is None:
        # A sheet named by somebody is believed, whatever its code looks like.
        believed = photo.sheet_id is not None or handed_in_by(session, photo.id) is not None
        read = known.read(picture, found, found.part(photo.part), check_code=not believed)
        reading_id, reading = keep_reading(session, files, photo, sheet, read, known.basis)
    else:
        reading_id, reading = kept[0], reading_from_json(kept[1])
    if not reading.found:
        reason = "\n".join(hints(reading.flags)[:2])
        set_photo_state(session, photo.id, PhotoState.UNREADABLE, sheet_id=sheet.id, reason=reason)
        return reading
    ask_to_learn(session, sheet.assignment_id)
    ask_to_learn_tubes(session, sheet.assignment_id)
    if sheet.student_id is not None:  # a teacher's own sheet is a key, not an attempt
        alone = photo.lead_id is None and not is_judged(session, photo.id)
        if alone and join_attempt(session, photo, sheet, reading):
            return reading
        judge_attempt(session, photo, sheet, reading_id, reading)
    state = PhotoState.READ if photo.lead_id is None else PhotoState.TOGETHER
    set_photo_state(session, photo.id, state, sheet_id=sheet.id)
    return reading


def keep_reading(
    session: Session,
    files: FileStore,
    photo: PhotoRow,
    sheet: SheetRow,
    read: ReadSheet,
    basis: str,
) -> tuple[int, Reading]:
    """Keep a reading with its straightened picture; gives its number and itself."""
    straight = read.straight
    sha256 = None if straight is None else files.put(jpeg_bytes(straight.rgb, straight.icc))
    outlines = {name: [list(point) for point in line] for name, line in read.outlines.items()}
    body = {**reading_to_json(read.reading, photo.original_name), "outlines": outlines}
    reader = read.reading.reader
    number = add_reading(session, photo.id, sheet.id, reader, body, sha256, basis)
    # Judged as it is kept, so that the first judgement and later ones see the same numbers.
    return number, reading_from_json(body)
