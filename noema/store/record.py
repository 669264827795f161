"""The record of what was done at a school; lines are added, and go with their age alone."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import delete, func, insert, select, text, update
from sqlalchemy.orm import Session

from noema.core.joining.deeds import Deed
from noema.store.account_tables import RecordEntry
from noema.store.leaves import has_words
from noema.store.tables import School

_LONGEST_NAME, _LONGEST_ABOUT, _LONGEST_ADDRESS = 120, 200, 64


@dataclass(frozen=True, kw_only=True)
class NewEntry:
    """Something that was done just now."""

    school_id: int
    deed: Deed
    by_id: int | None
    by_name: str
    about: str
    address: str


@dataclass(frozen=True, kw_only=True)
class EntryRow:
    """A line of the record."""

    id: int
    deed: Deed
    by_name: str
    about: str
    address: str
    made_at: datetime


@dataclass(frozen=True, kw_only=True)
class RecordWanted:
    """Which lines are asked for."""

    deed: Deed | None = None
    words: str = ""  # in who did it or what it was about
    before: int | None = None  # lines older than this one
    most: int = 100


def note_deed(session: Session, new: NewEntry) -> None:
    """Add a line."""
    session.execute(
        insert(RecordEntry).values(
            school_id=new.school_id,
            deed=new.deed.value,
            by_id=new.by_id,
            by_name=new.by_name[:_LONGEST_NAME],
            about=new.about[:_LONGEST_ABOUT],
            address=new.address[:_LONGEST_ADDRESS],
        )
    )


def record_of(session: Session, school_id: int, wanted: RecordWanted) -> tuple[EntryRow, ...]:
    """What was done at a school, the newest first?"""
    question = select(RecordEntry).where(RecordEntry.school_id == school_id)
    if wanted.deed is not None:
        question = question.where(RecordEntry.deed == wanted.deed.value)
    if wanted.words:
        question = question.where(
            has_words(wanted.words, RecordEntry.by_name + " " + RecordEntry.about)
        )
    if wanted.before is not None:
        question = question.where(RecordEntry.id < wanted.before)
    rows = session.scalars(question.order_by(RecordEntry.id.desc()).limit(wanted.most))
    return tuple(
        EntryRow(
            id=row.id,
            deed=Deed(row.deed),
            by_name=row.by_name,
            about=row.about,
            address=row.address,
            made_at=row.made_at,
        )
        for row in rows
    )


def record_months_of(session: Session, school_id: int) -> int:
    """For how many months is a school's record kept?"""
    return session.scalars(select(School.record_months).where(School.id == school_id)).one()


def keep_record_months(session: Session, school_id: int, months: int) -> None:
    """Keep a school's record for some months."""
    session.execute(update(School).where(School.id == school_id).values(record_months=months))


def forget_old_record(session: Session, now: datetime) -> int:
    """Remove lines that are older than their school keeps them; gives how many there were."""
    session.execute(text("SELECT set_config('noema.forgetting', 'on', true)"))
    old = RecordEntry.made_at < now - func.make_interval(0, School.record_months)
    gone = delete(RecordEntry).where(RecordEntry.school_id == School.id, old)
    count = len(session.scalars(gone.returning(RecordEntry.id)).all())
    session.execute(text("SELECT set_config('noema.forgetting', 'off', true)"))
    return count
