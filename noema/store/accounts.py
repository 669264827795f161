"""Links that open once, codes, and who works at a school."""

from collections.abc import Collection
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import delete, func, insert, select, update
from sqlalchemy.dialects.postgresql import insert as insert_or
from sqlalchemy.orm import Session

from noema.core.joining.one_use import LinkPurpose
from noema.core.joining.role import StaffRole
from noema.store.account_tables import CodeSecret, OneUseLink, RecoveryCode
from noema.store.student_tables import LogIn
from noema.store.tables import Teacher


@dataclass(frozen=True, kw_only=True)
class LinkRow:
    """A link that goes on."""

    teacher_id: int
    purpose: LinkPurpose
    email: str | None


@dataclass(frozen=True, kw_only=True)
class CodeRow:
    """What somebody's codes are worked out from."""

    token: str
    is_confirmed: bool
    last_step: int
    recovery_codes: int  # that are left


@dataclass(frozen=True, kw_only=True)
class StaffRow:
    """Somebody who works at a school."""

    id: int
    display_name: str
    email: str
    role: StaffRole
    is_disabled: bool
    has_password: bool
    asks_codes: bool
    log_ins: int  # that go on


@dataclass(frozen=True, kw_only=True)
class OwnLogIn:
    """Where somebody is in."""

    token_sha256: str
    device: str
    made_at: datetime
    seen_at: datetime


def add_link(
    session: Session,
    token_sha256: str,
    teacher_id: int,
    purpose: LinkPurpose,
    ends_at: datetime,
    email: str | None = None,
) -> None:
    """Keep a link; those of the same purpose before it end."""
    end_links(session, teacher_id, purpose)
    session.execute(
        insert(OneUseLink).values(
            token_sha256=token_sha256,
            teacher_id=teacher_id,
            purpose=purpose.value,
            email=email,
            ends_at=ends_at,
        )
    )


def link_of(session: Session, token_sha256: str, now: datetime) -> LinkRow | None:
    """What does a link open, if it goes on?"""
    row = session.scalar(
        select(OneUseLink).where(OneUseLink.token_sha256 == token_sha256, OneUseLink.ends_at > now)
    )
    if row is None:
        return None
    return LinkRow(teacher_id=row.teacher_id, purpose=LinkPurpose(row.purpose), email=row.email)


def use_link(session: Session, token_sha256: str, now: datetime) -> LinkRow | None:
    """Use a link up; of two who come at once, one has it."""
    used = (
        delete(OneUseLink)
        .where(OneUseLink.token_sha256 == token_sha256, OneUseLink.ends_at > now)
        .returning(OneUseLink.teacher_id, OneUseLink.purpose, OneUseLink.email)
    )
    row = session.execute(used).one_or_none()
    if row is None:
        return None
    return LinkRow(teacher_id=row.teacher_id, purpose=LinkPurpose(row.purpose), email=row.email)


def end_links(session: Session, teacher_id: int, *purposes: LinkPurpose) -> None:
    """End somebody's links of some purposes."""
    session.execute(
        delete(OneUseLink).where(
            OneUseLink.teacher_id == teacher_id,
            OneUseLink.purpose.in_([purpose.value for purpose in purposes]),
        )
    )


def forget_ended_links(session: Session, now: datetime) -> None:
    """Forget links whose time is up."""
    session.execute(delete(OneUseLink).where(OneUseLink.ends_at <= now))


def staff_of(session: Session, school_id: int, now: datetime, no_password: str) -> list[StaffRow]:
    """Who works at a school, by name? Those who were removed aren't there any more."""
    going_on = (
        select(func.count())
        .where(LogIn.teacher_id == Teacher.id, LogIn.ends_at > now)
        .correlate(Teacher)
        .scalar_subquery()
    )
    asks = CodeSecret.confirmed_at.is_not(None)
    rows = session.execute(
        select(Teacher, going_on, asks)
        .outerjoin(CodeSecret, CodeSecret.teacher_id == Teacher.id)
        .where(Teacher.school_id == school_id, ~Teacher.email.endswith(REMOVED))
        .order_by(Teacher.display_name, Teacher.id)
    )
    return [
        StaffRow(
            id=one.id,
            display_name=one.display_name,
            email=one.email,
            role=StaffRole(one.role),
            is_disabled=one.disabled_at is not None,
            has_password=one.password_hash != no_password,
            asks_codes=bool(has_codes),
            log_ins=count,
        )
        for one, count, has_codes in rows
    ]


REMOVED = "@removed.invalid"
"""How the addresses end of who was removed; RFC 2606 keeps such names free."""


def set_role(session: Session, teacher_id: int, role: StaffRole) -> None:
    """Give somebody another role."""
    session.execute(update(Teacher).where(Teacher.id == teacher_id).values(role=role.value))


def set_disabled(session: Session, teacher_id: int, at: datetime | None) -> None:
    """Let somebody come in no longer, or again."""
    session.execute(update(Teacher).where(Teacher.id == teacher_id).values(disabled_at=at))


def set_names(session: Session, teacher_id: int, **names: str) -> None:
    """Give somebody another name or e-mail."""
    session.execute(update(Teacher).where(Teacher.id == teacher_id).values(**names))


def code_of(session: Session, teacher_id: int) -> CodeRow | None:
    """What are somebody's codes worked out from?"""
    row = session.get(CodeSecret, teacher_id, populate_existing=True)
    if row is None:
        return None
    left = select(func.count()).where(RecoveryCode.teacher_id == teacher_id)
    return CodeRow(
        token=row.token,
        is_confirmed=row.confirmed_at is not None,
        last_step=row.last_step,
        recovery_codes=session.scalars(left).one(),
    )


def keep_code(session: Session, teacher_id: int, token: str) -> None:
    """Keep a secret that isn't confirmed yet."""
    values = {"token": token, "confirmed_at": None, "last_step": 0}
    added = insert_or(CodeSecret).values(teacher_id=teacher_id, **values)
    session.execute(added.on_conflict_do_update(index_elements=["teacher_id"], set_=values))


def confirm_code(
    session: Session, teacher_id: int, at: datetime, recovery_sha256s: Collection[str]
) -> None:
    """Ask for codes from now on; other codes let in once each."""
    session.execute(
        update(CodeSecret).where(CodeSecret.teacher_id == teacher_id).values(confirmed_at=at)
    )
    session.execute(delete(RecoveryCode).where(RecoveryCode.teacher_id == teacher_id))
    rows = [{"token_sha256": one, "teacher_id": teacher_id} for one in recovery_sha256s]
    session.execute(insert(RecoveryCode), rows)


def use_step(session: Session, teacher_id: int, step: int) -> bool:
    """Take a code's step, if none at or after it was taken."""
    taken = (
        update(CodeSecret)
        .where(CodeSecret.teacher_id == teacher_id, CodeSecret.last_step < step)
        .values(last_step=step)
        .returning(CodeSecret.teacher_id)
    )
    return session.scalar(taken) is not None


def use_recovery_code(session: Session, teacher_id: int, token_sha256: str) -> bool:
    """Use a recovery code up, if it is one of somebody's."""
    used = (
        delete(RecoveryCode)
        .where(RecoveryCode.teacher_id == teacher_id, RecoveryCode.token_sha256 == token_sha256)
        .returning(RecoveryCode.token_sha256)
    )
    return session.scalar(used) is not None


def drop_code(session: Session, teacher_id: int) -> None:
    """Ask for codes no longer."""
    session.execute(delete(CodeSecret).where(CodeSecret.teacher_id == teacher_id))
    session.execute(delete(RecoveryCode).where(RecoveryCode.teacher_id == teacher_id))


def own_log_ins(session: Session, teacher_id: int, now: datetime) -> tuple[OwnLogIn, ...]:
    """Where is somebody in, the latest seen first?"""
    rows = session.scalars(
        select(LogIn)
        .where(LogIn.teacher_id == teacher_id, LogIn.ends_at > now)
        .order_by(LogIn.seen_at.desc())
    )
    return tuple(
        OwnLogIn(
            token_sha256=row.token_sha256,
            device=row.device,
            made_at=row.made_at,
            seen_at=row.seen_at,
        )
        for row in rows
    )


def end_own_log_ins(session: Session, teacher_id: int, but: str, only: str | None = None) -> int:
    """End somebody's log-ins but one, or one of them; gives how many there were."""
    gone = delete(LogIn).where(LogIn.teacher_id == teacher_id, LogIn.token_sha256 != but)
    if only is not None:
        gone = gone.where(LogIn.token_sha256.startswith(only, autoescape=True))
    return len(session.scalars(gone.returning(LogIn.token_sha256)).all())
