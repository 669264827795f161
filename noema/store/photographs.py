"""Photographs, the batches they came in, and what was read in them."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import ColumnElement, and_, func, or_, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, aliased

from noema.core.errors import NotFound
from noema.core.judging.review import ReviewState
from noema.core.language import gettext
from noema.core.photo.card import ReferenceCard
from noema.core.progress.states import PhotoState
from noema.store.base import Json
from noema.store.paint_tables import CardRow
from noema.store.printers import card_of
from noema.store.reach import seeing_all
from noema.store.tables import Batch, Photograph, ReviewRow, Sheet, Student

_READ = (PhotoState.READ.value, PhotoState.TOGETHER.value)


@dataclass(frozen=True, kw_only=True)
class PhotoRow:
    """A photograph and where it stands."""

    id: int
    school_id: int
    batch_id: int
    sheet_id: int | None
    sha256: str
    shown_sha256: str | None  # of a JPEG, where browsers can't show the original
    size_bytes: int
    megapixels: float
    original_name: str
    state: PhotoState
    reason: str | None
    code_seen: str | None
    received_at: datetime
    part: int  # which of several sheets in it
    student: str | None  # whose sheet it is, once known
    code: str | None  # of that sheet
    picture_gone: bool  # its bytes were removed for good
    lead_id: int | None  # the photograph it is read together with
    camera: str  # make and model of what took it, as far as the file says
    another_of: int | None  # the photograph whose sheet it is said to show once more
    sender: str | None  # the student who handed it in; None: a teacher did


@dataclass(frozen=True, kw_only=True)
class NewPhoto:
    """A photograph about to be recorded; its bytes are already stored."""

    school_id: int
    batch_id: int
    sha256: str
    size_bytes: int
    megapixels: float
    original_name: str
    received_at: datetime
    part: int = 0  # which of several sheets in it
    scan_sha256: str | None = None  # the PDF it is a page of


def add_batch(
    session: Session,
    school_id: int,
    teacher_id: int,
    card_id: int | None = None,
    another_of: int | None = None,
) -> int:
    """Begin a batch, beside whose sheets a card may lie, and give its number.

    It may be of other pictures of a photograph's sheet.
    """
    batch = Batch(
        school_id=school_id, teacher_id=teacher_id, card_id=card_id, another_of_id=another_of
    )
    session.add(batch)
    session.flush()
    return batch.id


def add_student_batch(
    session: Session,
    school_id: int,
    student_id: int,
    assignment_id: int,
    another_of: int | None = None,
) -> int:
    """Begin a batch of a student's own, for one assignment, and give its number.

    It may be of another picture of a photograph's sheet.
    """
    batch = Batch(
        school_id=school_id,
        student_id=student_id,
        assignment_id=assignment_id,
        another_of_id=another_of,
    )
    session.add(batch)
    session.flush()
    return batch.id


def newest_batch(session: Session, school_id: int, teacher_id: int) -> int | None:
    """Which batch did a teacher hand in last?"""
    return session.scalar(
        select(func.max(Batch.id)).where(
            Batch.school_id == school_id, Batch.teacher_id == teacher_id
        )
    )


def batch_of_school(session: Session, school_id: int, batch_id: int) -> int:
    """Is this batch one of the school's?"""
    found = session.scalar(
        select(Batch.id).where(Batch.school_id == school_id, Batch.id == batch_id)
    )
    if found is None:
        raise NotFound(gettext("There is no such batch in your school."))
    return found


def add_photo(session: Session, new: NewPhoto) -> int | None:
    """Record a photograph and give its number; None when the school already has it."""
    values = {field: getattr(new, field) for field in new.__dataclass_fields__}
    return session.scalar(
        insert(Photograph)
        .values(**values, state=PhotoState.READING.value)
        .on_conflict_do_nothing(index_elements=["school_id", "sha256", "part"])
        .returning(Photograph.id)
    )


def photo_by_sha256(session: Session, school_id: int, sha256: str) -> PhotoRow | None:
    """Which photograph of the school has these bytes?"""
    with seeing_all(session):  # it is kept once for the whole school
        rows = _rows(session, Photograph.school_id == school_id, Photograph.sha256 == sha256)
    return rows[0] if rows else None


def photo_of_school(session: Session, school_id: int, photograph_id: int) -> PhotoRow:
    """Which photograph is this, if it is one of the school's?"""
    rows = _rows(session, Photograph.school_id == school_id, Photograph.id == photograph_id)
    if not rows:
        raise NotFound(gettext("There is no such photograph in your school."))
    return rows[0]


def photo_to_read(session: Session, photograph_id: int) -> PhotoRow | None:
    """Which photograph does a job speak of? Locked, so that no other job reads it meanwhile."""
    lock = select(Photograph.id).where(Photograph.id == photograph_id).with_for_update()
    if session.scalar(lock) is None:
        return None
    return _rows(session, Photograph.id == photograph_id)[0]


def handed_in_since(session: Session, student_id: int, since: datetime) -> int:
    """How many photographs did a student hand in since a time?"""
    count = (
        select(func.count(Photograph.id))
        .join(Batch, Batch.id == Photograph.batch_id)
        .where(Batch.student_id == student_id, Photograph.received_at > since)
    )
    return session.scalar(count) or 0


def photos_of_batch(session: Session, batch_id: int) -> tuple[PhotoRow, ...]:
    """What was handed in together, in order?"""
    return _rows(session, Photograph.batch_id == batch_id)


def photos_in_tray(session: Session, school_id: int) -> tuple[PhotoRow, ...]:
    """Which photographs wait for a teacher to say whose they are, or to take them again?"""
    waiting = (PhotoState.UNMATCHED.value, PhotoState.UNREADABLE.value)
    return _rows(session, Photograph.school_id == school_id, Photograph.state.in_(waiting))


def read_photographs(
    session: Session, school_id: int, assignment_id: int | None = None
) -> tuple[int, ...]:
    """Which photographs of a school, or of one assignment, were read, the newest first?"""
    question = (
        select(Photograph.id)
        .where(Photograph.school_id == school_id, Photograph.state.in_(_READ))
        .order_by(Photograph.id.desc())
    )
    if assignment_id is not None:
        question = question.join(Sheet, Sheet.id == Photograph.sheet_id).where(
            Sheet.assignment_id == assignment_id
        )
    return tuple(session.scalars(question))


def set_photo_state(
    session: Session,
    photograph_id: int,
    state: PhotoState,
    *,
    sheet_id: int | None = None,
    reason: str | None = None,
    code_seen: str | None = None,
) -> None:
    """Move a photograph on; a sheet once known stays known unless another is given."""
    photo = session.get_one(Photograph, photograph_id)
    photo.state = state.value
    photo.reason = reason
    photo.code_seen = code_seen or photo.code_seen
    photo.sheet_id = sheet_id or photo.sheet_id


def open_attempts_of_sheet(
    session: Session, sheet_id: int, since: datetime, until: datetime, named: int | None = None
) -> tuple[PhotoRow, ...]:
    """Which undecided attempts at a sheet came in some time, or are named?

    No other is decided on meanwhile.
    """
    session.execute(select(Sheet.id).where(Sheet.id == sheet_id).with_for_update())
    undecided = (
        select(ReviewRow.photograph_id)
        .where(ReviewRow.photograph_id == Photograph.id, ReviewRow.state == ReviewState.OPEN.value)
        .exists()
    )
    return _rows(
        session,
        Photograph.sheet_id == sheet_id,
        Photograph.state == PhotoState.READ.value,
        or_(Photograph.received_at.between(since, until), Photograph.id == named),
        undecided,
    )


def set_together(session: Session, photograph_id: int, lead_id: int, sheet_id: int) -> None:
    """Say that a photograph is read together with another of its sheet."""
    photo = session.get_one(Photograph, photograph_id)
    photo.lead_id = lead_id
    set_photo_state(session, photograph_id, PhotoState.TOGETHER, sheet_id=sheet_id)


def part_from_lead(session: Session, photograph_id: int) -> None:
    """Let a photograph be read by itself again."""
    session.get_one(Photograph, photograph_id).lead_id = None


MOST_TOGETHER = 5
"""Photographs of an attempt."""


def led_by(session: Session, photograph_id: int) -> tuple[PhotoRow, ...]:
    """Which photographs are read together with one?"""
    return _rows(
        session,
        Photograph.lead_id == photograph_id,
        Photograph.state == PhotoState.TOGETHER.value,
    )


@dataclass(frozen=True, kw_only=True)
class Beside:
    """What a photograph is read by beside itself."""

    card: ReferenceCard | None  # that lies beside its batch's sheets
    outline: Json | None  # as a teacher placed it


@dataclass(frozen=True, kw_only=True)
class FromStudent:
    """Who handed a photograph in themselves, and for which assignment."""

    student_id: int
    assignment_id: int


def handed_in_by(session: Session, photograph_id: int) -> FromStudent | None:
    """Which student handed a photograph in? None where a teacher did."""
    row = session.execute(
        select(Batch.student_id, Batch.assignment_id)
        .join(Photograph, Photograph.batch_id == Batch.id)
        .where(Photograph.id == photograph_id)
    ).one()
    if row.student_id is None:
        return None
    return FromStudent(student_id=row.student_id, assignment_id=row.assignment_id)


def photo_of_student(session: Session, student_id: int, photograph_id: int) -> PhotoRow:
    """Which photograph is this, if it is of the student's own sheet or their own and of none?"""
    own = or_(
        Sheet.student_id == student_id,
        and_(Sheet.id.is_(None), Batch.student_id == student_id),
    )
    rows = _rows(session, Photograph.id == photograph_id, own)
    if not rows:
        raise NotFound(gettext("There is no such photograph of yours."))
    return rows[0]


def beside_photo(session: Session, photograph_id: int) -> Beside:
    """Which card lies beside a photograph's sheet, and where did a teacher place its outline?"""
    outline, card = session.execute(
        select(Photograph.outline, CardRow)
        .join(Batch, Batch.id == Photograph.batch_id)
        .outerjoin(CardRow, CardRow.id == Batch.card_id)
        .where(Photograph.id == photograph_id)
    ).one()
    return Beside(card=None if card is None else card_of(card), outline=outline)


def set_shown(session: Session, photo: PhotoRow, sha256: str) -> None:
    """Keep which JPEG is shown for a picture, for every sheet in it."""
    session.execute(
        update(Photograph)
        .where(Photograph.school_id == photo.school_id, Photograph.sha256 == photo.sha256)
        .values(shown_sha256=sha256)
    )


def set_camera(session: Session, photograph_id: int, camera: str) -> None:
    """Keep what a photograph was taken with."""
    session.get_one(Photograph, photograph_id).camera = camera


def set_outline(session: Session, photograph_id: int, outline: Json) -> None:
    """Keep where a teacher placed a photograph's cells."""
    session.get_one(Photograph, photograph_id).outline = outline


def _rows(session: Session, *conditions: ColumnElement[bool]) -> tuple[PhotoRow, ...]:
    sender = aliased(Student)
    question = (
        select(
            Photograph, Student.display_name, Sheet.code, Batch.another_of_id, sender.display_name
        )
        .join(Batch, Batch.id == Photograph.batch_id)
        .outerjoin(Sheet, Sheet.id == Photograph.sheet_id)
        .outerjoin(Student, Student.id == Sheet.student_id)
        .outerjoin(sender, sender.id == Batch.student_id)
        .where(*conditions)
        .order_by(Photograph.id)
    )
    return tuple(_row(*row) for row in session.execute(question))


def _row(
    photo: Photograph,
    student: str | None,
    code: str | None,
    another_of: int | None,
    sender: str | None,
) -> PhotoRow:
    return PhotoRow(
        id=photo.id,
        school_id=photo.school_id,
        batch_id=photo.batch_id,
        sheet_id=photo.sheet_id,
        sha256=photo.sha256,
        shown_sha256=photo.shown_sha256,
        size_bytes=photo.size_bytes,
        megapixels=photo.megapixels,
        original_name=photo.original_name,
        state=PhotoState(photo.state),
        reason=photo.reason,
        code_seen=photo.code_seen,
        received_at=photo.received_at,
        part=photo.part,
        student=student,
        code=code,
        picture_gone=photo.picture_gone_at is not None,
        lead_id=photo.lead_id,
        camera=photo.camera or "",
        another_of=another_of,
        sender=sender,
    )
