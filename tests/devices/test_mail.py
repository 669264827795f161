"""Mail goes to a server over a private line, with a log-in, or not at all."""

import asyncio
import ssl
import warnings
from datetime import UTC, datetime
from threading import Thread

import pytest
import trustme
from aiosmtpd.smtp import SMTP, AuthResult

from noema.core.errors import Refused
from noema.devices.mail import Letter, MailServer, SmtpOutbox

USER, PASSWORD = "noema", "kept secret"
LETTER = Letter(
    sender="noema@school.example",
    to="ines@school.example",
    subject="Hello",
    words="A link: https://noema.school.example/links/x\n",
    written_at=datetime(2027, 1, 11, 9, 40, tzinfo=UTC),
)


class Kept:
    """A mail server that keeps what it gets."""

    def __init__(self):
        self.letters = []

    async def handle_DATA(self, _server, session, envelope):  # noqa: N802, as the server calls it
        self.letters.append((session.ssl is not None, envelope.content.decode()))
        return "250 OK"


def known(_server, _session, _envelope, _mechanism, data):
    right = (data.login.decode(), data.password.decode()) == (USER, PASSWORD)
    return AuthResult(success=right, handled=right)


class Running:
    """A server in a thread of its own."""

    def __init__(self, make, context):
        self.loop = asyncio.new_event_loop()
        self.thread = Thread(target=self.loop.run_forever)
        self.thread.start()
        begun = self.loop.create_server(make, "127.0.0.1", 0, ssl=context)
        self.server = asyncio.run_coroutine_threadsafe(begun, self.loop).result(10)
        self.port = self.server.sockets[0].getsockname()[1]

    def stop(self):
        asyncio.run_coroutine_threadsafe(self.end(), self.loop).result(10)
        self.loop.call_soon_threadsafe(self.loop.stop)
        self.thread.join()
        self.loop.close()

    async def end(self):
        self.server.close()
        for task in asyncio.all_tasks() - {asyncio.current_task()}:
            task.cancel()
        await asyncio.sleep(0.05)


@pytest.fixture(scope="module")
def authority():
    return trustme.CA()


@pytest.fixture
def server_over(authority):
    running = []

    def start(*, at_once=False, offers=True, asks=False, name="127.0.0.1"):
        context = ssl.create_default_context(ssl.Purpose.CLIENT_AUTH)
        authority.issue_cert(name).configure_cert(context)
        kept = Kept()
        later = None if at_once or not offers else context

        def make():
            with warnings.catch_warnings():  # a line that is private from the start counts as none
                warnings.simplefilter("ignore")
                return SMTP(
                    kept,
                    hostname="127.0.0.1",
                    tls_context=later,
                    authenticator=known if asks else None,
                    auth_require_tls=not at_once,
                    auth_required=asks,
                    loop=running[-1].loop if running else None,
                )

        running.append(Running(make, context if at_once else None))
        return kept, running[-1].port

    yield start
    for server in running:
        server.stop()


def sent(authority, port, security, user="", password=""):
    trust = ssl.create_default_context()
    authority.configure_trust(trust)
    at = MailServer(
        host="127.0.0.1", port=port, security=security, user=user, password=password, trust=trust
    )
    SmtpOutbox(at).send(LETTER)


@pytest.mark.parametrize(("security", "at_once"), [("starttls", False), ("tls", True)])
def test_a_letter_goes_over_a_private_line_with_a_log_in(server_over, authority, security, at_once):
    kept, port = server_over(at_once=at_once, asks=True)
    sent(authority, port, security, USER, PASSWORD)
    ((private, content),) = kept.letters
    assert private or at_once  # which takes no other
    assert "https://noema.school.example/links/x" in content


def test_a_wrong_log_in_is_said(server_over, authority):
    kept, port = server_over(asks=True)
    with pytest.raises(Refused, match="know Noema"):
        sent(authority, port, "starttls", USER, "wrong")
    assert kept.letters == []


def test_a_server_without_a_private_line_gets_nothing(server_over, authority):
    kept, port = server_over(offers=False)
    with pytest.raises(Refused, match="try again later"):
        sent(authority, port, "starttls", USER, PASSWORD)
    assert kept.letters == []
    sent(authority, port, "none")
    assert len(kept.letters) == 1


def test_a_certificate_for_another_name_is_refused(server_over, authority):
    kept, port = server_over(name="elsewhere.example")
    with pytest.raises(Refused, match="try again later"):
        sent(authority, port, "starttls")
    assert kept.letters == []
