"""Slow senders before the proxy: nobody else waits for them; too much is refused at once."""

import os
import socket
import subprocess
import time
from urllib.error import HTTPError
from urllib.request import Request, urlopen

import pytest

from tools.local import any_port
from tools.proxy import command, site

SLOW, THREADS = 40, 3
SOON_S = 10.0  # for pages that take some milliseconds; other tests run beside


@pytest.fixture(scope="module")
def served(settings, tmp_path_factory):
    """The pages behind the proxy, with few threads; gives the proxy's port."""
    port, pages_port = any_port(), any_port()
    environment = {
        **os.environ,
        "NOEMA_DATABASE_URL": settings.database_url,
        "NOEMA_FILES": settings.files,
        "NOEMA_SECRET_KEY": settings.secret_key,
        "NOEMA_PROXIES": "1",
    }
    pages = subprocess.Popen(
        [".venv/bin/gunicorn", "--bind", f"127.0.0.1:{pages_port}", "--threads", str(THREADS),
         "--log-level", "error", "noema.assemble_pages:web_application()"],
        env=environment,
    )  # fmt: skip
    proxy = subprocess.Popen(
        command(tmp_path_factory.mktemp("nginx"), site(port, pages_port)), stderr=subprocess.DEVNULL
    )
    until = time.monotonic() + 60
    while not answers(port):
        assert time.monotonic() < until
        time.sleep(0.2)
    yield port
    for process in (proxy, pages):
        process.terminate()
        process.wait(20)


def answers(port):
    try:
        return asked(port, "/health") == 200
    except OSError:
        return False


def asked(port, path, data=None):
    try:
        with urlopen(Request(f"http://127.0.0.1:{port}{path}", data=data), timeout=30) as answer:
            return answer.status
    except HTTPError as wrong:
        return wrong.code


def slow(port, sent):
    """Somebody who sends this and then nothing."""
    client = socket.create_connection(("127.0.0.1", port))
    client.sendall(sent)
    return client


def test_nobody_waits_for_slow_senders(served):
    head = b"POST /log-in HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 5000\r\n"
    clients = [slow(served, head + b"\r\nemail=") for _ in range(SLOW)]
    clients += [slow(served, head) for _ in range(SLOW)]  # not even the head is whole
    begun = time.monotonic()
    assert [asked(served, "/log-in") for _ in range(10)] == [200] * 10
    assert time.monotonic() - begun < SOON_S
    for client in clients:
        client.close()


@pytest.mark.parametrize("path", ["/classes/1/roster", "/log-in"])
def test_too_much_is_refused_by_its_size(served, path):
    assert asked(served, path, b"text=" + b"x" * 5_000_000) == 413
    assert asked(served, path, b"text=" + b"x" * 40_000_000) == 413
    assert asked(served, "/log-in") == 200


@pytest.mark.parametrize(
    ("path", "megabytes"),
    [("/photograph", 45), ("/batches/1/photos", 25), ("/me/exercises/1/photographs", 25)],
)
def test_what_takes_photographs_takes_as_much_as_they_need(served, path, megabytes):
    assert asked(served, path, b"x" * (megabytes * 1_000_000)) in (302, 400, 401, 403)


@pytest.mark.parametrize("path", ["/batches/1/photos", "/photographs/1/another", "/rosters"])
def test_and_no_more(served, path):
    assert asked(served, path, b"x" * 40_000_000) == 413
