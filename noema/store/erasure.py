"""Students who move, turn out to be one, or leave; and pictures that are kept no longer."""

from collections.abc import Collection
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import String, cast, delete, func, or_, select, text, update
from sqlalchemy.dialects.postgresql import JSONB, insert
from sqlalchemy.orm import Session

from noema.core.language import gettext
from noema.store.archive import scopes_of, tables_in_order, told_columns
from noema.store.bench_tables import BenchPracticeRow
from noema.store.eye_tables import EyeSeriesRow
from noema.store.files import named_files
from noema.store.logbook_tables import LogbookRow
from noema.store.picture_tables import HeldRow, PictureRankingRow, PictureRow, PictureSpotRow
from noema.store.planning_tables import LessonMark
from noema.store.register import give_marks_to
from noema.store.student_tables import LeavingFile, LogIn, SelfCheck, Sourced, Upload
from noema.store.tables import (
    Assignment,
    Batch,
    DecisionRow,
    Enrolment,
    JudgementRow,
    KeyRevision,
    Photograph,
    ReadingRow,
    ReviewRow,
    SchoolClass,
    Sheet,
    Student,
    StudentTerms,
)
from noema.store.terms import give_terms_to


def enrol_in(session: Session, student_id: int, class_id: int) -> None:
    """Put a student who is there into another class as well."""
    row = insert(Enrolment).values(class_id=class_id, student_id=student_id)
    session.execute(row.on_conflict_do_nothing())


def leave_class(session: Session, student_id: int, class_id: int) -> None:
    """Take a student out of a class; their sheets stay."""
    session.execute(
        delete(Enrolment).where(Enrolment.class_id == class_id, Enrolment.student_id == student_id)
    )


def give_sheets_to(session: Session, from_id: int, to_id: int) -> None:
    """Give one student's sheets to another, later attempts following the other's own."""
    own = dict(
        session.execute(
            select(Sheet.assignment_id, func.max(Sheet.attempt))
            .where(Sheet.student_id == to_id)
            .group_by(Sheet.assignment_id)
        ).all()
    )
    theirs = session.scalars(
        select(Sheet).where(Sheet.student_id == from_id).order_by(Sheet.attempt, Sheet.id)
    )
    for sheet in theirs:
        own[sheet.assignment_id] = own.get(sheet.assignment_id, 0) + 1
        sheet.student_id, sheet.attempt = to_id, own[sheet.assignment_id]
        session.flush()
    give_marks_to(session, from_id, to_id)
    give_terms_to(session, from_id, to_id)
    for table in (
        Batch,
        Upload,
        Sourced,
        BenchPracticeRow,
        EyeSeriesRow,
        LogbookRow,
        PictureRow,
        HeldRow,
    ):
        session.execute(update(table).where(table.student_id == from_id).values(student_id=to_id))
    classes = session.scalars(select(Enrolment.class_id).where(Enrolment.student_id == from_id))
    for class_id in classes.all():
        enrol_in(session, to_id, class_id)


@dataclass(frozen=True, kw_only=True)
class Gone:
    """What was taken away."""

    photographs: int
    files: frozenset[str]  # SHA-256 of bytes nobody else's record needs


def erase_student(session: Session, student_id: int) -> Gone:
    """Take away a student with every photograph, reading, judgement and word about them.

    What is being written about them just now is waited for, and goes too.
    """
    photos = _held_still(session, student_id)
    files = _files_of(session, photos) | _picture_files(session, student_id)
    # The record of decisions only grows, but for withdrawn consent; until this transaction ends.
    session.execute(text("SET LOCAL noema.erasing = 'on'"))
    readings = select(ReadingRow.id).where(ReadingRow.photograph_id.in_(photos))
    pictures = select(PictureRow.id).where(PictureRow.student_id == student_id)
    spots = select(PictureSpotRow.id).where(PictureSpotRow.picture_id.in_(pictures))
    unkeyed = KeyRevision.key_photograph_id.in_(photos)
    session.execute(
        update(KeyRevision).where(unkeyed).values(key_photograph_id=None, key_labs=None)
    )
    for table, condition in (
        (LogbookRow, LogbookRow.photograph_id.in_(photos)),
        (DecisionRow, DecisionRow.photograph_id.in_(photos)),
        (ReviewRow, ReviewRow.photograph_id.in_(photos)),
        (SelfCheck, SelfCheck.photograph_id.in_(photos)),
        (JudgementRow, JudgementRow.reading_id.in_(readings)),
        (ReadingRow, ReadingRow.photograph_id.in_(photos)),
        (Upload, Upload.student_id == student_id),
        (Photograph, Photograph.id.in_(photos)),
        (Batch, Batch.student_id == student_id),
        (Sheet, Sheet.student_id == student_id),
        (Enrolment, Enrolment.student_id == student_id),
        (Sourced, Sourced.student_id == student_id),
        (LessonMark, LessonMark.student_id == student_id),
        (StudentTerms, StudentTerms.student_id == student_id),
        (LogbookRow, LogbookRow.student_id == student_id),
        (LogbookRow, LogbookRow.spot_id.in_(spots)),
        (HeldRow, (HeldRow.student_id == student_id) | HeldRow.spot_id.in_(spots)),
        (PictureRankingRow, PictureRankingRow.picture_id.in_(pictures)),
        (PictureSpotRow, PictureSpotRow.picture_id.in_(pictures)),
        (PictureRow, PictureRow.student_id == student_id),
        (BenchPracticeRow, BenchPracticeRow.student_id == student_id),
        (EyeSeriesRow, EyeSeriesRow.student_id == student_id),
        (LogIn, LogIn.student_id == student_id),
        (Student, Student.id == student_id),
    ):
        session.execute(delete(table).where(condition))
    session.execute(text("SET LOCAL noema.erasing = 'off'"))
    session.expire_all()
    return Gone(photographs=len(photos), files=_needed_no_more(session, files))


def uploads_of(session: Session, student_id: int) -> tuple[str, ...]:
    """Under which names do a student's unfinished photographs lie?"""
    return tuple(session.scalars(select(Upload.id).where(Upload.student_id == student_id)))


def leave(session: Session, school_id: int, files: Collection[str]) -> None:
    """Note which files are to leave the file store once this transaction is kept."""
    if files:
        rows = [{"school_id": school_id, "sha256": sha256} for sha256 in sorted(files)]
        session.execute(insert(LeavingFile).values(rows).on_conflict_do_nothing())


def leaving_count(session: Session, school_id: int) -> int:
    """How many of a school's files are still on their way out?"""
    count = select(func.count()).where(LeavingFile.school_id == school_id)
    return session.scalar(count) or 0


def leaving_files(session: Session, most: int) -> tuple[tuple[str, datetime], ...]:
    """Which files are to leave, and since when? Others who ask at once get others."""
    rows = session.execute(
        select(LeavingFile.sha256, LeavingFile.made_at)
        .order_by(LeavingFile.made_at, LeavingFile.sha256)
        .limit(most)
        .with_for_update(skip_locked=True)
    )
    return tuple((row.sha256, row.made_at) for row in rows)


def left(session: Session, files: Collection[str]) -> None:
    """Note that files have left, or stay because somebody's record needs them again."""
    session.execute(delete(LeavingFile).where(LeavingFile.sha256.in_(files)))


def traces_of(session: Session, school_id: int, words: Collection[str]) -> dict[str, int]:
    """In which tables of a school does any of some words still stand, and in how many rows?

    Every text and JSON column is searched, but for secrets: what is found must tell nothing else.
    """
    found = {}
    scopes = scopes_of(school_id)
    for table in tables_in_order():
        columns = [c for c in told_columns(table) if isinstance(c.type, (String, JSONB))]
        holds = [cast(c, String).ilike(f"%{_plain(word)}%") for c in columns for word in words]
        if not holds:
            continue
        own = select(func.count()).select_from(table).where(scopes[table.name], or_(*holds))
        count = session.scalar(own)
        if count:
            found[table.name] = count
    return found


def pictures_before(session: Session, school_id: int, day: datetime) -> tuple[int, ...]:
    """Which photographs of a school are older than a day and still have their picture?"""
    return tuple(
        session.scalars(
            select(Photograph.id)
            .where(
                Photograph.school_id == school_id,
                Photograph.received_at < day,
                Photograph.picture_gone_at.is_(None),
            )
            .order_by(Photograph.id)
        )
    )


def classes_of_pictures(session: Session, photograph_ids: Collection[int]) -> dict[str, int]:
    """From how many sheets of which classes are some photographs?"""
    name = func.coalesce(SchoolClass.name, gettext("not matched to a sheet"))
    rows = session.execute(
        select(name, func.count(Photograph.id))
        .select_from(Photograph)
        .outerjoin(Sheet, Sheet.id == Photograph.sheet_id)
        .outerjoin(Assignment, Assignment.id == Sheet.assignment_id)
        .outerjoin(SchoolClass, SchoolClass.id == Assignment.class_id)
        .where(Photograph.id.in_(photograph_ids))
        .group_by(name)
        .order_by(name)
    )
    return {row[0]: row[1] for row in rows}


def drop_pictures(session: Session, photograph_ids: Collection[int], now: datetime) -> Gone:
    """Note that some photographs' pictures are gone; their numbers stay."""
    files = _files_of(session, photograph_ids)
    session.execute(
        update(Photograph)
        .where(Photograph.id.in_(photograph_ids))
        .values(picture_gone_at=now, scan_sha256=None, shown_sha256=None)
    )
    session.execute(
        update(ReadingRow)
        .where(ReadingRow.photograph_id.in_(photograph_ids))
        .values(straight_sha256=None)
    )
    return Gone(photographs=len(photograph_ids), files=_needed_no_more(session, files))


def _held_still(session: Session, student_id: int) -> list[int]:
    """Give a student's photographs once nobody writes about them any more."""
    # Photographs first, as whoever reads one holds it before its sheet: else both would wait.
    _hold_photos(session, student_id)
    for table, condition in (
        (Sheet, Sheet.student_id == student_id),
        (Batch, Batch.student_id == student_id),
        (Student, Student.id == student_id),
    ):
        session.execute(select(table.id).where(condition).order_by(table.id).with_for_update())
    return _hold_photos(session, student_id)


def _hold_photos(session: Session, student_id: int) -> list[int]:
    photos = _photos_of(session, student_id)
    mine = select(Photograph.id).where(Photograph.id.in_(photos)).order_by(Photograph.id)
    session.execute(mine.with_for_update())
    return photos


def _photos_of(session: Session, student_id: int) -> list[int]:
    mine = or_(Sheet.student_id == student_id, Batch.student_id == student_id)
    return list(
        session.scalars(
            select(Photograph.id)
            .join(Batch, Batch.id == Photograph.batch_id)
            .outerjoin(Sheet, Sheet.id == Photograph.sheet_id)
            .where(mine)
        )
    )


def _files_of(session: Session, photos: Collection[int]) -> set[str]:
    rows = session.execute(
        select(
            Photograph.sha256,
            Photograph.scan_sha256,
            Photograph.shown_sha256,
            ReadingRow.straight_sha256,
        )
        .outerjoin(ReadingRow, ReadingRow.photograph_id == Photograph.id)
        .where(Photograph.id.in_(photos))
    )
    return {sha256 for row in rows for sha256 in row if sha256 is not None}


def _picture_files(session: Session, student_id: int) -> set[str]:
    """Give the files of a student's pictures and of what they held against any."""
    pictures = session.execute(
        select(PictureRow.sha256, PictureRow.shown_sha256, PictureRow.small_sha256).where(
            PictureRow.student_id == student_id
        )
    )
    mine = select(PictureRow.id).where(PictureRow.student_id == student_id)
    spots = select(PictureSpotRow.id).where(PictureSpotRow.picture_id.in_(mine))
    held = session.scalars(
        select(HeldRow.sha256).where(
            (HeldRow.student_id == student_id) | HeldRow.spot_id.in_(spots),
            HeldRow.sha256.is_not(None),
        )
    )
    return {name for row in pictures for name in row} | {name for name in held if name is not None}


def _needed_no_more(session: Session, files: set[str]) -> frozenset[str]:
    """Leave out what another photograph still rests on."""
    return frozenset(files - named_files(session, files))


def _plain(word: str) -> str:
    return word.replace("\\", "\\\\").replace("%", r"\%").replace("_", r"\_")
