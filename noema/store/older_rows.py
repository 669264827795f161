"""Rows of an older Noema, put into tables as they were then."""

from collections.abc import Callable, Iterable
from secrets import token_hex

from alembic import command
from alembic.util import CommandError
from sqlalchemy import Column, Connection, Engine, MetaData, String, Table, insert, text
from sqlalchemy.dialects.postgresql import JSONB

from noema.core.errors import BadFile
from noema.core.language import gettext
from noema.store.archive import Row, batched, go_on_numbering, new_secrets, typed
from noema.store.engine import bring_up_to_date, migrations_of

_KEYS_BETWEEN = text(
    "SELECT conrelid::regclass AS held, conname AS name FROM pg_constraint"
    " WHERE contype = 'f' AND NOT condeferrable AND connamespace = 'public'::regnamespace"
)


def put_older_rows(
    engine: Engine, schema: str, tables: Iterable[str], rows: Callable[[str], Iterable[Row]]
) -> None:
    """Make the tables of an older version in an empty database, fill them, bring them up to date.

    Refuses a version that isn't known here.
    """
    with engine.begin() as connection:
        try:
            command.upgrade(migrations_of(connection), schema)
        except CommandError as wrong:
            raise BadFile(
                gettext(
                    "The archive is of version %(schema)s, which this Noema doesn't know: bring "
                    "Noema up to date first.",
                    schema=schema[:20],
                )
            ) from wrong
    with engine.begin() as connection:
        held = connection.execute(_KEYS_BETWEEN).all()
        _hold(connection, held, "DEFERRABLE INITIALLY DEFERRED")
        found = MetaData()
        found.reflect(connection)
        for name in tables:
            _fill(connection, found.tables[name], rows(name))
    with engine.begin() as connection:
        _hold(connection, held, "NOT DEFERRABLE")
    bring_up_to_date(engine)


def _hold(connection: Connection, keys: Iterable[tuple[str, str]], how: str) -> None:
    """Say when rows must find the rows they speak of: at once, or once all are there."""
    for table, name in keys:
        connection.execute(text(f'ALTER TABLE {table} ALTER CONSTRAINT "{name}" {how}'))


def _fill(connection: Connection, table: Table, rows: Iterable[Row]) -> None:
    for column in table.columns:
        if isinstance(column.type, JSONB):
            column.type.none_as_null = True
    for some in batched(typed(table, row) | _not_told(table, row) for row in rows):
        connection.execute(insert(table), some)
    go_on_numbering(connection, table)


def _not_told(table: Table, row: Row) -> Row:
    """Give what an archive never holds and a row must have."""
    known = {name: value for name, value in new_secrets(table).items() if name in table.columns}
    secret = {column.name: token_hex(8) for column in table.columns if _must_have(column, row)}
    return secret | known


def _must_have(column: Column[object], row: Row) -> bool:
    has_own = column.server_default is not None or column.identity is not None
    return column.name not in row and not column.nullable and not has_own and _is_text(column)


def _is_text(column: Column[object]) -> bool:
    return isinstance(column.type, String)
