"""The task that removes what nobody needs any more, every hour."""

from datetime import datetime

from noema.actions.sweep import forget_abandoned, remove_orphans
from noema.jobs.let_leave import let_leave_all
from noema.jobs.stores import Stores
from noema.store.accounts import forget_ended_links
from noema.store.guesses import forget_old_guesses
from noema.store.log_ins import forget_ended
from noema.store.looks import forget_looks
from noema.store.record import forget_old_record
from noema.store.sent_forms import forget_forms


def sweep_all(stores: Stores, now: datetime) -> None:
    """Forget abandoned uploads, let files leave, then remove those that no row names."""
    with stores.sessions.begin() as session:
        forget_abandoned(session, stores.pieces, now)
        forget_ended(session, now)
        forget_old_guesses(session, now)
        forget_forms(session, now)
        forget_looks(session, now)
        forget_ended_links(session, now)
        forget_old_record(session, now)
    let_leave_all(stores)
    with stores.sessions() as session:
        remove_orphans(session, stores.files)
