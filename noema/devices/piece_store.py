"""Where a photograph's bytes wait while they come in piece by piece."""

import os
import re
from pathlib import Path
from typing import Protocol

from noema.core.errors import NotFound, OutOfDate, StoreFull
from noema.core.language import N_, gettext

_NAME = re.compile("[0-9a-f]{32}")
PIECES_GONE = N_("This photograph's pieces are gone: send it again.")


class PieceStore(Protocol):
    """Growing objects under random names."""

    def length(self, name: str) -> int:
        """Say how many bytes have come so far."""

    def append(self, name: str, at: int, data: bytes) -> int:
        """Add bytes that begin at `at`; gives the new length. Bytes already there aren't doubled.

        Refuses a gap: the sender asks for the length and goes on from there.
        """

    def take(self, name: str) -> bytes:
        """Give all bytes."""

    def drop(self, name: str) -> None:
        """Forget it; nothing happens where there is nothing."""


class LocalPieces:
    """Pieces in a folder, a file a name."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def length(self, name: str) -> int:
        """Say how many bytes lie on the disk."""
        place = self._place(name)
        return place.stat().st_size if place.exists() else 0

    def append(self, name: str, at: int, data: bytes) -> int:
        """Write at the end, and only then answer."""
        there = self.length(name)
        if at > there:
            raise OutOfDate(gap(there))
        fresh = data[there - at :]
        try:
            self._folder.mkdir(parents=True, exist_ok=True)
            with self._place(name).open("ab") as file:
                file.write(fresh)
                file.flush()
                os.fsync(file.fileno())
        except OSError as wrong:
            raise StoreFull(
                gettext("The photograph can't be kept just now: tell your teacher.")
            ) from wrong
        return there + len(fresh)

    def take(self, name: str) -> bytes:
        """Read it whole."""
        try:
            return self._place(name).read_bytes()
        except OSError as wrong:
            raise NotFound(gettext(PIECES_GONE)) from wrong

    def drop(self, name: str) -> None:
        """Remove its file."""
        self._place(name).unlink(missing_ok=True)

    def _place(self, name: str) -> Path:
        return self._folder / checked_name(name)


def checked_name(name: str) -> str:
    """Give a name back that is one; nobody leads elsewhere by another."""
    if not _NAME.fullmatch(name):
        raise NotFound(gettext("There is no such photograph on its way."))
    return name


def gap(there: int) -> str:
    """Say from where a sender should go on."""
    return gettext("%(there)s bytes have come: go on from there.", there=there)
