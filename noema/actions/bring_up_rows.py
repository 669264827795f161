"""An archive of an older Noema, brought up to date in a database beside that is gone afterwards."""

from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager

from sqlalchemy.exc import DBAPIError

from noema.core.errors import BadFile
from noema.core.language import gettext
from noema.devices.database_dump import scratch_database
from noema.formats.archive import MISFIT, Archive
from noema.store.archive import Row, rows_of_table
from noema.store.engine import as_it_stands, open_engine, open_sessions
from noema.store.older_rows import put_older_rows


@contextmanager
def brought_up(archive: Archive, database_url: str) -> Iterator[Callable[[str], Iterable[Row]]]:
    """Give the rows by table, as this Noema would have kept them."""
    with scratch_database(database_url) as url:
        engine = open_engine(url)
        try:
            put_older_rows(engine, archive.schema, sorted(archive.tables), archive.rows)
            with as_it_stands(open_sessions(engine)) as session:
                yield lambda table: rows_of_table(session, table)
        except (DBAPIError, KeyError, TypeError, ValueError) as wrong:
            raise BadFile(gettext(MISFIT)) from wrong
        finally:
            engine.dispose()
