"""What stands in logbooks, and what comes nearest to a colour."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import ColumnElement, Select, delete, exists, func, select
from sqlalchemy.orm import Session

from noema.core.bench.seen import Lab
from noema.core.bench.task import Amount
from noema.core.errors import NotFound
from noema.core.judging.review import ReviewState
from noema.core.language import gettext
from noema.core.logbook.entry import MOST_NEAR, Entry, EntryKind, nearest
from noema.store.base import Json
from noema.store.leaves import has_words
from noema.store.logbook_tables import LogbookRow, cube_of
from noema.store.student_tables import SelfCheck
from noema.store.tables import (
    Assignment,
    Photograph,
    ReadingRow,
    ReviewRow,
    SchoolClass,
    Sheet,
    Student,
)

CANDIDATES = 300
"""Nearest by CIELAB's own distance, which the index knows; CIEDE2000 ranks them. With so many the
ten nearest by CIEDE2000 are nearly always among them (docs/measurements.md)."""

MOST_LISTED, MOST_OUT = 60, 50_000


@dataclass(frozen=True, kw_only=True)
class LogScope:
    """Whose entries are looked at."""

    school_id: int
    class_id: int | None = None
    student_id: int | None = None
    with_shared: bool = False  # also what the class's teachers put in
    for_painter: bool = False  # without cells that their painter may not see yet


@dataclass(frozen=True, kw_only=True)
class LogSource:
    """What an entry goes back to."""

    school_id: int
    class_id: int | None = None
    student_id: int | None = None
    photograph_id: int | None = None
    practice_id: int | None = None
    spot_id: int | None = None
    made_at: datetime | None = None  # now, if nothing else is said


@dataclass(frozen=True, kw_only=True)
class KeptEntry:
    """An entry as it is kept."""

    id: int
    entry: Entry
    student_id: int | None
    student: str  # empty for a teacher's or the school's own
    class_id: int | None  # none: the school's own
    photograph_id: int | None
    practice_id: int | None
    made_at: datetime
    away: float | None = None  # CIEDE2000, where a colour was asked for


def add_entries(session: Session, source: LogSource, entries: Sequence[Entry]) -> None:
    """Put entries in."""
    for one in entries:
        lightness, a, b = one.lab
        session.add(
            LogbookRow(
                school_id=source.school_id,
                class_id=source.class_id,
                student_id=source.student_id,
                photograph_id=source.photograph_id,
                practice_id=source.practice_id,
                spot_id=source.spot_id,
                kind=one.kind.value,
                title=one.title[:200],
                words=one.words[:400],
                parts=[{"tube": part.tube, "volume": part.volume} for part in one.parts],
                lightness=lightness,
                a=a,
                b=b,
                asked=None if one.asked is None else list(one.asked),
                made_at=source.made_at or func.now(),
            )
        )
    session.flush()


def source_of_reading(session: Session, reading_id: int) -> LogSource | None:
    """Whose sheet was read? None: no student's."""
    row = session.execute(
        select(
            Photograph.id,
            Photograph.school_id,
            Photograph.received_at,
            Assignment.class_id,
            Sheet.student_id,
        )
        .join(ReadingRow, ReadingRow.photograph_id == Photograph.id)
        .join(Sheet, Sheet.id == ReadingRow.sheet_id)
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .where(ReadingRow.id == reading_id, Sheet.student_id.is_not(None))
    ).one_or_none()
    if row is None:
        return None
    return LogSource(
        school_id=row.school_id,
        class_id=row.class_id,
        student_id=row.student_id,
        photograph_id=row.id,
        made_at=row.received_at,
    )


def forget_photograph(session: Session, photograph_id: int) -> None:
    """Take out what a photograph's cells put in, before they are put in anew."""
    session.execute(delete(LogbookRow).where(LogbookRow.photograph_id == photograph_id))


def drop_note(session: Session, student_id: int, entry_id: int) -> None:
    """Take a student's own note out."""
    gone = session.scalar(
        delete(LogbookRow)
        .where(
            LogbookRow.id == entry_id,
            LogbookRow.student_id == student_id,
            LogbookRow.kind == EntryKind.NOTE.value,
        )
        .returning(LogbookRow.id)
    )
    if gone is None:
        raise NotFound(gettext("There is no such note of yours."))


def nearest_entries(
    session: Session, scope: LogScope, lab: Lab, most: int = MOST_NEAR
) -> tuple[KeptEntry, ...]:
    """Which entries come nearest to a colour, nearest first?"""
    question = _entries(scope).order_by(LogbookRow.place.op("<->")(cube_of(lab))).limit(CANDIDATES)
    rows = session.execute(question).all()
    labs = [(row.lightness, row.a, row.b) for row, _ in rows]
    return tuple(
        _kept(rows[near.place][0], rows[near.place][1], near.away)
        for near in nearest(labs, lab, most)
    )


def latest_entries(
    session: Session, scope: LogScope, words: str = "", most: int = MOST_LISTED
) -> tuple[KeptEntry, ...]:
    """What was put in last, of all or of what speaks of some words?"""
    question = _entries(scope)
    question = question.where(has_words(words, LogbookRow.title, LogbookRow.words))
    rows = session.execute(question.order_by(LogbookRow.id.desc()).limit(most))
    return tuple(_kept(row, name) for row, name in rows)


def all_entries(session: Session, scope: LogScope) -> tuple[Entry, ...]:
    """What stands in a logbook, the oldest first?"""
    rows = session.execute(_entries(scope).order_by(LogbookRow.id).limit(MOST_OUT))
    return tuple(_kept(row, name).entry for row, name in rows)


def count_entries(session: Session, scope: LogScope) -> int:
    """How many entries does it hold?"""
    return session.scalar(select(func.count(LogbookRow.id)).where(*_where(scope))) or 0


def _entries(scope: LogScope) -> Select[LogbookRow, str]:
    return (
        select(LogbookRow, Student.display_name)
        .outerjoin(Student, Student.id == LogbookRow.student_id)
        .where(*_where(scope))
    )


def _where(scope: LogScope) -> list[ColumnElement[bool]]:
    found: list[ColumnElement[bool]] = [LogbookRow.school_id == scope.school_id]
    if scope.student_id is not None:
        own = LogbookRow.student_id == scope.student_id
        shared = LogbookRow.student_id.is_(None) & (
            LogbookRow.class_id.is_(None) | (LogbookRow.class_id == scope.class_id)
        )
        found.append(own | shared if scope.with_shared else own)
    elif scope.class_id is not None:
        found.append(LogbookRow.class_id == scope.class_id)
    if scope.for_painter:
        found.append(LogbookRow.photograph_id.is_(None) | _returned() | _seen_at_once())
    return found


def _returned() -> ColumnElement[bool]:
    """The teacher has had their word on the sheet a cell stands on."""
    return exists().where(
        ReviewRow.photograph_id == LogbookRow.photograph_id,
        ReviewRow.state != ReviewState.OPEN.value,
    )


def _seen_at_once() -> ColumnElement[bool]:
    """Its class sees readings at once, and its painter has said what they think of it."""
    return exists().where(
        SelfCheck.photograph_id == LogbookRow.photograph_id,
        SchoolClass.id == LogbookRow.class_id,
        SchoolClass.sees_at_once,
    )


def _kept(row: LogbookRow, student: str | None, away: float | None = None) -> KeptEntry:
    asked = row.asked
    return KeptEntry(
        id=row.id,
        entry=Entry(
            kind=EntryKind(row.kind),
            title=row.title,
            lab=(row.lightness, row.a, row.b),
            parts=tuple(_amount(part) for part in row.parts),
            asked=None if asked is None else (asked[0], asked[1], asked[2]),
            words=row.words,
            made_on=row.made_at.date().isoformat(),
        ),
        student_id=row.student_id,
        student=student or "",
        class_id=row.class_id,
        photograph_id=row.photograph_id,
        practice_id=row.practice_id,
        made_at=row.made_at,
        away=away,
    )


def _amount(part: Json) -> Amount:
    return Amount(tube=str(part["tube"]), volume=float(str(part["volume"])))
