"""Words that open a door, of which only a hash is kept: a copy of the database opens none."""

import hashlib


def hash_of_token(token: str) -> str:
    """Give the hash under which a random word is kept."""
    return hashlib.sha256(token.encode()).hexdigest()
