"""The task that reads one photograph."""

from noema.actions.read_photograph import give_up_reading, read_photograph
from noema.devices.file_store import FileStore
from noema.store.engine import Sessions


def read_one(sessions: Sessions, files: FileStore, photograph_id: int, *, last_try: bool) -> None:
    """Read in one transaction; after the last try the photograph waits for a person."""
    try:
        with sessions.begin() as session:
            read_photograph(session, files, photograph_id)
    except Exception:
        if last_try:
            with sessions.begin() as session:
                give_up_reading(session, photograph_id)
        raise
