"""A database and settings to measure with."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from noema.settings import Settings
from noema.store.engine import Sessions, bring_up_to_date, open_engine, open_sessions
from tools.cluster import Cluster

_ROOT = Path(__file__).parents[1]


@contextmanager
def opened() -> Iterator[tuple[Sessions, Settings]]:
    """Start PostgreSQL with a database up to date, and stop it afterwards."""
    cluster = Cluster(_ROOT / ".local/test/postgres")
    cluster.start()
    engine = open_engine(cluster.database("noema_bench"))
    try:
        bring_up_to_date(engine)
        settings = Settings(
            database_url=cluster.url("noema_bench"),
            files=str(_ROOT / ".local/bench"),
            secret_key="only for the bench, and long enough for it",
            slows_guessing=0,
        )
        yield open_sessions(engine), settings
    finally:
        engine.dispose()
        cluster.stop()
