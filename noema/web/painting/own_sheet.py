"""What a student sees of a photograph they handed in: its check, its reading, what to do next."""

from dataclasses import dataclass

from noema.actions.say_to import sent_back
from noema.actions.work_out_exercise import exercise_of, for_sheet
from noema.core.colour.srgb import lab_to_hex
from noema.core.errors import Refused
from noema.core.exercises.naming import cell_names
from noema.core.judging.judgement import Judgement
from noema.core.judging.review import ReviewState
from noema.core.language import gettext, say_kept
from noema.core.photo.another import why_another
from noema.core.progress.seeing import Seen, seen
from noema.core.progress.states import PhotoState
from noema.core.words.amounts import cell_words, opening
from noema.formats.judgement_json import judgement_from_json, tally_from_json
from noema.formats.reading_json import reading_from_json
from noema.store.assignments import AssignmentRow
from noema.store.judgements import judgements_of, moves_of, reading_behind
from noema.store.photographs import (
    MOST_TOGETHER,
    PhotoRow,
    handed_in_by,
    led_by,
    photo_of_student,
)
from noema.store.reviews import AttemptRow
from noema.store.student_work import (
    Check,
    attempts_of_student,
    check_of,
    classes_of_student,
    given_one_to_student,
    sheet_of_student,
    sheets_of_student,
)
from noema.web.drawings.strip import Strip, make_strip
from noema.web.frame.request import db, looks, the_student
from noema.web.painting.attempts import AttemptLine, attempt_lines, may_see
from noema.web.returning.slip import how_again, moves_said


@dataclass(frozen=True, kw_only=True)
class AskedOf:
    """A cell the student is asked about before the reading is shown."""

    id: str
    label: str
    fill: str  # as expected


@dataclass(frozen=True, kw_only=True)
class SeenColour:
    """A cell's colour as it was read."""

    label: str
    fill: str
    lab: tuple[float, float, float]


@dataclass(frozen=True, kw_only=True)
class Feedback:
    """What was read, once it may be seen."""

    strip: Strip
    sentence: str
    moves: tuple[tuple[str, str], ...]
    state: str
    accepted: bool
    seen: Seen | None  # what the student thought, beside it
    differ: tuple[tuple[str, str], ...]  # cells seen otherwise than read
    how: tuple[str, ...]  # to try again
    earlier: tuple[AttemptLine, ...]
    colours: tuple[SeenColour, ...]  # to be found in the logbook


@dataclass(frozen=True, kw_only=True)
class HandedInPage:
    """A photograph of the student's own."""

    frame: None = None
    name: str
    photo: PhotoRow
    row: AssignmentRow | None
    hints: tuple[str, ...]  # what could be better in the photograph
    busy: bool  # being read
    ask: tuple[AskedOf, ...]  # cells to think about; empty once that is done
    shows_next: bool  # what was read is shown as soon as that is done
    feedback: Feedback | None
    waits: bool  # read and thought about, but the teacher looks first
    reason: str  # why it couldn't be read; empty when it could
    may_add: bool  # another picture of the sheet may join it
    why_another: str  # what that would help with; empty where none is needed


def handed_in_page(photograph_id: int, look: str = "") -> HandedInPage:
    """Collect what may be seen of a photograph by now, and what a look at it said."""
    me = the_student()
    photo = photo_of_student(db(), me.id, photograph_id)
    if photo.lead_id is not None:  # it is read together with another: that one stands for both
        photo = photo_of_student(db(), me.id, photo.lead_id)
    row = _assignment(photo)
    check = check_of(db(), photo.id)
    attempts = () if row is None else attempts_of_student(db(), me.id, row.id)
    own = next((one for one in attempts if one.photograph_id == photo.id), None)
    at_once = row is not None and _sees_at_once(row)
    decided = own is not None and own.review.state is not ReviewState.OPEN
    may = own is not None and check is not None and (at_once or decided)
    may_add = own is not None and own.review.state is ReviewState.OPEN
    may_add = may_add and len(led_by(db(), photo.id)) + 1 < MOST_TOGETHER
    unread = photo.state in (PhotoState.UNREADABLE, PhotoState.UNMATCHED, PhotoState.SET_ASIDE)
    return HandedInPage(
        name=me.display_name,
        photo=photo,
        row=row,
        hints=_hints(look),
        busy=photo.state is PhotoState.READING,
        ask=_asked(photo, row) if check is None and row is not None and not unread else (),
        shows_next=at_once or decided,
        feedback=_feedback(own, attempts, check, row, at_once=at_once) if may and own else None,
        waits=own is not None and check is not None and not may,
        reason=say_kept(photo.reason or "") if unread else "",
        may_add=may_add,
        why_another=_why_another(photo.id) if may_add else "",
    )


def _why_another(photograph_id: int) -> str:
    body = reading_behind(db(), photograph_id)
    return why_another(reading_from_json(body)) if body else ""


def _hints(look: str) -> tuple[str, ...]:
    try:
        found = looks().seen(look) if look else None
    except Refused:
        return ()  # a look that is gone, or a picture whose reading will say so
    return () if found is None else found.words


def _assignment(photo: PhotoRow) -> AssignmentRow | None:
    if photo.sheet_id is not None:
        sheet = sheet_of_student(db(), the_student().id, photo.sheet_id)
        return given_one_to_student(db(), the_student().id, sheet.assignment_id)
    sender = handed_in_by(db(), photo.id)
    return (
        None
        if sender is None
        else given_one_to_student(db(), the_student().id, sender.assignment_id)
    )


def _sees_at_once(row: AssignmentRow) -> bool:
    return any(
        one.id == row.class_id and one.sees_at_once
        for one in classes_of_student(db(), the_student().id)
    )


def _asked(photo: PhotoRow, row: AssignmentRow) -> tuple[AskedOf, ...]:
    """Ask about every cell of the sheet; about none while nobody knows which it is."""
    sheets = sheets_of_student(db(), the_student().id, row.id)
    sheet = next((one for one in sheets if one.id == photo.sheet_id), None)
    if sheet is None:
        return ()
    asked = for_sheet(exercise_of(db(), row), sheet.cells).expected
    names = cell_names(asked)
    fills = lab_to_hex([cell.lab for cell in asked.cells])
    return tuple(
        AskedOf(id=cell.id, label=names[cell.id], fill=fill)
        for cell, fill in zip(asked.cells, fills, strict=True)
    )


def _feedback(
    own: AttemptRow,
    attempts: tuple[AttemptRow, ...],
    check: Check | None,
    row: AssignmentRow | None,
    *,
    at_once: bool,
) -> Feedback:
    assert row is not None  # a judged sheet has an assignment
    judgement = judgement_from_json(judgements_of(db(), [own.photograph_id])[own.photograph_id])
    names = {cell.id: opening(cell_words(cell.label)) for cell in judgement.cells}
    thought = None if check is None or check.thinks is None else check.thinks
    compared = None if thought is None else seen(thought, tally_from_json(own.tally), own.review)
    accepted = own.review.state is ReviewState.ACCEPTED
    moves = moves_of(db(), [own.photograph_id])[own.photograph_id]
    before = [one for one in attempts if one.received_at < own.received_at]
    state, sentence = sent_back(own)
    return Feedback(
        strip=make_strip(judgement, own.review),
        sentence=sentence,
        moves=() if accepted else moves_said(judgement, own.review, row.medium, moves),
        state=state,
        accepted=accepted,
        seen=compared,
        differ=() if compared is None else _differ(compared, names),
        how=how_again(row.medium),
        earlier=attempt_lines(may_see(before, sees_at_once=at_once)),
        colours=_colours(judgement, names),
    )


def _colours(judgement: Judgement, names: dict[str, str]) -> tuple[SeenColour, ...]:
    cells = [cell for cell in judgement.cells if cell.measured]
    fills = lab_to_hex([cell.painted_lab for cell in cells]) if cells else []
    return tuple(
        SeenColour(label=names[cell.id], fill=fill, lab=cell.painted_lab)
        for cell, fill in zip(cells, fills, strict=True)
    )


def _differ(compared: Seen, names: dict[str, str]) -> tuple[tuple[str, str], ...]:
    kind = [
        (names[cell], gettext("you thought it holds; it doesn’t yet")) for cell in compared.too_kind
    ]
    hard = [(names[cell], gettext("you doubted it; it holds")) for cell in compared.too_hard]
    return (*kind, *hard)
