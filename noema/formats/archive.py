"""Archives: one zip with a manifest, every table as JSON lines, and every file (docs/formats.md).

The same matter gives the same bytes.
"""

import hashlib
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import chain
from typing import Any

import orjson

from noema.core.errors import BadFile
from noema.core.language import gettext
from noema.formats.safe_zip import ZipLimits, read_zip, zip_chunks

FORMAT = "noema-archive/1"
_MANIFEST = "manifest.json"
_LIMITS = ZipLimits(entries=200_000, bytes_in_all=8 * 2**30, bytes_an_entry=512 * 2**20)


@dataclass(frozen=True, kw_only=True)
class Archive:
    """What an archive holds."""

    schema: str  # the migration its tables are at
    rows: Mapping[str, list[dict[str, Any]]]  # by table
    files: Mapping[str, bytes]  # by SHA-256
    missing: frozenset[str] = frozenset()  # files that were missing when it was made


@dataclass(frozen=True, kw_only=True)
class ToPack:
    """What is about to be packed; files are fetched one by one."""

    schema: str  # the migration its tables are at
    rows: Mapping[str, list[dict[str, Any]]]  # by table
    files: Sequence[str]  # SHA-256
    file: Callable[[str], bytes]  # gives one
    missing: Sequence[str] = ()  # SHA-256 of files that rows rest on and that are nowhere


def archive_chunks(archive: ToPack) -> Iterator[bytes]:
    """Pack an archive, piece by piece: the manifest first, then tables, then files."""
    tables = {f"tables/{name}.jsonl": _lines(rows) for name, rows in archive.rows.items()}
    hashes = {name: _sha256(data) for name, data in tables.items()}
    hashes |= {_place(sha256): sha256 for sha256 in archive.files}
    manifest = {
        "format": FORMAT,
        "schema": archive.schema,
        "says": "JSON lines: a row of a table each; times ISO 8601 with their offset; colours "
        "CIELAB D50/2 and ASTM D1535; files under the SHA-256 of their bytes. "
        "Passwords and class codes are not in it; pictures under “missing” were nowhere.",
        "rows": {name: len(rows) for name, rows in sorted(archive.rows.items())},
        "sha256": dict(sorted(hashes.items())),
        **({"missing": sorted(archive.missing)} if archive.missing else {}),
    }
    first = (_MANIFEST, orjson.dumps(manifest, option=orjson.OPT_INDENT_2))
    files = ((_place(sha256), archive.file(sha256)) for sha256 in sorted(archive.files))
    return zip_chunks(chain([first], sorted(tables.items()), files))


def _place(sha256: str) -> str:
    return f"files/{sha256}.bin"


def archive_from_zip(data: bytes) -> Archive:
    """Unpack an archive whose every part is as it was packed, or refuse it whole."""
    entries = read_zip(data, _LIMITS)
    try:
        manifest = orjson.loads(entries.pop(_MANIFEST))
        if manifest["format"] != FORMAT:
            raise BadFile(
                gettext("This isn't an archive of format %(format)s: make it again.", format=FORMAT)
            )
        _check(entries, manifest["sha256"])
        rows = {
            name[len("tables/") : -len(".jsonl")]: _rows(body)
            for name, body in entries.items()
            if name.startswith("tables/")
        }
        files = {
            name[len("files/") : -len(".bin")]: body
            for name, body in entries.items()
            if name.startswith("files/")
        }
        if any(_sha256(body) != name for name, body in files.items()):
            raise BadFile(gettext("A file in the archive isn't under its own hash: make it again."))
        missing = frozenset(str(name) for name in manifest.get("missing", []))
        return Archive(schema=str(manifest["schema"]), rows=rows, files=files, missing=missing)
    except (KeyError, TypeError, AttributeError, orjson.JSONDecodeError) as wrong:
        raise BadFile(gettext("This is no archive of Noema's, or a part is missing.")) from wrong


def _check(entries: Mapping[str, bytes], hashes: Mapping[str, str]) -> None:
    if set(entries) != set(hashes):
        raise BadFile(gettext("The archive hasn't the parts its manifest names: make it again."))
    for name, body in entries.items():
        if _sha256(body) != hashes[name]:
            raise BadFile(
                gettext("“%(name)s” in the archive was changed: make it again.", name=name[:60])
            )


def _rows(body: bytes) -> list[dict[str, Any]]:
    rows = [orjson.loads(line) for line in body.splitlines()]
    if not all(isinstance(row, dict) for row in rows):
        raise TypeError("a row is an object")
    return rows


def _lines(rows: list[dict[str, Any]]) -> bytes:
    return b"".join(orjson.dumps(row, option=orjson.OPT_SORT_KEYS) + b"\n" for row in rows)


def _sha256(data: bytes) -> str:
    return hashlib.sha256(data).hexdigest()
