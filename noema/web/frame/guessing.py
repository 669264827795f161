"""Who guesses passwords or cards is slowed down; nobody is locked out, least of all a class."""

import hashlib
from collections.abc import Callable, Sequence
from datetime import UTC, datetime
from math import ceil
from typing import TypeVar

from flask import current_app, request

from noema.core.errors import NotAllowed, TooManyTries
from noema.core.language import ngettext
from noema.store.guesses import Limit, forget_guesses, note_wrong, seconds_to_wait
from noema.web.frame.request import db, sessions

T = TypeVar("T")


def limits_of_account(email: str) -> tuple[Limit, ...]:
    """Slow down guessing of one account, and from one address."""
    account = _limit("account", email.strip().casefold(), most=5, forgotten_s=30.0)
    return account, _limit("account from", _address(), most=30, forgotten_s=4.0)


def limits_of_card(code: str) -> tuple[Limit, ...]:
    """Slow down guessing of a class's cards: from one address, and by everybody together.

    A whole school sits behind one address, and mistypes.
    """
    return (
        _limit("class from", f"{code} {_address()}", most=20, forgotten_s=10.0),
        _limit("card from", _address(), most=100, forgotten_s=1.0),
        _limit("class", code, most=100, forgotten_s=15.0),
    )


def slowed(limits: Sequence[Limit], attempt: Callable[[], T]) -> T:
    """Let somebody try, or say how long they must wait; a wrong try is counted at once."""
    if not current_app.config["SLOWS_GUESSING"]:
        return attempt()
    now = datetime.now(UTC)
    wait = ceil(seconds_to_wait(db(), limits, now))
    if wait > 0:
        raise TooManyTries(
            ngettext(
                "Too many wrong tries: wait %(count)s second, then try again.",
                "Too many wrong tries: wait %(count)s seconds, then try again.",
                wait,
                count=wait,
            )
        )
    try:
        done = attempt()
    except NotAllowed:
        with sessions().begin() as session:
            note_wrong(session, limits, now)
        raise
    forget_guesses(db(), limits[0])
    return done


def _address() -> str:
    return request.remote_addr or ""


def _limit(kind: str, whose: str, *, most: int, forgotten_s: float) -> Limit:
    # Hashed, so that the table names nobody.
    name = hashlib.sha256(f"{kind} {whose}".encode()).hexdigest()
    return Limit(of_sha256=name, most=most, forgotten_s=forgotten_s)
