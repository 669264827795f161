"""The tasks that make a backup every night and try one every month."""

import logging
from datetime import datetime

from noema.actions.back_up import BackupPlan, back_up, try_newest
from noema.core.errors import Refused
from noema.jobs.stores import Stores

_LOG = logging.getLogger(__name__)


def back_up_all(stores: Stores, plan: BackupPlan, now: datetime) -> None:
    """Make a backup."""
    place = back_up(plan, stores.files.every(), now)
    _LOG.info("a backup was made: %s, %d bytes", place.name, place.stat().st_size)


def try_backup(plan: BackupPlan, now: datetime) -> None:
    """Try the newest backup; what is wrong with it is an error that somebody must hear."""
    try:
        _LOG.info("%s", try_newest(plan, now))
    except Refused:
        _LOG.exception("the newest backup doesn't come back")
        raise
