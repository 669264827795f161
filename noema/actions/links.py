"""Links that open one page once, sent by mail."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session

from noema.actions.tokens import hash_of_token, new_token
from noema.core.errors import NotFound
from noema.core.joining.one_use import LinkPurpose
from noema.core.language import gettext
from noema.devices.mail import Letter, Outbox
from noema.store.accounts import LinkRow, add_link, link_of, use_link


@dataclass(frozen=True, kw_only=True)
class Post:
    """What letters of Noema's own go out with."""

    outbox: Outbox
    sender: str
    address: str  # before a link's word
    now: datetime


def make_link(
    session: Session, post: Post, teacher_id: int, purpose: LinkPurpose, email: str | None = None
) -> str:
    """Give a new link; those of the same purpose before it end."""
    word = new_token()
    ends = post.now + purpose.lasts
    add_link(session, hash_of_token(word), teacher_id, purpose, ends, email)
    return f"{post.address}{word}"


def looked_up(session: Session, word: str, now: datetime) -> LinkRow:
    """Give what a word opens, without using it up; refuses one that opens nothing."""
    found = link_of(session, hash_of_token(word), now)
    if found is None:
        raise _ended()
    return found


def used_up(
    session: Session, word: str, purposes: tuple[LinkPurpose, ...], now: datetime
) -> LinkRow:
    """Use a word up; refuses one that opens nothing, or something else."""
    if looked_up(session, word, now).purpose not in purposes:
        raise _ended()
    found = use_link(session, hash_of_token(word), now)
    if found is None:
        raise _ended()
    return found


def send(post: Post, to: str, subject: str, words: str) -> None:
    """Send a letter of Noema's own."""
    letter = Letter(sender=post.sender, to=to, subject=subject, words=words, written_at=post.now)
    post.outbox.send(letter)


def _ended() -> NotFound:
    return NotFound(gettext("This link was used already, or its time is up: ask for a new one."))
