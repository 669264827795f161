"""Somebody changes their own name, e-mail and password, and what else they are asked for."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from hmac import compare_digest
from secrets import choice

import pyotp
from argon2.exceptions import InvalidHashError, VerifyMismatchError
from sqlalchemy.orm import Session

from noema.actions import passwords
from noema.actions.create_school import check_password
from noema.actions.links import Post, make_link, send, used_up
from noema.actions.staff import LONGEST_NAME, free_email, send_reset
from noema.actions.tokens import hash_of_token
from noema.core.errors import NotAllowed, Refused
from noema.core.joining.one_use import LinkPurpose
from noema.core.language import gettext
from noema.store.accounts import (
    code_of,
    confirm_code,
    drop_code,
    end_links,
    keep_code,
    set_names,
    use_recovery_code,
    use_step,
)
from noema.store.log_ins import end_log_ins
from noema.store.people import (
    NO_PASSWORD,
    TeacherRow,
    set_password_hash,
    teacher_by_email,
    teacher_by_id,
)

_RECOVERY_CODES, _LETTERS = 10, "abcdefghjkmnpqrstuvwxyz23456789"
_STEP_S = 30  # of codes (RFC 6238)
_DRIFT = (-1, 0, 1)  # steps by which a phone's clock may be off


@dataclass(frozen=True, kw_only=True)
class NewCodes:
    """What somebody's codes are made from, until they confirm one."""

    token: str
    uri: str  # as apps read it from a QR code


def rename(session: Session, teacher: TeacherRow, name: str) -> None:
    """Call somebody otherwise."""
    name = " ".join(name.split())
    if not 1 <= len(name) <= LONGEST_NAME:
        raise Refused(gettext("Give the name you are called by, at most 80 letters."))
    set_names(session, teacher.id, display_name=name)


def change_password(session: Session, teacher: TeacherRow, old: str, new: str) -> None:
    """Set a new password, if the old one is right; every log-in ends."""
    check_own_password(teacher, old)
    check_password(new)
    end_log_ins(session, teacher_id=teacher.id)
    end_links(session, teacher.id, LinkPurpose.NEW_PASSWORD)
    set_password_hash(session, teacher.id, passwords.HASHER.hash(new))


def check_own_password(teacher: TeacherRow, password: str) -> None:
    """Refuse a password that isn't somebody's."""
    try:
        passwords.HASHER.verify(teacher.password_hash, password)
    except (VerifyMismatchError, InvalidHashError) as wrong:
        raise NotAllowed(gettext("That isn’t your password: type it again.")) from wrong


def ask_for_email(
    session: Session, teacher: TeacherRow, password: str, email: str, post: Post
) -> str:
    """Send a link to a new e-mail; until it is followed, the old one stays. Gives the new one."""
    check_own_password(teacher, password)
    email = free_email(session, email)
    link = make_link(session, post, teacher.id, LinkPurpose.NEW_EMAIL, email)
    words = gettext("Log in to Noema with this address from now on:\n\n%(link)s\n", link=link)
    send(post, email, gettext("Your new address for Noema"), words)
    return email


def take_email(session: Session, word: str, now: datetime) -> TeacherRow:
    """Let somebody log in with the e-mail a link was sent to; gives who it is."""
    link = used_up(session, word, (LinkPurpose.NEW_EMAIL,), now)
    teacher = _of_link(session, link.teacher_id)
    if link.email is None or teacher_by_email(session, link.email) is not None:
        raise Refused(gettext("Somebody logs in with that address already: use another."))
    set_names(session, link.teacher_id, email=link.email)
    return teacher


def forgotten(session: Session, email: str, post: Post) -> TeacherRow | None:
    """Send a link to set a new password by, if anybody logs in with an address."""
    teacher = teacher_by_email(session, email)
    if teacher is None or teacher.is_disabled or teacher.password_hash == NO_PASSWORD:
        return None
    send_reset(session, teacher.id, teacher.email, post)
    return teacher


def set_by_link(session: Session, word: str, password: str, now: datetime) -> TeacherRow:
    """Set a password by a link; every log-in under the old one ends."""
    check_password(password)
    purposes = (LinkPurpose.INVITATION, LinkPurpose.NEW_PASSWORD)
    link = used_up(session, word, purposes, now)
    teacher = _of_link(session, link.teacher_id)
    end_log_ins(session, teacher_id=teacher.id)
    end_links(session, teacher.id, *purposes)
    set_password_hash(session, teacher.id, passwords.HASHER.hash(password))
    return teacher


def _of_link(session: Session, teacher_id: int) -> TeacherRow:
    teacher = teacher_by_id(session, teacher_id)
    if teacher is None or teacher.is_disabled:
        raise NotAllowed(gettext("You can’t come in any more: ask an administrator."))
    return teacher


def begin_codes(session: Session, teacher: TeacherRow) -> NewCodes:
    """Draw what codes are made from; they are asked for once one was confirmed."""
    token = pyotp.random_base32()
    keep_code(session, teacher.id, token)
    uri = pyotp.TOTP(token, interval=_STEP_S).provisioning_uri(
        name=teacher.email, issuer_name="Noema"
    )
    return NewCodes(token=token, uri=uri)


def confirm_codes(
    session: Session, teacher: TeacherRow, code: str, now: datetime
) -> tuple[str, ...]:
    """Ask for codes from now on, if one is right; gives the codes to recover with."""
    kept = code_of(session, teacher.id)
    if kept is None or kept.is_confirmed:
        raise Refused(gettext("Begin anew: scan the picture, then type the code it gives."))
    _check_code(session, teacher.id, kept.token, code, now)
    drawn = tuple(_recovery_code() for _ in range(_RECOVERY_CODES))
    confirm_code(session, teacher.id, now, [hash_of_token(one) for one in drawn])
    return drawn


def end_codes(session: Session, teacher: TeacherRow, password: str) -> None:
    """Ask for codes no longer, if the password is right."""
    check_own_password(teacher, password)
    drop_code(session, teacher.id)


def asks_codes(session: Session, teacher_id: int) -> bool:
    """Whether somebody is asked for a code besides their password."""
    kept = code_of(session, teacher_id)
    return kept is not None and kept.is_confirmed


def check_second(session: Session, teacher_id: int, code: str, now: datetime) -> None:
    """Refuse a code that is wrong or was taken; one to recover with is used up."""
    kept = code_of(session, teacher_id)
    if kept is None or not kept.is_confirmed:
        return
    typed = "".join(code.split()).lower()
    if typed.isdigit():
        _check_code(session, teacher_id, kept.token, typed, now)
    elif not use_recovery_code(session, teacher_id, hash_of_token(typed.replace("-", ""))):
        raise _wrong_code()


def _check_code(session: Session, teacher_id: int, token: str, code: str, now: datetime) -> None:
    step = _step_of(token, "".join(code.split()), now)
    if step is None or not use_step(session, teacher_id, step):
        raise _wrong_code()


def _step_of(token: str, code: str, now: datetime) -> int | None:
    """Give the step a code is of, if it is of one near now."""
    made, here = pyotp.TOTP(token, interval=_STEP_S), int(now.timestamp()) // _STEP_S
    steps: Sequence[int] = [here + drift for drift in _DRIFT]
    return next((one for one in steps if compare_digest(made.generate_otp(one), code)), None)


def _wrong_code() -> NotAllowed:
    return NotAllowed(gettext("That code is wrong, or was used already: type the next one."))


def _recovery_code() -> str:
    return "".join(choice(_LETTERS) for _ in range(10))
