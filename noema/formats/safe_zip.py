"""Zip files from elsewhere, opened with care: their names, sizes and number are checked first."""

import zipfile
import zlib
from collections.abc import Iterable, Iterator, Mapping
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass
from io import BytesIO, RawIOBase
from pathlib import Path, PurePosixPath
from typing import BinaryIO

from typing_extensions import Buffer

from noema.core.errors import BadFile
from noema.core.language import gettext

_FIRST_DATE = (1980, 1, 1, 0, 0, 0)  # of every entry, so that the same matter gives the same bytes
_ENCRYPTED = 0x1
_PIECE = 2**20


@dataclass(frozen=True, kw_only=True)
class ZipLimits:
    """How much a zip may hold."""

    entries: int
    bytes_in_all: int  # unpacked
    bytes_an_entry: int


_BROKEN = (
    zipfile.BadZipFile,
    zlib.error,
    NotImplementedError,
    EOFError,
    ValueError,
    IndexError,  # of an entry without a name
)


class OpenZip:
    """A zip whose names and sizes were checked; its entries are read one at a time."""

    def __init__(self, zipped: zipfile.ZipFile, limits: ZipLimits) -> None:
        infos = [info for info in zipped.infolist() if not info.is_dir()]
        _check(infos, limits)
        self._zipped, self._limits = zipped, limits
        self._infos = {info.filename: info for info in infos}
        self.names = tuple(self._infos)

    def read(self, name: str) -> bytes:
        """Give one entry; a KeyError where there is none."""
        return b"".join(self.pieces(name))

    def pieces(self, name: str) -> Iterator[bytes]:
        """Give one entry piece by piece."""
        # What an entry says of its size may be a lie: no more than allowed is ever read.
        left = self._limits.bytes_an_entry
        with _refused_if_broken(), self._zipped.open(self._infos[name]) as entry:
            while piece := entry.read(_PIECE):
                left -= len(piece)
                if left < 0:
                    raise BadFile(
                        gettext("“%(filename)s” in this zip file is too large.", filename=name[:60])
                    )
                yield piece

    def lines(self, name: str) -> Iterator[bytes]:
        """Give one entry line by line."""
        rest = b""
        for piece in self.pieces(name):
            *whole, rest = (rest + piece).split(b"\n")
            yield from whole
        if rest:
            yield rest


@contextmanager
def open_zip(source: Path | BinaryIO, limits: ZipLimits) -> Iterator[OpenZip]:
    """Open a zip of any size, or refuse it whole in one sentence."""
    with ExitStack() as stack:
        with _refused_if_broken():
            zipped = stack.enter_context(zipfile.ZipFile(source))
            opened = OpenZip(zipped, limits)
        yield opened


def read_zip(data: bytes, limits: ZipLimits) -> dict[str, bytes]:
    """Unpack a zip into memory by name, or refuse it whole in one sentence."""
    with open_zip(BytesIO(data), limits) as zipped:
        return {name: zipped.read(name) for name in zipped.names}


@contextmanager
def _refused_if_broken() -> Iterator[None]:
    try:
        yield
    except _BROKEN as wrong:
        raise BadFile(gettext("This is no whole zip file: make it again and send that.")) from wrong
    except (OSError, RuntimeError, OverflowError) as wrong:
        raise BadFile(
            gettext("This zip file can't be unpacked: make it anew without a password.")
        ) from (wrong)


def write_zip(entries: Mapping[str, bytes]) -> bytes:
    """Pack entries in the order of their names; the same entries give the same bytes."""
    return b"".join(zip_chunks((name, (entries[name],)) for name in sorted(entries)))


def zip_chunks(entries: Iterable[tuple[str, Iterable[bytes]]]) -> Iterator[bytes]:
    """Pack entries one by one as their pieces come, so that only a piece lies in memory."""
    out = _Growing()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as zipped:
        for name, pieces in entries:
            info = zipfile.ZipInfo(name, _FIRST_DATE)
            info.external_attr = 0o600 << 16
            packed = name.endswith((".jpg", ".jpeg", ".png", ".bin"))
            info.compress_type = zipfile.ZIP_STORED if packed else zipfile.ZIP_DEFLATED
            with zipped.open(info, "w") as entry:
                for piece in pieces:
                    entry.write(piece)
                    yield out.taken()
    yield out.taken()


class _Growing(RawIOBase):
    """Where a zip is written that nobody can go back in."""

    def __init__(self) -> None:
        self._chunks: list[bytes] = []

    def writable(self) -> bool:
        return True

    def write(self, data: Buffer) -> int:
        """Keep some bytes until they are taken."""
        self._chunks.append(bytes(data))
        return len(self._chunks[-1])

    def taken(self) -> bytes:
        """Give what was written since it was last taken."""
        chunks, self._chunks = self._chunks, []
        return b"".join(chunks)


def _check(infos: list[zipfile.ZipInfo], limits: ZipLimits) -> None:
    names = [info.filename for info in infos]
    if len(infos) > limits.entries or sum(i.file_size for i in infos) > limits.bytes_in_all:
        raise BadFile(
            gettext("This zip file holds far more than it should: send only what was asked for.")
        )
    if len(set(names)) < len(names):
        raise BadFile(gettext("A name stands twice in this zip file: make it again."))
    for info in infos:
        path = PurePosixPath(info.filename.replace("\\", "/"))
        if path.is_absolute() or ".." in path.parts or ":" in info.filename:
            raise BadFile(
                gettext("A name in this zip file leads out of it: don't trust where it is from.")
            )
        if info.flag_bits & _ENCRYPTED:
            raise BadFile(gettext("This zip file has a password: make it anew without one."))
        if info.filename.lower().endswith((".zip", ".gz", ".7z", ".rar")):
            raise BadFile(gettext("There is a packed file inside this zip file: unpack it first."))
