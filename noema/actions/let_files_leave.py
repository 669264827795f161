"""Files whose rows are gone leave the file store; done twice, or half, it can be done again."""

from datetime import datetime, timedelta

from sqlalchemy.orm import Session

from noema.devices.file_store import FileStore
from noema.store.erasure import leaving_files, left
from noema.store.files import named_files

_AT_ONCE = 100
_AGAIN = timedelta(hours=1)
"""How long a file stays that somebody put again meanwhile: its row may be on its way."""


def let_files_leave(session: Session, files: FileStore, now: datetime) -> int:
    """Take some files off the store; gives how many were dealt with, 0 once nothing is left."""
    leaving = dict(leaving_files(session, _AT_ONCE))
    stays = named_files(session, leaving)
    done = set(stays)
    for sha256, since in leaving.items():
        if sha256 in stays:
            continue
        put = files.put_at(sha256)
        if put is not None and since < put and now - put < _AGAIN:
            continue
        files.remove(sha256)
        done.add(sha256)
    left(session, done)
    return len(done)
