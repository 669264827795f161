"""Addresses to go back to, kept within this site."""

from urllib.parse import urlsplit


def safe(wanted: str) -> str:
    """Give an address of this site as it is, and nothing for any other.

    >>> safe("/review?from=1"), safe("//elsewhere.example")
    ('/review?from=1', '')
    """
    parts = urlsplit(wanted)
    inside = not parts.scheme and not parts.netloc and wanted.startswith("/")
    return wanted if inside and not wanted.startswith(("//", "/\\")) else ""
