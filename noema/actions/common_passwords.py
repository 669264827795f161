"""Passwords that everybody tries first."""

from functools import cache

from zxcvbn.frequency_lists import FREQUENCY_LISTS

_COMMONEST = 30_000


@cache
def _common() -> frozenset[str]:
    return frozenset(FREQUENCY_LISTS["passwords"][:_COMMONEST])


def is_common(password: str) -> bool:
    """Whether a password is among the commonest, or one of them with a few characters behind.

    >>> is_common("Password12"), is_common("a fish called umber")
    (True, False)
    """
    plain = password.strip().lower()
    return plain in _common() or plain.rstrip("0123456789!?.-_") in _common()
