"""Mail that goes out: the contract, and what a message is."""

import re
import smtplib
import ssl
from dataclasses import dataclass, field
from datetime import datetime
from email.message import EmailMessage
from typing import Protocol

from noema.core.errors import Refused
from noema.core.language import gettext

ADDRESS = re.compile(r"[^@\s<>,;]+@[^@\s<>,;]+\.[^@\s<>,;]+")
_LONGEST_SUBJECT = 150
_PATIENCE_S = 20


@dataclass(frozen=True, kw_only=True)
class Enclosure:
    """A file that goes with a message."""

    name: str
    mimetype: str
    data: bytes


@dataclass(frozen=True, kw_only=True)
class Letter:
    """A message about to go out."""

    sender: str
    to: str
    subject: str
    words: str
    written_at: datetime
    enclosures: tuple[Enclosure, ...] = field(default=())

    def __post_init__(self) -> None:
        if not ADDRESS.fullmatch(self.to):
            raise Refused(
                gettext(
                    "“%(to)s” is no e-mail address: give one such as a@b.example.", to=self.to[:60]
                )
            )
        if "\n" in self.subject or len(self.subject) > _LONGEST_SUBJECT:
            raise Refused(gettext("The subject must be one line of at most 150 letters."))


@dataclass(frozen=True, kw_only=True)
class Sent:
    """A letter that went out."""

    to: str
    subject: str
    written: str
    words: str
    enclosures: tuple[str, ...]  # names


class Outbox(Protocol):
    """Where mail goes out."""

    @property
    def sends(self) -> bool:
        """Whether letters really go out, or are only kept."""

    def send(self, letter: Letter) -> None:
        """Send a letter, or refuse when it can't go out."""

    def sent_by(self, sender: str) -> tuple[Sent, ...]:
        """Give what a sender sent, the newest first, as far as the outbox remembers."""

    def naming(self, name: str) -> tuple[str, ...]:
        """Say which letters it remembers that name somebody."""

    def forget(self, letter: str) -> None:
        """Forget a letter; nothing happens where there is none."""


@dataclass(frozen=True, kw_only=True)
class MailServer:
    """Where a mail server is and how it is spoken to."""

    host: str
    port: int
    security: str = "none"  # or starttls (RFC 3207), or tls from the beginning (RFC 8314)
    user: str = ""
    password: str = ""
    trust: ssl.SSLContext = field(default_factory=ssl.create_default_context)


class SmtpOutbox:
    """A school's own mail server (RFC 5321); it remembers nothing."""

    sends = True

    def __init__(self, server: MailServer) -> None:
        self._server = server

    def send(self, letter: Letter) -> None:
        """Hand a letter to the server."""
        try:
            with self._open() as server:
                if self._server.user:
                    server.login(self._server.user, self._server.password)
                server.send_message(letter_to_message(letter))
        except smtplib.SMTPAuthenticationError as wrong:
            raise Refused(
                gettext("The mail server doesn’t know Noema: whoever runs it must look.")
            ) from wrong
        except (OSError, smtplib.SMTPException) as wrong:
            raise Refused(
                gettext("The mail server doesn't take the letter: try again later.")
            ) from wrong

    def _open(self) -> smtplib.SMTP:
        """Open a connection; one that should be private and isn't is given up."""
        at = self._server
        if at.security == "tls":
            return smtplib.SMTP_SSL(at.host, at.port, timeout=_PATIENCE_S, context=at.trust)
        server = smtplib.SMTP(at.host, at.port, timeout=_PATIENCE_S)
        if at.security == "starttls":
            try:
                server.starttls(context=at.trust)
            except BaseException:
                server.close()
                raise
        return server

    def sent_by(self, sender: str) -> tuple[Sent, ...]:
        """Remember nothing."""
        return ()

    def naming(self, name: str) -> tuple[str, ...]:
        """Remember nothing."""
        return ()

    def forget(self, letter: str) -> None:
        """Have nothing to forget."""


def letter_to_message(letter: Letter) -> EmailMessage:
    """Give a letter as an Internet message (RFC 5322)."""
    message = EmailMessage()
    message["From"], message["To"] = letter.sender, letter.to
    message["Subject"] = letter.subject
    message["Date"] = letter.written_at
    message.set_content(letter.words)
    for enclosure in letter.enclosures:
        kind, subkind = enclosure.mimetype.split("/", 1)
        message.add_attachment(
            enclosure.data, maintype=kind, subtype=subkind, filename=enclosure.name
        )
    return message
