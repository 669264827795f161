"""A class's lessons under a private address, for calendars; taken back at any time.

Only the address's hash is kept, so that a copy of the database opens no calendar.
"""

import hashlib
from secrets import token_urlsafe

from sqlalchemy.orm import Session

from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.store.classes import class_of_school, school_of_class
from noema.store.units import class_of_feed, keep_feed

_BYTES = 24


def give_feed(session: Session, school_id: int, class_id: int) -> str:
    """Give a new private word for a class's calendar; the one before ends."""
    class_of_school(session, school_id, class_id)
    word = token_urlsafe(_BYTES)
    if not keep_feed(session, class_id, _hash(word)):
        raise NotFound(gettext("Nothing is planned for this class yet: give it lessons first."))
    return word


def take_feed_back(session: Session, school_id: int, class_id: int) -> None:
    """End a class's private calendar."""
    class_of_school(session, school_id, class_id)
    keep_feed(session, class_id, None)


def school_and_class_of_feed(session: Session, word: str) -> tuple[int, int]:
    """Give the school and the class whose calendar a word opens; refuses any other."""
    class_id = class_of_feed(session, _hash(word))
    if class_id is None:
        raise NotFound(gettext("There is no calendar here: ask its teacher for the address."))
    return school_of_class(session, class_id), class_id


def _hash(word: str) -> str:
    return hashlib.sha256(word.encode()).hexdigest()
