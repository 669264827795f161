"""Old photographs are read again by a better reader, or one that knows more.

Every earlier reading and judgement is kept, and what a teacher decided stands; only what the
attempt is judged by moves on.
"""

from dataclasses import replace

from sqlalchemy.orm import Session

from noema.actions.known_layout import known_layout
from noema.actions.read_photograph import keep_reading
from noema.actions.read_together import judge_attempt
from noema.actions.work_out_exercise import exercise_of, for_sheet
from noema.core.errors import BadPicture, Refused
from noema.core.photo.reading import READER_VERSION
from noema.core.photo.stages.identify import find_sheets
from noema.core.progress.states import PhotoState
from noema.devices.file_store import FileStore
from noema.formats.photo_file import open_photo
from noema.formats.reading_json import reading_from_json
from noema.store.assignments import assignment_of_school
from noema.store.photographs import photo_to_read, read_photographs, set_camera
from noema.store.queue import queue_rereading
from noema.store.readings import reading_of
from noema.store.sheets import sheet_of_school

_READ = (PhotoState.READ, PhotoState.TOGETHER)


def read_again(session: Session, school_id: int, assignment_id: int | None = None) -> int:
    """Queue every photograph of a school, or of one assignment, that was read; gives how many."""
    if assignment_id is not None:
        assignment_of_school(session, school_id, assignment_id)
    numbers = read_photographs(session, school_id, assignment_id)
    for photograph_id in numbers:
        queue_rereading(session, photograph_id)
    return len(numbers)


def reread_photograph(session: Session, files: FileStore, photograph_id: int) -> None:
    """Read one photograph again where today's reading could differ from those that are kept."""
    photo = photo_to_read(session, photograph_id)
    if photo is None or photo.state not in _READ or photo.sheet_id is None:
        return
    sheet = sheet_of_school(session, photo.school_id, photo.sheet_id)
    assignment = assignment_of_school(session, photo.school_id, sheet.assignment_id)
    exercise = for_sheet(exercise_of(session, assignment), sheet.cells)
    known = known_layout(session, photo, sheet, exercise)
    kept = reading_of(session, photo.id, sheet.id, READER_VERSION, known.basis)
    if kept is not None:
        # Today's reader read it so already; today's judge may still see it otherwise.
        if sheet.student_id is not None:
            judge_attempt(session, photo, sheet, kept[0], reading_from_json(kept[1]))
        return
    try:
        picture = open_photo(files.get(photo.sha256))
    except BadPicture:
        return  # it was read once; that reading stays
    if picture.camera != photo.camera:  # received before cameras were kept
        set_camera(session, photo.id, picture.camera)
        photo = replace(photo, camera=picture.camera)
        known = known_layout(session, photo, sheet, exercise)
    found = find_sheets(picture)
    try:
        read = known.read(picture, found, found.part(photo.part), check_code=False)
    except Refused:
        return  # an outline today's reader can't use; what was read by it stays
    reading_id, reading = keep_reading(session, files, photo, sheet, read, known.basis)
    if reading.found and sheet.student_id is not None:
        judge_attempt(session, photo, sheet, reading_id, reading)
