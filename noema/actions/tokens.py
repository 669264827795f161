"""Words that open a door, of which only a hash is kept: a copy of the database opens none."""

import hashlib
from secrets import token_urlsafe

_BYTES = 32


def new_token() -> str:
    """Draw a random word that nobody guesses."""
    return token_urlsafe(_BYTES)


def hash_of_token(token: str) -> str:
    """Give the hash under which a random word is kept."""
    return hashlib.sha256(token.encode()).hexdigest()
