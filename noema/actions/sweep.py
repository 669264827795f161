"""What nobody needs any more is removed: files no row names, photographs that never came whole."""

from datetime import datetime, timedelta

from sqlalchemy.orm import Session

from noema.devices.file_store import FileStore
from noema.devices.piece_store import PieceStore
from noema.store.files import abandoned_uploads, named_files
from noema.store.student_work import end_upload

KEPT_H = 24.0
"""Hours that a file without a row stays, and an upload without another piece: a row is written in
the same minute as its file, and a phone that lost its link comes back within the day."""

_AT_ONCE = 500


def remove_orphans(session: Session, files: FileStore, kept_h: float = KEPT_H) -> int:
    """Remove files that no row speaks of; gives how many there were."""
    old = list(files.untouched(kept_h * 3600.0))
    gone = 0
    for start in range(0, len(old), _AT_ONCE):
        names = old[start : start + _AT_ONCE]
        for name in set(names) - named_files(session, names):
            files.remove(name)
            gone += 1
    return gone


def forget_abandoned(
    session: Session, pieces: PieceStore, now: datetime, kept_h: float = KEPT_H
) -> int:
    """Forget photographs that began to come long ago and never came whole; gives how many."""
    late = abandoned_uploads(session, now - timedelta(hours=kept_h))
    for name in late:
        end_upload(session, name, None)
        pieces.drop(name)
    return len(late)
