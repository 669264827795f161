"""The task that lets files leave whose rows are gone."""

from collections.abc import Collection
from datetime import UTC, datetime

from noema.actions.let_files_leave import let_files_leave
from noema.jobs.stores import Stores


def let_leave_all(
    stores: Stores, uploads: Collection[str] = (), letters: Collection[str] = ()
) -> None:
    """Drop pieces and letters, then let files leave, some in each transaction."""
    for name in uploads:
        stores.pieces.drop(name)
    for letter in letters:
        stores.outbox.forget(letter)
    done = 1
    while done:
        with stores.sessions.begin() as session:
            done = let_files_leave(session, stores.files, datetime.now(UTC))
