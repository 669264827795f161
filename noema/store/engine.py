"""Connecting to the database, and bringing its tables up to date."""

from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from functools import cache
from pathlib import Path

import orjson
from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import Connection, Engine, create_engine, text
from sqlalchemy.orm import Session, sessionmaker

MIGRATIONS = Path(__file__).parent / "migrations"

Sessions = sessionmaker[Session]

_CONNECTIONS = 40  # as many as a process of the pages has threads: none waits for another's
REACHING: Mapping[str, str | int] = {
    "connect_timeout": 5,
    "keepalives_idle": 5,
    "keepalives_interval": 2,
    "keepalives_count": 3,
    "tcp_user_timeout": 10_000,  # ms
}
"""How soon a database whose machine is gone counts as away (libpq's parameters, seconds)."""

_LETTING_GO = "-c tcp_keepalives_idle=5 -c tcp_keepalives_interval=2 -c tcp_keepalives_count=3"
"""How soon the database lets go of what a machine held that is gone: else its locks stay."""

_MIGRATING = 0x6E6F656D61  # any number that nobody else locks by


def open_engine(database_url: str) -> Engine:
    """Open a pool of connections; the URL is postgresql://user@host:port/name."""
    url = database_url.replace("postgresql://", "postgresql+psycopg://", 1)
    return create_engine(
        url,
        pool_pre_ping=True,
        pool_size=_CONNECTIONS,
        max_overflow=0,
        hide_parameters=True,  # a failure's words must tell no name
        # One plan for schools of every size would be a bad one for most.
        connect_args={
            "options": f"-c timezone=utc -c plan_cache_mode=force_custom_plan {_LETTING_GO}",
            **REACHING,
        },
        json_deserializer=orjson.loads,
    )


def open_sessions(engine: Engine) -> Sessions:
    """Give the maker of sessions; objects stay readable after their commit."""
    return sessionmaker(engine, expire_on_commit=False)


@contextmanager
def as_it_stands(sessions: Sessions) -> Iterator[Session]:
    """Read a database as it stands now, whatever is written meanwhile."""
    with sessions() as session:
        session.connection(execution_options={"isolation_level": "REPEATABLE READ"})
        yield session


def bring_up_to_date(engine: Engine) -> None:
    """Run every migration that is missing; who comes second waits for the first, and is done."""
    with engine.begin() as connection:
        connection.execute(text("SELECT pg_advisory_xact_lock(:key)"), {"key": _MIGRATING})
        command.upgrade(migrations_of(connection), "head")


def migrations_of(connection: Connection) -> Config:
    """Give the migrations, to be run on a connection."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    config.attributes["connection"] = connection
    return config


@cache
def newest_version() -> str:
    """Give the migration that tables should be at."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    return str(ScriptDirectory.from_config(config).get_current_head())


def driver_connection(session: Session) -> object:
    """Give the driver's own connection of a session's transaction, for the job queue."""
    connection: Connection = session.connection()
    return connection.connection.driver_connection
