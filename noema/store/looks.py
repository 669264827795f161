"""Looks at what cameras see, so that any process of the pages can say what another's look saw."""

from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy import delete, update
from sqlalchemy.orm import Session

from noema.store.engine import Sessions
from noema.store.student_tables import KeptLook

_KEPT = timedelta(hours=1)


@dataclass(frozen=True, kw_only=True)
class LookRow:
    """A look under way, or what it saw."""

    made_at: datetime
    is_over: bool
    saw: dict[str, Any] | None  # None: it isn't over, or the picture couldn't be opened


class KeptLooks:
    """Looks by name, each change at once there for all."""

    def __init__(self, sessions: Sessions) -> None:
        self._sessions = sessions

    def begin(self, name: str) -> None:
        """Note that a look is under way."""
        with self._sessions.begin() as session:
            session.add(KeptLook(name=name))

    def end(self, name: str, saw: dict[str, Any] | None) -> None:
        """Note what it saw; None where the picture couldn't be opened."""
        with self._sessions.begin() as session:
            session.execute(
                update(KeptLook).where(KeptLook.name == name).values(is_over=True, saw=saw)
            )

    def find(self, name: str) -> LookRow | None:
        """Give a look; None where no such look is known."""
        with self._sessions() as session:
            row = session.get(KeptLook, name)
        if row is None:
            return None
        return LookRow(made_at=row.made_at, is_over=row.is_over, saw=row.saw)

    def drop(self, name: str) -> None:
        """Forget one."""
        with self._sessions.begin() as session:
            session.execute(delete(KeptLook).where(KeptLook.name == name))


def forget_looks(session: Session, now: datetime) -> None:
    """Forget looks that nobody asks for any more."""
    session.execute(delete(KeptLook).where(KeptLook.made_at < now - _KEPT))
