"""The task that removes what nobody needs any more, every hour."""

from datetime import datetime

from noema.actions.sweep import forget_abandoned, remove_orphans
from noema.devices.file_store import FileStore
from noema.devices.piece_store import PieceStore
from noema.store.engine import Sessions


def sweep_all(sessions: Sessions, files: FileStore, pieces: PieceStore, now: datetime) -> None:
    """Forget abandoned uploads, then remove files that no row names."""
    with sessions.begin() as session:
        forget_abandoned(session, pieces, now)
    with sessions() as session:
        remove_orphans(session, files)
