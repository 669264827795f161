"""An empty database for tests of what older versions kept."""

import pytest
from sqlalchemy import text

from noema.store.engine import open_engine


@pytest.fixture
def old_url(database_url):
    owner = open_engine(database_url).execution_options(isolation_level="AUTOCOMMIT")
    with owner.connect() as connection:
        connection.execute(text("DROP DATABASE IF EXISTS noema_old WITH (FORCE)"))
        connection.execute(text("CREATE DATABASE noema_old"))
    yield database_url.replace("/noema_test", "/noema_old")
    with owner.connect() as connection:
        connection.execute(text("DROP DATABASE noema_old WITH (FORCE)"))
    owner.dispose()
