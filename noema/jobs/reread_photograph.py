"""The task that reads one photograph again."""

from noema.actions.read_again import reread_photograph
from noema.devices.file_store import FileStore
from noema.store.engine import Sessions


def reread_one(sessions: Sessions, files: FileStore, photograph_id: int) -> None:
    """Read again in one transaction; the earlier reading stays whatever happens."""
    with sessions.begin() as session:
        reread_photograph(session, files, photograph_id)
