"""The store a setting names: a folder, or a bucket on a service; and two while files are moved."""

from collections.abc import Iterable, Iterator
from datetime import datetime
from pathlib import Path

from noema.core.errors import NotFound
from noema.devices.file_store import FileStore, LocalFiles
from noema.devices.object_store import ObjectFiles, ObjectPieces, bucket_at, is_object_store
from noema.devices.piece_store import LocalPieces, PieceStore


def files_at(place: str, old_place: str = "") -> FileStore:
    """Give the file store at a place; what still lies at the old one is found there."""
    now: FileStore = (
        ObjectFiles(bucket_at(place)) if is_object_store(place) else LocalFiles(Path(place))
    )
    return MovingFiles(now, files_at(old_place)) if old_place else now


def pieces_at(place: str) -> PieceStore:
    """Give where pieces of photographs wait, beside the files."""
    if is_object_store(place):
        return ObjectPieces(bucket_at(place))
    return LocalPieces(Path(place) / "pieces")


class MovingFiles:
    """Two stores while files move from the old one to the new one: they are put into the new."""

    def __init__(self, new: FileStore, old: FileStore) -> None:
        self._new, self._old = new, old

    def put(self, data: bytes) -> str:
        """Put it into the new store."""
        return self._new.put(data)

    def get(self, sha256: str) -> bytes:
        """Look in the new store, then in the old, then in the new: it may move meanwhile."""
        for store in (self._new, self._old):
            try:
                return store.get(sha256)
            except NotFound:
                continue
        return self._new.get(sha256)

    def free_bytes(self) -> int | None:
        """Ask the new one."""
        return self._new.free_bytes()

    def has(self, sha256: str) -> bool:
        """Look in both."""
        return self._new.has(sha256) or self._old.has(sha256) or self._new.has(sha256)

    def among(self, names: Iterable[str]) -> frozenset[str]:
        """Look in both, in the old one first: files move away from it."""
        wanted = frozenset(names)
        return self._old.among(wanted) | self._new.among(wanted)

    def every(self) -> Iterator[bytes]:
        """Give what is in the old one, then in the new; what moved meanwhile comes twice."""
        yield from self._old.every()
        yield from self._new.every()

    def remove(self, sha256: str) -> None:
        """Remove it from both, from the old one first: it moves nowhere from there."""
        self._old.remove(sha256)
        self._new.remove(sha256)

    def untouched(self, for_s: float) -> Iterator[str]:
        """Name what nobody has put into either."""
        yield from self._old.untouched(for_s)
        yield from self._new.untouched(for_s)

    def put_at(self, sha256: str) -> datetime | None:
        """Go by whichever was put later."""
        times = (self._old.put_at(sha256), self._new.put_at(sha256))
        return max((time for time in times if time is not None), default=None)

    def move(self) -> Iterator[str]:
        """Move what lies in the old store, one by one, each removed there once it is here."""
        for body in self._old.every():
            sha256 = self._new.put(body)
            self._old.remove(sha256)
            yield sha256

    def left(self) -> int:
        """Say how many files are still in the old store."""
        return sum(1 for _ in self._old.untouched(0.0))
