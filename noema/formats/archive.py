"""Archives: one zip with a manifest, every table as JSON lines, and every file (docs/formats.md).

The same matter gives the same bytes. It is written and read a piece at a time, however large a
school is.
"""

import hashlib
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from contextlib import closing, contextmanager
from dataclasses import dataclass
from itertools import chain
from pathlib import Path
from tempfile import TemporaryFile
from typing import Any, BinaryIO

import orjson

from noema.core.errors import BadFile
from noema.core.language import N_, gettext
from noema.formats.safe_zip import OpenZip, ZipLimits, open_zip, zip_chunks

FORMAT = "noema-archive/1"
_MANIFEST, _TABLES, _LINES, _FILES, _BODY = "manifest.json", "tables/", ".jsonl", "files/", ".bin"
_LIMITS = ZipLimits(entries=200_000, bytes_in_all=64 * 2**30, bytes_an_entry=2 * 2**30)
_PIECE = 2**20

MISFIT = N_("Rows in the archive don't fit together: make it again.")

Row = dict[str, Any]


@dataclass(frozen=True, kw_only=True)
class SpooledTable:
    """A table's rows on scratch, as they will stand in the archive."""

    begins: int
    ends: int
    count: int
    sha256: str


class SpooledTables:
    """Tables on scratch until they are packed: their hashes stand before them in the archive."""

    def __init__(self) -> None:
        self._file = TemporaryFile()  # noqa: SIM115  let go by close
        self.tables = dict[str, SpooledTable]()

    def add(self, name: str, rows: Iterable[Row]) -> None:
        """Lay a table's rows down as they come."""
        begins, sha256, count = self._file.tell(), hashlib.sha256(), 0
        for row in rows:
            line = orjson.dumps(row, option=orjson.OPT_SORT_KEYS) + b"\n"
            self._file.write(line)
            sha256.update(line)
            count += 1
        self.tables[name] = SpooledTable(
            begins=begins, ends=self._file.tell(), count=count, sha256=sha256.hexdigest()
        )

    def pieces(self, name: str) -> Iterator[bytes]:
        """Give a table's rows piece by piece."""
        table = self.tables[name]
        self._file.seek(table.begins)
        left = table.ends - table.begins
        while left:
            piece = self._file.read(min(_PIECE, left))
            left -= len(piece)
            yield piece

    def close(self) -> None:
        """Let go of the scratch."""
        self._file.close()


@dataclass(frozen=True, kw_only=True)
class ToPack:
    """What is about to be packed; files are fetched one by one."""

    schema: str  # the migration its tables are at
    spooled: SpooledTables
    files: Sequence[str]  # SHA-256
    file: Callable[[str], bytes]  # gives one
    missing: Sequence[str] = ()  # SHA-256 of files that rows rest on and that are nowhere


def archive_chunks(whole: ToPack) -> Iterator[bytes]:
    """Pack an archive, piece by piece: the manifest first, then tables, then files.

    Its first piece is made at once; then its scratch is let go with it, however far it gets.
    """
    chunks = _closing(whole)
    return chain([next(chunks)], chunks)


def _closing(whole: ToPack) -> Iterator[bytes]:
    with closing(whole.spooled):
        yield from _chunks(whole)


def _chunks(whole: ToPack) -> Iterator[bytes]:
    tables = dict(sorted(whole.spooled.tables.items()))
    hashes = {f"{_TABLES}{name}{_LINES}": table.sha256 for name, table in tables.items()}
    hashes |= {_place(sha256): sha256 for sha256 in whole.files}
    manifest = {
        "format": FORMAT,
        "schema": whole.schema,
        "says": "JSON lines: a row of a table each; times ISO 8601 with their offset; colours "
        "CIELAB D50/2 and ASTM D1535; files under the SHA-256 of their bytes. "
        "Passwords and class codes are not in it; pictures under “missing” were nowhere.",
        "rows": {name: table.count for name, table in tables.items()},
        "sha256": dict(sorted(hashes.items())),
        **({"missing": sorted(whole.missing)} if whole.missing else {}),
    }
    first = (_MANIFEST, iter([orjson.dumps(manifest, option=orjson.OPT_INDENT_2)]))
    laid_down = ((f"{_TABLES}{name}{_LINES}", whole.spooled.pieces(name)) for name in tables)
    files = ((_place(name), map(whole.file, (name,))) for name in sorted(whole.files))
    return zip_chunks(chain([first], laid_down, files))


def _place(sha256: str) -> str:
    return f"{_FILES}{sha256}{_BODY}"


class Archive:
    """An archive every part of which is as it was packed."""

    def __init__(self, zipped: OpenZip) -> None:
        manifest = orjson.loads(zipped.read(_MANIFEST))
        if manifest["format"] != FORMAT:
            raise BadFile(
                gettext("This isn't an archive of format %(format)s: make it again.", format=FORMAT)
            )
        _check(zipped, manifest["sha256"])
        self._zipped = zipped
        self.schema = str(manifest["schema"])
        self.missing = frozenset(str(name) for name in manifest.get("missing", []))
        self.tables = _named(zipped, _TABLES, _LINES)
        self.files = _named(zipped, _FILES, _BODY)
        if any(manifest["sha256"][_place(name)] != name for name in self.files):
            raise BadFile(gettext("A file in the archive isn't under its own hash: make it again."))

    def rows(self, table: str) -> Iterator[Row]:
        """Give a table's rows as they come; none where the archive hasn't the table."""
        if table not in self.tables:
            return
        for line in self._zipped.lines(f"{_TABLES}{table}{_LINES}"):
            row = _loaded(line)
            if not isinstance(row, dict):
                raise BadFile(gettext("A row in the archive is none: make it again."))
            yield row

    def file(self, sha256: str) -> bytes:
        """Give one file."""
        return self._zipped.read(_place(sha256))


@contextmanager
def open_archive(source: Path | BinaryIO) -> Iterator[Archive]:
    """Open an archive whose every part is as it was packed, or refuse it whole."""
    with open_zip(source, _LIMITS) as zipped:
        try:
            archive = Archive(zipped)
        except (KeyError, TypeError, AttributeError, orjson.JSONDecodeError) as wrong:
            sentence = gettext("This is no archive of Noema's, or a part is missing.")
            raise BadFile(sentence) from wrong
        yield archive


def _check(zipped: OpenZip, hashes: Mapping[str, str]) -> None:
    if set(zipped.names) - {_MANIFEST} != set(hashes):
        raise BadFile(gettext("The archive hasn't the parts its manifest names: make it again."))
    for name, expected in hashes.items():
        sha256 = hashlib.sha256()
        for piece in zipped.pieces(name):
            sha256.update(piece)
        if sha256.hexdigest() != expected:
            raise BadFile(
                gettext("“%(name)s” in the archive was changed: make it again.", name=name[:60])
            )


def _named(zipped: OpenZip, start: str, end: str) -> frozenset[str]:
    found = (name for name in zipped.names if name.startswith(start))
    return frozenset(name[len(start) : -len(end)] for name in found)


def _loaded(line: bytes) -> object:
    try:
        return orjson.loads(line)
    except orjson.JSONDecodeError as wrong:
        raise BadFile(gettext("A row in the archive is none: make it again.")) from wrong
