"""An administrator invites people, changes what they may do, shows them out and removes them."""

from datetime import datetime

from sqlalchemy.orm import Session

from noema.actions.create_school import checked_email
from noema.actions.links import Post, make_link, send
from noema.core.errors import NotFound, Refused
from noema.core.joining.one_use import LinkPurpose
from noema.core.joining.role import Right, StaffRole
from noema.core.language import gettext
from noema.store.accounts import (
    REMOVED,
    StaffRow,
    drop_code,
    end_links,
    set_disabled,
    set_names,
    set_role,
    staff_of,
)
from noema.store.class_teachers import unshare_all
from noema.store.feeds import keep_feed_of_teacher
from noema.store.log_ins import end_log_ins
from noema.store.passkeys import drop_passkeys
from noema.store.people import NO_PASSWORD, add_teacher, set_password_hash, teacher_by_email

LONGEST_NAME = 80


def invite(
    session: Session,
    school_id: int,
    school: str,
    email: str,
    name: str,
    role: StaffRole,
    post: Post,
) -> int:
    """Let somebody come in who sets their own password by a link; gives their number."""
    email, name = free_email(session, email), " ".join(name.split())
    if not 1 <= len(name) <= LONGEST_NAME:
        raise Refused(gettext("Give the name they are called by, at most 80 letters."))
    teacher_id = add_teacher(session, school_id, email, name, NO_PASSWORD, role)
    _send_invitation(session, teacher_id, email, school, post)
    return teacher_id


def free_email(session: Session, email: str) -> str:
    """Give an e-mail as it is kept; refuses what is none, and one that somebody logs in with."""
    email = checked_email(email)
    if teacher_by_email(session, email) is not None:
        raise Refused(
            gettext("Somebody already logs in as %(email)s: use another address.", email=email)
        )
    return email


def send_new_password(
    session: Session, school_id: int, school: str, teacher_id: int, post: Post
) -> StaffRow:
    """Send somebody a link to set a password by, or their invitation once more."""
    one = member(session, school_id, teacher_id, post.now)
    if not one.has_password:
        _send_invitation(session, one.id, one.email, school, post)
        return one
    send_reset(session, one.id, one.email, post)
    return one


def send_reset(session: Session, teacher_id: int, email: str, post: Post) -> None:
    """Send a link to set a new password by."""
    link = make_link(session, post, teacher_id, LinkPurpose.NEW_PASSWORD)
    words = gettext(
        "Somebody asked for a new password of yours. Set it within an hour:\n\n%(link)s\n\n"
        "If it wasn’t you, do nothing: your password stays as it is.\n",
        link=link,
    )
    send(post, email, gettext("A new password for Noema"), words)


def change_role(
    session: Session, school_id: int, teacher_id: int, role: StaffRole, now: datetime
) -> StaffRow:
    """Give somebody another role; the last administrator stays one."""
    one = member(session, school_id, teacher_id, now)
    if role is not StaffRole.ADMINISTRATOR:
        _check_others(session, school_id, one, now)
    set_role(session, one.id, role)
    return one


def disable(session: Session, school_id: int, teacher_id: int, now: datetime) -> StaffRow:
    """Let somebody come in no longer, and end where they are in."""
    one = member(session, school_id, teacher_id, now)
    _check_others(session, school_id, one, now)
    set_disabled(session, one.id, now)
    end_log_ins(session, teacher_id=one.id)
    return one


def enable(session: Session, school_id: int, teacher_id: int, now: datetime) -> StaffRow:
    """Let somebody come in again."""
    one = member(session, school_id, teacher_id, now)
    set_disabled(session, one.id, None)
    return one


def show_out_of(session: Session, school_id: int, teacher_id: int, now: datetime) -> StaffRow:
    """End somebody's log-ins everywhere."""
    one = member(session, school_id, teacher_id, now)
    end_log_ins(session, teacher_id=one.id)
    return one


def remove(session: Session, school_id: int, teacher_id: int, now: datetime) -> StaffRow:
    """Remove somebody: what they did stays under their name, nothing of theirs lets anybody in."""
    one = member(session, school_id, teacher_id, now)
    _check_others(session, school_id, one, now)
    end_log_ins(session, teacher_id=one.id)
    end_links(session, one.id, *LinkPurpose)
    drop_code(session, one.id)
    drop_passkeys(session, one.id)
    unshare_all(session, one.id)
    keep_feed_of_teacher(session, one.id, None)
    set_disabled(session, one.id, now)
    set_password_hash(session, one.id, NO_PASSWORD)
    set_names(session, one.id, email=f"{one.id}{REMOVED}")
    return one


def member(session: Session, school_id: int, teacher_id: int, now: datetime) -> StaffRow:
    """Give somebody of a school; refuses who isn't."""
    staff = staff_of(session, school_id, now, NO_PASSWORD)
    found = next((one for one in staff if one.id == teacher_id), None)
    if found is None:
        raise NotFound(gettext("Nobody of your school is meant: choose again."))
    return found


def _check_others(session: Session, school_id: int, one: StaffRow, now: datetime) -> None:
    """Refuse to leave a school without anybody who can run it."""
    staff = staff_of(session, school_id, now, NO_PASSWORD)
    if _runs(one) and not any(_runs(other) for other in staff if other.id != one.id):
        raise Refused(
            gettext("Nobody else could run the school: make somebody else an administrator first.")
        )


def _runs(one: StaffRow) -> bool:
    return Right.RUN_SCHOOL in one.role.rights and not one.is_disabled and one.has_password


def _send_invitation(
    session: Session, teacher_id: int, email: str, school: str, post: Post
) -> None:
    link = make_link(session, post, teacher_id, LinkPurpose.INVITATION)
    words = gettext(
        "%(school)s invites you to Noema. Set your password within a week:\n\n%(link)s\n",
        school=school,
        link=link,
    )
    send(post, email, gettext("An invitation to Noema from %(school)s", school=school)[:150], words)
