"""What tests share: a database of their own, a file store, schools that are made anew."""

import os
from collections.abc import Iterator
from pathlib import Path

import pytest
from argon2 import PasswordHasher
from flask import Flask
from sqlalchemy import text

from noema.actions import passwords
from noema.assemble_pages import web_application_of
from noema.devices.file_store import LocalFiles
from noema.settings import Settings
from noema.store.engine import Sessions, bring_up_to_date, open_engine, open_sessions
from tests.trade import SECRET, School, found_school
from tools.cluster import Cluster

ROOT = Path(__file__).parents[1]


@pytest.fixture(scope="session", autouse=True)
def quick_passwords() -> Iterator[None]:
    """Hashes are meant to be slow: tests make hundreds."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(
            passwords, "HASHER", PasswordHasher(time_cost=1, memory_cost=8, parallelism=1)
        )
        yield


@pytest.fixture(scope="session")
def database_url() -> Iterator[str]:
    """An empty, migrated database in a cluster that lives as long as the tests.

    Tests run in several processes, each with a cluster of its own.
    """
    worker = os.environ.get("PYTEST_XDIST_WORKER", "alone")
    cluster = Cluster(ROOT / f".local/test/postgres-{worker}", lasting=False)
    cluster.start()
    owner = open_engine(cluster.url("postgres")).execution_options(isolation_level="AUTOCOMMIT")
    with owner.connect() as connection:
        connection.execute(text("DROP DATABASE IF EXISTS noema_test WITH (FORCE)"))
    owner.dispose()
    url = cluster.database("noema_test")
    engine = open_engine(url)
    bring_up_to_date(engine)
    engine.dispose()
    yield url
    cluster.stop()


@pytest.fixture
def empty_url(database_url: str) -> Iterator[str]:
    """A database beside it without any table."""
    owner = open_engine(database_url).execution_options(isolation_level="AUTOCOMMIT")
    with owner.connect() as connection:
        connection.execute(text("DROP DATABASE IF EXISTS noema_empty WITH (FORCE)"))
        connection.execute(text("CREATE DATABASE noema_empty"))
    yield database_url.replace("/noema_test", "/noema_empty")
    with owner.connect() as connection:
        connection.execute(text("DROP DATABASE noema_empty WITH (FORCE)"))
    owner.dispose()


@pytest.fixture(scope="session")
def settings(database_url: str, tmp_path_factory: pytest.TempPathFactory) -> Settings:
    return Settings(
        database_url=database_url,
        files=str(tmp_path_factory.mktemp("files")),
        secret_key=SECRET,
        slows_guessing=0,
    )


@pytest.fixture(scope="session")
def sessions(database_url: str) -> Iterator[Sessions]:
    engine = open_engine(database_url)
    yield open_sessions(engine)
    engine.dispose()


@pytest.fixture(scope="session")
def files(settings: Settings) -> LocalFiles:
    return LocalFiles(Path(settings.files))


@pytest.fixture(scope="session")
def app(settings: Settings, sessions: Sessions) -> Flask:
    """The application as it runs, except that forms needn't carry their token."""
    app = web_application_of(settings, sessions)
    app.config["WTF_CSRF_ENABLED"] = False
    return app


@pytest.fixture
def school(sessions: Sessions, files: LocalFiles) -> School:
    """A school nobody else uses: a teacher, a colleague, a class of three, a printed scale."""
    return found_school(sessions, files)


@pytest.fixture
def other_school(sessions: Sessions, files: LocalFiles) -> School:
    """Another school, for what must stay apart."""
    return found_school(sessions, files)
