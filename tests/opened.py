"""Archives opened whole, as tests look at them, and packed from what is at hand."""

from dataclasses import dataclass
from io import BytesIO
from typing import Any

from noema.formats.archive import SpooledTables, ToPack, archive_chunks, open_archive


@dataclass(frozen=True, kw_only=True)
class Opened:
    schema: str
    rows: dict[str, list[dict[str, Any]]]  # by table
    files: dict[str, bytes]  # by SHA-256
    missing: frozenset[str]


def opened(data: bytes) -> Opened:
    with open_archive(BytesIO(data)) as archive:
        return Opened(
            schema=archive.schema,
            rows={table: list(archive.rows(table)) for table in archive.tables},
            files={name: archive.file(name) for name in archive.files},
            missing=archive.missing,
        )


def archive_of(
    schema: str, rows: dict[str, list[dict[str, Any]]], files: dict[str, bytes]
) -> bytes:
    spooled = SpooledTables()
    for table, its_rows in rows.items():
        spooled.add(table, its_rows)
    whole = ToPack(schema=schema, spooled=spooled, files=list(files), file=files.__getitem__)
    return b"".join(archive_chunks(whole))
