"""A school, or a class of it, as one file; and such a file into an empty Noema."""

from collections.abc import Iterator
from dataclasses import dataclass

from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from noema.core.errors import BadFile, Refused
from noema.core.language import gettext, ngettext
from noema.devices.file_store import FileStore
from noema.formats.archive import Archive, ToPack, archive_chunks, archive_from_zip
from noema.store.archive import files_of, is_empty, put_rows, rows_of, schema_version
from noema.store.classes import class_of_school


@dataclass(frozen=True, kw_only=True)
class Packed:
    """An archive on its way out."""

    missing: int  # files that weren't found
    chunks: Iterator[bytes]


def archive_school(
    session: Session, files: FileStore, school_id: int, class_id: int | None = None
) -> Packed:
    """Give the archive of a school, or of one class with what it rests on, piece by piece.

    It has no secrets; a file that is missing is named in its manifest, and the rest goes out.
    """
    if class_id is not None:
        class_of_school(session, school_id, class_id)
    rows = rows_of(session, school_id, class_id)
    names = files_of(rows)
    there = [sha256 for sha256 in names if files.has(sha256)]
    missing = sorted(set(names) - set(there))
    whole = ToPack(
        schema=schema_version(session),
        rows=rows,
        files=there,
        file=files.get,
        missing=missing,
    )
    return Packed(missing=len(missing), chunks=archive_chunks(whole))


def bring_in_archive(session: Session, files: FileStore, data: bytes) -> str:
    """Put an archive into an empty Noema; gives the school's name. All of it comes or nothing."""
    archive = archive_from_zip(data)
    if not is_empty(session):
        raise Refused(
            gettext("There is a school here already: bring an archive into an empty Noema.")
        )
    if archive.schema != schema_version(session):
        raise BadFile(
            gettext(
                "The archive is of version %(schema)s and this Noema of "
                "%(schema_version)s: use the Noema it came from, or bring that up "
                "to date.",
                schema=archive.schema,
                schema_version=schema_version(session),
            )
        )
    missing = set(files_of_archive(archive)) - set(archive.files) - archive.missing
    if missing:
        raise BadFile(
            ngettext(
                "%(count)s picture is missing in the archive: make it again.",
                "%(count)s pictures are missing in the archive: make it again.",
                len(missing),
            )
        )
    try:
        put_rows(session, archive.rows)
        session.flush()
    except (DBAPIError, KeyError, TypeError, ValueError) as wrong:
        session.rollback()
        raise BadFile(gettext("Rows in the archive don't fit together: make it again.")) from wrong
    for body in archive.files.values():
        files.put(body)
    return str(archive.rows["school"][0]["name"])


def files_of_archive(archive: Archive) -> list[str]:
    """Name the files an archive's rows rest on."""
    try:
        return files_of(archive.rows)
    except (KeyError, TypeError) as wrong:
        raise BadFile(gettext("A table is missing in the archive: make it again.")) from wrong
