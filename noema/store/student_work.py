"""What a student has to do, what they handed in, and what they thought of it."""

from collections.abc import Collection
from dataclasses import dataclass

from sqlalchemy import ColumnElement, or_, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, aliased

from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.core.planning.unit import Unit
from noema.core.progress.states import PhotoState
from noema.store.assignments import AssignmentRow, assignments_where, still_given
from noema.store.classes import unit_of
from noema.store.reviews import AttemptRow, attempts_where
from noema.store.sheets import SheetRow, sheets_where
from noema.store.student_tables import SelfCheck, Upload
from noema.store.tables import (
    Assignment,
    Batch,
    Enrolment,
    Photograph,
    SchoolClass,
    Sheet,
    StudentTerms,
)
from noema.store.work import WorkRow, excused_too, work_where


@dataclass(frozen=True, kw_only=True)
class ClassOfStudent:
    """A class a student is in."""

    id: int
    name: str
    unit: Unit
    sees_at_once: bool  # readings, before the teacher's review
    names_colours: bool = False  # beside them, at the bench


def classes_of_student(session: Session, student_id: int) -> tuple[ClassOfStudent, ...]:
    """Which classes that go on is a student in?"""
    rows = session.scalars(
        select(SchoolClass)
        .join(Enrolment, Enrolment.class_id == SchoolClass.id)
        .where(Enrolment.student_id == student_id, SchoolClass.archived_at.is_(None))
        .order_by(SchoolClass.name)
    )
    return tuple(
        ClassOfStudent(
            id=row.id,
            name=row.name,
            unit=unit_of(row),
            sees_at_once=row.sees_at_once,
            names_colours=row.names_colours,
        )
        for row in rows
    )


def given_to_student(session: Session, student_id: int) -> tuple[AssignmentRow, ...]:
    """What has been given to the classes a student is in and still stands, by class and week?"""
    return assignments_where(session, _given_to(student_id), still_given())


def given_one_to_student(session: Session, student_id: int, assignment_id: int) -> AssignmentRow:
    """Which assignment is this, if it was given to a class of the student's, or they have a sheet?

    So nobody loses sight of what they painted when they move or a class is archived.
    """
    own = select(Sheet.assignment_id).where(Sheet.student_id == student_id)
    theirs = or_(_given_to(student_id), Assignment.id.in_(own))
    rows = assignments_where(session, theirs, Assignment.id == assignment_id)
    if not rows:
        raise NotFound(gettext("There is no such exercise of yours."))
    return rows[0]


def work_of_student(session: Session, student_id: int) -> dict[int, WorkRow]:
    """Where does a student stand, by assignment? Nothing means nothing was printed."""
    found = work_where(session, Sheet.student_id == student_id)
    found = excused_too(session, found, StudentTerms.student_id == student_id)
    return {assignment_id: work for (_, assignment_id), work in found.items()}


def sheets_of_student(
    session: Session, student_id: int, assignment_id: int
) -> tuple[SheetRow, ...]:
    """Which sheets does a student have for an assignment, the newest last?"""
    return sheets_where(
        session, Sheet.student_id == student_id, Sheet.assignment_id == assignment_id
    )


def given_again(session: Session, student_id: int) -> frozenset[int]:
    """Of which assignments has a student a newer sheet that they haven't photographed yet?"""
    newer = aliased(Sheet)
    has_newer = select(newer.id).where(
        newer.assignment_id == Sheet.assignment_id,
        newer.student_id == Sheet.student_id,
        newer.attempt > Sheet.attempt,
    )
    has_photo = select(Photograph.id).where(Photograph.sheet_id == Sheet.id)
    was_sent = (
        select(Photograph.id)
        .join(Batch, Batch.id == Photograph.batch_id)
        .where(
            Batch.student_id == Sheet.student_id,
            Batch.assignment_id == Sheet.assignment_id,
            Photograph.received_at > Sheet.printed_at,
        )
    )
    question = select(Sheet.assignment_id).where(
        Sheet.student_id == student_id,
        Sheet.attempt > 1,
        ~has_newer.exists(),
        ~has_photo.exists(),
        ~was_sent.exists(),
    )
    return frozenset(session.scalars(question))


def sheet_of_student(session: Session, student_id: int, sheet_id: int) -> SheetRow:
    """Which sheet is this, if it is the student's?"""
    rows = sheets_where(session, Sheet.student_id == student_id, Sheet.id == sheet_id)
    if not rows:
        raise NotFound(gettext("There is no such sheet of yours."))
    return rows[0]


def attempts_of_student(
    session: Session, student_id: int, assignment_id: int | None = None
) -> tuple[AttemptRow, ...]:
    """What did a student hand in that was judged, in every class, oldest first?"""
    conditions = [Sheet.student_id == student_id, Photograph.state == PhotoState.READ.value]
    if assignment_id is not None:
        conditions.append(Sheet.assignment_id == assignment_id)
    return attempts_where(session, *conditions)


@dataclass(frozen=True, kw_only=True)
class Check:
    """What a student said of their sheet before they saw its reading."""

    thinks: tuple[str, ...] | None  # cells that hold; None: they chose not to say


def check_of(session: Session, photograph_id: int) -> Check | None:
    """What did the student think? None where nothing was said yet."""
    return checks_of(session, [photograph_id]).get(photograph_id)


def checks_of(session: Session, photograph_ids: Collection[int]) -> dict[int, Check]:
    """What did students think of some photographs' sheets?"""
    rows = session.scalars(select(SelfCheck).where(SelfCheck.photograph_id.in_(photograph_ids)))
    return {
        row.photograph_id: Check(thinks=None if row.thinks is None else tuple(row.thinks))
        for row in rows
    }


def keep_check(session: Session, photograph_id: int, thinks: Collection[str] | None) -> None:
    """Keep what a student thought; what was said first stands."""
    said = None if thinks is None else sorted(thinks)
    session.execute(
        insert(SelfCheck)
        .values(photograph_id=photograph_id, thinks=said)
        .on_conflict_do_nothing(index_elements=["photograph_id"])
    )


@dataclass(frozen=True, kw_only=True)
class UploadRow:
    """A photograph on its way."""

    id: str
    assignment_id: int
    name: str
    size_bytes: int
    photograph_id: int | None = None  # once it was whole and taken in
    another_of: int | None = None  # the photograph whose sheet it shows once more


def add_upload(session: Session, student_id: int, upload: UploadRow) -> None:
    """Note that a photograph is on its way."""
    session.add(
        Upload(
            id=upload.id,
            student_id=student_id,
            assignment_id=upload.assignment_id,
            name=upload.name,
            size_bytes=upload.size_bytes,
            another_of_id=upload.another_of,
        )
    )
    session.flush()


def upload_of_student(session: Session, student_id: int, upload_id: str) -> UploadRow:
    """Which upload is this, if it is the student's? Held, so that its pieces come one by one."""
    row = session.scalar(
        select(Upload)
        .where(Upload.student_id == student_id, Upload.id == upload_id)
        .with_for_update()
    )
    if row is None:
        raise NotFound(gettext("There is no such photograph of yours on its way: send it again."))
    return UploadRow(
        id=row.id,
        assignment_id=row.assignment_id,
        name=row.name,
        size_bytes=row.size_bytes,
        photograph_id=row.photograph_id,
        another_of=row.another_of_id,
    )


def uploads_under_way(session: Session, student_id: int) -> tuple[str, ...]:
    """Which photographs of a student's are still on their way, the oldest first?"""
    return tuple(
        session.scalars(
            select(Upload.id)
            .where(Upload.student_id == student_id, Upload.photograph_id.is_(None))
            .order_by(Upload.made_at, Upload.id)
        )
    )


def end_upload(session: Session, upload_id: str, photograph_id: int | None) -> None:
    """Note what became of an upload; without a photograph it is forgotten."""
    row = session.get_one(Upload, upload_id)
    if photograph_id is None:
        session.delete(row)
    else:
        row.photograph_id = photograph_id
    session.flush()


def _given_to(student_id: int) -> ColumnElement[bool]:
    mine = select(Enrolment.class_id).where(Enrolment.student_id == student_id)
    return Assignment.class_id.in_(mine) & SchoolClass.archived_at.is_(None)
