"""Wrong tries to come in, counted where every process of the pages sees them.

Each count leaks: after so many seconds one wrong try is forgotten, so that nobody is locked out,
and who guesses is slowed down to that pace.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.store.student_tables import Guess


@dataclass(frozen=True, kw_only=True)
class Limit:
    """How many wrong tries something takes before it is slowed down."""

    of_sha256: str  # whose
    most: int
    forgotten_s: float  # seconds after which one of them is forgotten


def seconds_to_wait(session: Session, limits: Sequence[Limit], now: datetime) -> float:
    """How long until another try, by the strictest of some limits? 0: at once."""
    counted = {
        row.of_sha256: (row.wrong, row.noted_at)
        for row in session.execute(
            select(Guess.of_sha256, Guess.wrong, Guess.noted_at).where(
                Guess.of_sha256.in_([limit.of_sha256 for limit in limits])
            )
        )
    }
    waits = [0.0]
    for limit in limits:
        wrong, noted_at = counted.get(limit.of_sha256, (0.0, now))
        left = max(0.0, wrong - (now - noted_at).total_seconds() / limit.forgotten_s)
        waits.append((left + 1.0 - limit.most) * limit.forgotten_s)
    return max(waits)


def note_wrong(session: Session, limits: Sequence[Limit], now: datetime) -> None:
    """Count a wrong try."""
    for limit in sorted(limits, key=lambda one: one.of_sha256):
        passed = func.extract("epoch", now - Guess.noted_at) / limit.forgotten_s
        first = insert(Guess).values(of_sha256=limit.of_sha256, wrong=1.0, noted_at=now)
        session.execute(
            first.on_conflict_do_update(
                index_elements=[Guess.of_sha256],
                set_={
                    "wrong": func.greatest(0.0, Guess.wrong - passed) + 1.0,
                    "noted_at": now,
                },
            )
        )


def forget_guesses(session: Session, limit: Limit) -> None:
    """Forget what was counted, once somebody came in."""
    session.execute(delete(Guess).where(Guess.of_sha256 == limit.of_sha256))


def forget_old_guesses(session: Session, now: datetime) -> None:
    """Forget what no limit goes by any more."""
    session.execute(delete(Guess).where(Guess.noted_at < now - timedelta(days=1)))
