"""A mail server that sends nothing: letters lie in a folder, and can be read in the browser."""

import re
from email import message_from_bytes, policy
from email.message import EmailMessage
from itertools import islice
from pathlib import Path
from uuid import uuid4

from noema.devices.mail import Letter, Sent, letter_to_message

_NAME = re.compile(r"[0-9T]{15}-[0-9a-f]{8}")
_MOST_SHOWN = 50


class PretendOutbox:
    """Letters as files, newest last by name."""

    sends = False

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def send(self, letter: Letter) -> None:
        """Lay a letter into the folder."""
        self._folder.mkdir(parents=True, exist_ok=True)
        at = letter.written_at
        name = f"{at:%Y%m%dT%H%M%S}-{at.microsecond:05x}{uuid4().hex[:3]}"
        (self._folder / name).write_bytes(bytes(letter_to_message(letter)))

    def sent_by(self, sender: str) -> tuple[Sent, ...]:
        """Give what one sender sent, the newest first."""
        if not self._folder.exists():
            return ()
        paths = sorted(self._folder.iterdir(), reverse=True)
        messages = (_message(path) for path in paths if _NAME.fullmatch(path.name))
        mine = (_sent(message) for message in messages if message["From"] == sender)
        return tuple(islice(mine, _MOST_SHOWN))

    def naming(self, name: str) -> tuple[str, ...]:
        """Look into every letter in the folder."""
        if not self._folder.exists():
            return ()
        paths = [path for path in self._folder.iterdir() if _NAME.fullmatch(path.name)]
        return tuple(sorted(path.name for path in paths if _names(_message(path), name)))

    def forget(self, letter: str) -> None:
        """Take a letter out of the folder."""
        if _NAME.fullmatch(letter):
            (self._folder / letter).unlink(missing_ok=True)


def _names(message: EmailMessage, name: str) -> bool:
    told = _sent(message)
    return any(name.casefold() in text.casefold() for text in (told.subject, told.words))


def _message(path: Path) -> EmailMessage:
    return message_from_bytes(path.read_bytes(), policy=policy.default)


def _sent(message: EmailMessage) -> Sent:
    body = message.get_body(("plain",))
    return Sent(
        to=str(message["To"]),
        subject=str(message["Subject"]),
        written=str(message["Date"]),
        words="" if body is None else body.get_content(),
        enclosures=tuple(part.get_filename() or "" for part in message.iter_attachments()),
    )
