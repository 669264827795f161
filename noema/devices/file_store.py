"""Where photographs lie, byte for byte, under their own SHA-256.

The contract is what an object store can also keep: whole objects, written once, never changed.
"""

import errno
import hashlib
import logging
import os
import shutil
import tempfile
import time
from collections.abc import Iterable, Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Protocol

from noema.core.errors import NotFound, StoreAway, StoreFull
from noema.core.language import gettext

_LOG = logging.getLogger(__name__)
_OBJECTS = "??/" + "?" * 62


class FileStore(Protocol):
    """Whole objects under the SHA-256 of their bytes."""

    def put(self, data: bytes) -> str:
        """Keep the bytes and give their SHA-256 in hexadecimal; twice the same is once kept."""

    def get(self, sha256: str) -> bytes:
        """Give the bytes back, or refuse when they aren't there."""

    def free_bytes(self) -> int | None:
        """Say how much more there is room for; None where no limit is known."""

    def has(self, sha256: str) -> bool:
        """Say whether an object is there."""

    def among(self, names: Iterable[str]) -> frozenset[str]:
        """Say which of these objects are there."""

    def every(self) -> Iterator[bytes]:
        """Give the bytes of every object."""

    def remove(self, sha256: str) -> None:
        """Remove an object for good; nothing happens where there is none."""

    def untouched(self, for_s: float) -> Iterator[str]:
        """Name the objects that nobody has put for so many seconds."""

    def put_at(self, sha256: str) -> datetime | None:
        """Say when an object was last put; None where there is none."""


class LocalFiles:
    """A file store in a folder: ab/cdef… under two letters each."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def put(self, data: bytes) -> str:
        """Write whole or not at all, and only then answer."""
        sha256 = hash_of(data)
        place = self._place(sha256)
        if place.exists():
            os.utime(place)  # put again: it isn't an orphan, whatever its age
            return sha256
        try:
            place.parent.mkdir(parents=True, exist_ok=True)
            _write_whole(place, data)
        except OSError as wrong:
            raise StoreFull(_what_to_do(wrong, self._folder)) from wrong
        return sha256

    def get(self, sha256: str) -> bytes:
        """Read an object back."""
        try:
            return as_named(self._place(sha256).read_bytes(), sha256)
        except FileNotFoundError as wrong:
            raise not_there(sha256) from wrong
        except OSError as wrong:
            _LOG.error("The file store can't be read: %s", wrong.strerror)
            raise StoreAway(gettext("Photographs can't be read just now: try again.")) from wrong

    def free_bytes(self) -> int:
        """Say how much is free on the disk of the folder, or of one above it."""
        folder = self._folder
        while not folder.exists() and folder != folder.parent:
            folder = folder.parent
        return shutil.disk_usage(folder).free

    def has(self, sha256: str) -> bool:
        """Look for its file."""
        return self._place(sha256).exists()

    def among(self, names: Iterable[str]) -> frozenset[str]:
        """Look for their files."""
        return frozenset(name for name in names if self.has(name))

    def remove(self, sha256: str) -> None:
        """Take an object off the disk."""
        self._place(sha256).unlink(missing_ok=True)

    def untouched(self, for_s: float) -> Iterator[str]:
        """Go by when a file was last put."""
        before = time.time() - for_s
        for place in sorted(self._folder.glob(_OBJECTS)):
            if place.stat().st_mtime < before:
                yield place.parent.name + place.name

    def put_at(self, sha256: str) -> datetime | None:
        """Go by its file."""
        try:
            return datetime.fromtimestamp(self._place(sha256).stat().st_mtime, UTC)
        except FileNotFoundError:
            return None

    def every(self) -> Iterator[bytes]:
        """Give every object in the folder, in the order of their hashes."""
        for place in sorted(self._folder.glob(_OBJECTS)):
            try:
                yield self.get(place.parent.name + place.name)
            except NotFound:
                continue  # it left meanwhile, or isn't what it was: the log says so

    def _place(self, sha256: str) -> Path:
        return self._folder / sha256[:2] / sha256[2:]


def hash_of(data: bytes) -> str:
    """Give the name under which bytes are kept."""
    return hashlib.sha256(data).hexdigest()


def as_named(data: bytes, sha256: str) -> bytes:
    """Give bytes back that are what their name says; anything else isn't the photograph."""
    if hash_of(data) != sha256:
        _LOG.error("The file %s is not what it was: restore it from a backup.", sha256)
        raise NotFound(
            gettext("The file %(sha256)s… isn't as it was kept: restore it.", sha256=sha256[:12])
        )
    return data


def not_there(sha256: str) -> NotFound:
    """Say that an object isn't there."""
    return NotFound(gettext("The file %(sha256)s… is not in the file store.", sha256=sha256[:12]))


def _write_whole(place: Path, data: bytes) -> None:
    """Write beside the place, make sure it lies on the disk, then put it there in one step."""
    with tempfile.NamedTemporaryFile(dir=place.parent, delete=False) as new:
        try:
            new.write(data)
            new.flush()
            os.fsync(new.fileno())
            os.replace(new.name, place)
        except OSError:
            Path(new.name).unlink(missing_ok=True)
            raise


def _what_to_do(wrong: OSError, folder: Path) -> str:
    if wrong.errno == errno.ENOSPC:
        return gettext("The disk is full: free some space, then hand the photograph in again.")
    if wrong.errno in (errno.EACCES, errno.EPERM, errno.EROFS):
        _LOG.error("Noema may not write to %s: give it the permission.", folder)
        return gettext("Photographs can't be kept just now: whoever runs Noema must look at it.")
    return gettext("The photograph couldn't be kept (%(why)s): try again.", why=wrong.strerror)
