"""A student's card: three short words, worked out from a secret and never kept anywhere.

A keyed hash (HMAC, RFC 2104) of who and which card gives 24 bits, a word of 256 for every eight.
Nothing in the database can be turned into a card, a card can be printed again at any time, and
counting its number up ends it.
"""

import hmac
import re
from collections.abc import Iterable
from pathlib import Path
from random import Random

WORDS = tuple((Path(__file__).parent / "data" / "words.txt").read_text(encoding="utf-8").split())
"""256 short words that are easy to say and to spell."""

_WORDS_A_CARD = 3
_CODE_LETTERS = "BCDFGHJKMNPQRTVW"
_CODE_LENGTH = 6


def card_words(secret: str, student_id: int, serial: int) -> tuple[str, ...]:
    """Give the words of a student's card; the same three for the same card.

    >>> len(card_words("a secret", 7, 1))
    3
    >>> card_words("a secret", 7, 1) == card_words("a secret", 7, 2)
    False
    """
    told = f"noema student card {student_id} {serial}".encode()
    digest = hmac.digest(secret.encode(), told, "sha256")
    return tuple(WORDS[byte] for byte in digest[:_WORDS_A_CARD])


def holder(secret: str, typed: str, cards: Iterable[tuple[int, int]]) -> int | None:
    """Say whose card was typed, among (student, serial) pairs; None when it is nobody's.

    Everything but letters parts the words, and their capitals don't matter.
    """
    said = " ".join(re.findall("[a-z]+", typed.lower())).encode()
    found = None
    for student_id, serial in cards:
        # All are compared, so that the time taken tells nothing.
        if hmac.compare_digest(" ".join(card_words(secret, student_id, serial)).encode(), said):
            found = student_id
    return found


def draw_code(rng: Random) -> str:
    """Draw the code a class begins with: six consonants that look like no other."""
    return "".join(rng.choice(_CODE_LETTERS) for _ in range(_CODE_LENGTH))


def plain_code(typed: str) -> str:
    """Give a class code as it is kept, from what somebody typed.

    >>> plain_code(" bcd-fgh ")
    'BCDFGH'
    """
    return "".join(re.findall("[A-Z]", typed.upper()))[: _CODE_LENGTH + 2]
