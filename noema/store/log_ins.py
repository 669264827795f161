"""Log-ins as rows: each ends by leaving, by being shown out, by a new password or card, by time."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import ColumnElement, delete, or_, select, update
from sqlalchemy.orm import Session

from noema.store.student_tables import LogIn


@dataclass(frozen=True, kw_only=True)
class LogInRow:
    """Somebody who is in, on one device."""

    teacher_id: int | None
    student_id: int | None
    made_at: datetime
    seen_at: datetime
    ends_at: datetime


def add_log_in(
    session: Session,
    token_sha256: str,
    *,
    teacher_id: int | None,
    student_id: int | None,
    seen_at: datetime,
    ends_at: datetime,
    device: str,
) -> None:
    """Note that somebody came in."""
    session.add(
        LogIn(
            token_sha256=token_sha256,
            teacher_id=teacher_id,
            student_id=student_id,
            made_at=seen_at,
            seen_at=seen_at,
            ends_at=ends_at,
            device=device,
        )
    )
    session.flush()


def log_in_of(session: Session, token_sha256: str, now: datetime) -> LogInRow | None:
    """Whose log-in is this, if it goes on?"""
    row = session.scalar(
        select(LogIn).where(LogIn.token_sha256 == token_sha256, LogIn.ends_at > now)
    )
    if row is None:
        return None
    return LogInRow(
        teacher_id=row.teacher_id,
        student_id=row.student_id,
        made_at=row.made_at,
        seen_at=row.seen_at,
        ends_at=row.ends_at,
    )


def go_on(session: Session, token_sha256: str, seen_at: datetime, ends_at: datetime) -> None:
    """Note that somebody was seen again."""
    session.execute(
        update(LogIn)
        .where(LogIn.token_sha256 == token_sha256, LogIn.seen_at < seen_at)
        .values(seen_at=seen_at, ends_at=ends_at)
    )


def end_log_in(session: Session, token_sha256: str) -> None:
    """End a log-in."""
    session.execute(delete(LogIn).where(LogIn.token_sha256 == token_sha256))


def end_log_ins(
    session: Session, *, teacher_id: int | None = None, student_id: int | None = None
) -> int:
    """End all log-ins of a teacher or a student; gives how many there were."""
    whose: list[ColumnElement[bool]] = []
    if teacher_id is not None:
        whose.append(LogIn.teacher_id == teacher_id)
    if student_id is not None:
        whose.append(LogIn.student_id == student_id)
    return _deleted(session, whose)


def forget_ended(session: Session, now: datetime) -> int:
    """Forget log-ins whose time is up."""
    return _deleted(session, [LogIn.ends_at <= now])


def _deleted(session: Session, conditions: Sequence[ColumnElement[bool]]) -> int:
    if not conditions:
        return 0
    gone = session.scalars(delete(LogIn).where(or_(*conditions)).returning(LogIn.token_sha256))
    return len(gone.all())
