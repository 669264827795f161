"""The application with a worker beside it, and a browser."""

import os
import subprocess
import sys
from threading import Thread

import pytest
from werkzeug.serving import make_server

from noema.assemble_pages import web_application_of
from tests.road.browser import opened, touched


@pytest.fixture(scope="module")
def address(settings, sessions):
    """The application with all its guards on, and a worker beside it."""
    server = make_server("127.0.0.1", 0, web_application_of(settings, sessions), threaded=True)
    Thread(target=server.serve_forever, daemon=True).start()
    environment = {
        **os.environ,
        "NOEMA_DATABASE_URL": settings.database_url,
        "NOEMA_FILES": settings.files,
        "NOEMA_SECRET_KEY": settings.secret_key,
    }
    worker = subprocess.Popen(
        [sys.executable, "-m", "noema.assemble"], env=environment, stderr=subprocess.DEVNULL
    )
    yield f"http://127.0.0.1:{server.server_port}"
    worker.terminate()
    worker.wait(15)
    server.shutdown()
    server.server_close()


@pytest.fixture
def phone(address):
    with touched(address) as page:
        yield page


@pytest.fixture
def page(address):
    with opened(address) as page:
        yield page
