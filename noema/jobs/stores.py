"""Where the worker finds what it works on."""

from dataclasses import dataclass

from noema.devices.file_store import FileStore
from noema.devices.mail import Outbox
from noema.devices.piece_store import PieceStore
from noema.store.engine import Sessions


@dataclass(frozen=True, kw_only=True)
class Stores:
    """Where things are kept."""

    sessions: Sessions
    files: FileStore
    pieces: PieceStore
    outbox: Outbox
