"""Photographs of the trial sheet."""

from dataclasses import dataclass

from sqlalchemy import delete, select
from sqlalchemy.orm import Session

from noema.store.base import Json
from noema.store.trial_tables import TrialRow


@dataclass(frozen=True, kw_only=True)
class KeptTrial:
    """A photograph of the trial sheet."""

    id: int
    sha256: str
    reading: Json | None  # what was said and read; None: not yet


def add_trial(session: Session, school_id: int, teacher_id: int, sha256: str) -> int:
    """Keep a teacher's newest trial, in place of those before; gives its number."""
    session.execute(delete(TrialRow).where(TrialRow.teacher_id == teacher_id))
    row = TrialRow(school_id=school_id, teacher_id=teacher_id, sha256=sha256)
    session.add(row)
    session.flush()
    return row.id


def trial_by_id(session: Session, trial_id: int) -> KeptTrial | None:
    """Which trial does a job speak of?"""
    row = session.get(TrialRow, trial_id)
    return None if row is None else _kept(row)


def trial_of_teacher(session: Session, teacher_id: int) -> KeptTrial | None:
    """What did a teacher try?"""
    row = session.scalar(select(TrialRow).where(TrialRow.teacher_id == teacher_id))
    return None if row is None else _kept(row)


def keep_trial_reading(session: Session, trial_id: int, reading: Json) -> None:
    """Keep what was read."""
    session.get_one(TrialRow, trial_id).reading = reading
    session.flush()


def _kept(row: TrialRow) -> KeptTrial:
    return KeptTrial(id=row.id, sha256=row.sha256, reading=row.reading)
