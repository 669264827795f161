"""Tasks somebody waits for: ranking tubes for a picture, reading held paint or a trial sheet."""

from collections.abc import Callable

from sqlalchemy.orm import Session

from noema.actions.rank_tubes import rank_next
from noema.actions.read_held import give_up_held, read_held
from noema.actions.try_one_sheet import give_up_trial, read_trial
from noema.devices.file_store import FileStore
from noema.jobs.patience import Patience
from noema.jobs.stores import Stores


def rank_all(stores: Stores, picture_id: int) -> None:
    """Work out rankings one after another, each seen as soon as it is there."""
    more = True
    while more:
        with stores.sessions.begin() as session:
            more = rank_next(session, stores.files, picture_id)


def read_held_one(stores: Stores, held_id: int, attempts: int) -> None:
    """Read paint that was held beside a strip."""
    _read(stores, held_id, attempts, read_held, give_up_held)


def read_trial_one(stores: Stores, trial_id: int, attempts: int) -> None:
    """Read a trial sheet."""
    _read(stores, trial_id, attempts, read_trial, give_up_trial)


def _read(
    stores: Stores,
    number: int,
    attempts: int,
    read: Callable[[Session, FileStore, int], None],
    give_up: Callable[[Session, int], None],
) -> None:
    """Read in one transaction; after the last try it is said that nothing was read."""
    try:
        with stores.sessions.begin() as session:
            read(session, stores.files, number)
    except Exception as wrong:
        if Patience().is_last(wrong, attempts):
            with stores.sessions.begin() as session:
                give_up(session, number)
        raise
