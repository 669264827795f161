"""Somebody comes in on a device, is seen again, and leaves or is shown out.

A browser keeps a random token; only its hash is kept here, so that a copy of the database lets
nobody in.
"""

from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy.orm import Session

from noema.actions.tokens import hash_of_token, new_token
from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.store.engine import Sessions
from noema.store.log_ins import (
    LogInRow,
    add_log_in,
    end_log_in,
    end_log_ins,
    go_on,
    log_in_of,
)
from noema.store.people import teacher_by_email

_LONGEST = timedelta(days=30)
"""A log-in ends so long after it began, however often somebody is seen."""

_NOTED = timedelta(minutes=1)
"""Being seen is written down no more often than this."""


@dataclass(frozen=True, kw_only=True)
class Who:
    """A teacher or a student, by number."""

    teacher_id: int | None = None
    student_id: int | None = None


def come_in(session: Session, who: Who, now: datetime, lasts: timedelta, device: str = "") -> str:
    """Let somebody in until they weren't seen for some time; gives the token of their browser."""
    token = new_token()
    add_log_in(
        session,
        hash_of_token(token),
        teacher_id=who.teacher_id,
        student_id=who.student_id,
        seen_at=now,
        ends_at=now + lasts,
        device=device,
    )
    return token


def who_is_in(session: Session, token: str, now: datetime) -> LogInRow | None:
    """Say whose token this is, while their log-in goes on."""
    return log_in_of(session, hash_of_token(token), now)


def note_seen(sessions: Sessions, token: str, row: LogInRow, now: datetime) -> None:
    """Let a log-in go on, in a transaction of its own: no long upload keeps others waiting."""
    if now - row.seen_at < _NOTED:
        return
    ends = min(now + (row.ends_at - row.seen_at), row.made_at + _LONGEST)
    with sessions.begin() as session:
        go_on(session, hash_of_token(token), now, ends)


def leave(session: Session, token: str) -> None:
    """End a log-in: its token opens nothing any more."""
    end_log_in(session, hash_of_token(token))


def show_out(session: Session, email: str) -> int:
    """End all log-ins of a teacher; gives how many there were."""
    teacher = teacher_by_email(session, email)
    if teacher is None:
        raise NotFound(gettext("No teacher logs in as “%(email)s”.", email=email[:80]))
    return end_log_ins(session, teacher_id=teacher.id)
