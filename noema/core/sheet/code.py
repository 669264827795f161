"""Sheet codes a person can read aloud: K7Q2-04 is sheet 4 of the set K7Q2."""

import re
from random import Random

from noema.core.errors import BadSheet
from noema.core.language import gettext

LETTERS = "ACDEFHJKLMNPQRTUVWXY"
DIGITS = "2347"
"""No character looks or sounds like another: no B, G, I, O, S, Z, 0, 1, 5, 6, 8, 9."""

_CODE = re.compile(rf"([{LETTERS}{DIGITS}]{{4}})-(\d{{2,3}})")


def draw_stem(rng: Random) -> str:
    """Draw the four characters a set of sheets shares."""
    return "".join(rng.choice(LETTERS + DIGITS) for _ in range(4))


def code_of(stem: str, number: int) -> str:
    """Join a set's stem and a sheet's number in it, from 1.

    >>> code_of("K7Q2", 4)
    'K7Q2-04'
    """
    return checked_code(f"{stem}-{number:02d}")


def checked_code(text: str) -> str:
    """Give the code as printed, or refuse what can't be one.

    >>> checked_code(" k7q2-04 ")
    'K7Q2-04'
    """
    code = text.strip().upper()
    if not _CODE.fullmatch(code):
        raise BadSheet(
            gettext(
                "“%(text)s” is no sheet code: it is four letters or digits, a dash "
                "and a number, such as K7Q2-04.",
                text=text[:20],
            )
        )
    return code
