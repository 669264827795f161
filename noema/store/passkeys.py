"""Passkeys (W3C Web Authentication): public keys by which people come in without a password."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import delete, select, update
from sqlalchemy.orm import Session

from noema.store.account_tables import Passkey


@dataclass(frozen=True, kw_only=True)
class PasskeyRow:
    """One passkey of somebody's."""

    id: int
    teacher_id: int
    credential: bytes
    public_key: bytes  # COSE
    uses: int  # as the device counts them; 0 for those that don't
    device: str
    made_at: datetime


def add_passkey(
    session: Session,
    teacher_id: int,
    *,
    credential: bytes,
    public_key: bytes,
    uses: int,
    device: str,
) -> None:
    """Keep a passkey."""
    new = Passkey(
        teacher_id=teacher_id,
        credential=credential,
        public_key=public_key,
        uses=uses,
        device=device,
    )
    session.add(new)


def passkeys_of(session: Session, teacher_id: int) -> tuple[PasskeyRow, ...]:
    """Which passkeys has somebody, the oldest first?"""
    question = select(Passkey).where(Passkey.teacher_id == teacher_id).order_by(Passkey.id)
    return tuple(_row(one) for one in session.scalars(question))


def passkey_by_credential(session: Session, credential: bytes) -> PasskeyRow | None:
    """Whose passkey is it?"""
    row = session.scalar(select(Passkey).where(Passkey.credential == credential))
    return None if row is None else _row(row)


def note_use(session: Session, passkey_id: int, uses: int) -> None:
    """Keep how often a passkey was used."""
    session.execute(update(Passkey).where(Passkey.id == passkey_id).values(uses=uses))


def drop_passkeys(session: Session, teacher_id: int, only: int | None = None) -> int:
    """Forget somebody's passkeys, or one of them; gives how many."""
    gone = delete(Passkey).where(Passkey.teacher_id == teacher_id)
    if only is not None:
        gone = gone.where(Passkey.id == only)
    return len(session.scalars(gone.returning(Passkey.id)).all())


def _row(row: Passkey) -> PasskeyRow:
    return PasskeyRow(
        id=row.id,
        teacher_id=row.teacher_id,
        credential=row.credential,
        public_key=row.public_key,
        uses=row.uses,
        device=row.device,
        made_at=row.made_at,
    )
