"""Lessons under a private address, for calendars; taken back at any time.

Only the address's hash is kept, so that a copy of the database opens no calendar.
"""

from sqlalchemy.orm import Session

from noema.actions.tokens import hash_of_token, new_token
from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.store.classes import class_of_school
from noema.store.feeds import FeedOwner, keep_feed, keep_feed_of_teacher, owner_of_feed


def give_feed(session: Session, school_id: int, class_id: int) -> str:
    """Give a new private word for a class's calendar; the one before ends."""
    class_of_school(session, school_id, class_id)
    word = new_token()
    if not keep_feed(session, class_id, hash_of_token(word)):
        raise NotFound(gettext("Nothing is planned for this class yet: give it lessons first."))
    return word


def take_feed_back(session: Session, school_id: int, class_id: int) -> None:
    """End a class's private calendar."""
    class_of_school(session, school_id, class_id)
    keep_feed(session, class_id, None)


def give_feed_to_teacher(session: Session, teacher_id: int) -> str:
    """Give a new private word for the lessons of all a teacher's classes; the one before ends."""
    word = new_token()
    keep_feed_of_teacher(session, teacher_id, hash_of_token(word))
    return word


def take_feed_from_teacher(session: Session, teacher_id: int) -> None:
    """End a teacher's private calendar."""
    keep_feed_of_teacher(session, teacher_id, None)


def owner_of(session: Session, word: str) -> FeedOwner:
    """Give whose calendar a word opens; refuses any other."""
    owner = owner_of_feed(session, hash_of_token(word))
    if owner is None:
        raise NotFound(gettext("There is no calendar here: ask its teacher for the address."))
    return owner
