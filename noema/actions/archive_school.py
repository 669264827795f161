"""A school, or a class of it, as one file; and such a file into an empty Noema."""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO

from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from noema.actions.bring_up_rows import brought_up
from noema.core.errors import BadFile, Refused
from noema.core.language import gettext, ngettext
from noema.devices.file_store import FileStore
from noema.formats.archive import (
    MISFIT,
    Archive,
    SpooledTables,
    ToPack,
    archive_chunks,
    open_archive,
)
from noema.store.archive import Row, files_of_row, is_empty, put_rows, rows_of, schema_version
from noema.store.classes import class_of_school
from noema.store.engine import Sessions, as_it_stands


@dataclass(frozen=True, kw_only=True)
class Packed:
    """An archive on its way out."""

    missing: int  # files that weren't found
    chunks: Iterator[bytes]


def archive_school(
    sessions: Sessions, files: FileStore, school_id: int, class_id: int | None = None
) -> Packed:
    """Give the archive of a school, or of one class with what it rests on, piece by piece.

    It has no secrets; a file that is missing is named in its manifest, and the rest goes out.
    """
    spooled, wanted = SpooledTables(), set[str]()
    with as_it_stands(sessions) as session:
        if class_id is not None:
            class_of_school(session, school_id, class_id)
        schema = schema_version(session)
        for table, rows in rows_of(session, school_id, class_id):
            spooled.add(table, _noting(wanted, table, rows))
    there = files.among(wanted)
    missing = sorted(wanted - there)
    whole = ToPack(
        schema=schema, spooled=spooled, files=sorted(there), file=files.get, missing=missing
    )
    return Packed(missing=len(missing), chunks=archive_chunks(whole))


def _noting(wanted: set[str], table: str, rows: Iterable[Row]) -> Iterator[Row]:
    """Give rows on, and note the files they rest on."""
    for row in rows:
        wanted |= files_of_row(table, row)
        yield row


def bring_in_archive(
    session: Session, files: FileStore, source: Path | BinaryIO, database_url: str
) -> str:
    """Put an archive into an empty Noema; gives the school's name. All of it comes or nothing.

    One of an older Noema is brought up to date on the way, in a database beside.
    """
    with open_archive(source) as archive:
        if not is_empty(session):
            raise Refused(
                gettext("There is a school here already: bring an archive into an empty Noema.")
            )
        is_of_now = archive.schema == schema_version(session)
        _has_files(archive, is_of_now)
        if is_of_now:
            name = _put(session, archive.rows)
        else:
            with brought_up(archive, database_url) as rows:
                name = _put(session, rows)
        for sha256 in sorted(archive.files):
            files.put(archive.file(sha256))
    return name


def _put(session: Session, rows: Callable[[str], Iterable[Row]]) -> str:
    try:
        put_rows(session, rows)
        [school] = rows("school")
        return str(school["name"])
    except (DBAPIError, KeyError, TypeError, ValueError) as wrong:
        session.rollback()
        raise BadFile(gettext(MISFIT)) from wrong


def _has_files(archive: Archive, is_of_now: bool) -> None:
    """Refuse an archive whose rows rest on files that aren't in it."""
    wanted = set[str]()
    for table in ("photograph", "reading", "printer"):
        if table not in archive.tables and is_of_now:
            raise BadFile(gettext("A table is missing in the archive: make it again."))
        try:
            for _ in _noting(wanted, table, archive.rows(table)):
                pass
        except (KeyError, TypeError, AttributeError) as wrong:
            raise BadFile(gettext(MISFIT)) from wrong
    missing = wanted - archive.files - archive.missing
    if missing:
        raise BadFile(
            ngettext(
                "%(count)s picture is missing in the archive: make it again.",
                "%(count)s pictures are missing in the archive: make it again.",
                len(missing),
            )
        )
