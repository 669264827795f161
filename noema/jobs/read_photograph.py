"""The task that reads one photograph."""

from noema.actions.read_photograph import give_up_reading, read_photograph
from noema.jobs.patience import SURROUNDINGS, Patience
from noema.jobs.side_by_side import SideBySide
from noema.jobs.stores import Stores
from noema.store.tries import count_try, tries_of

MOST_TRIES = 3
"""Tries after which a photograph waits for a person, also where each ended the worker itself."""


def read_one(
    stores: Stores, side_by_side: SideBySide, photograph_id: int, attempts: int = 0
) -> None:
    """Read in one transaction; after the last try the photograph waits for a person.

    A try is counted before it begins: a photograph that ends the worker must not do so for ever.
    One that may have done it once is read alone. `attempts` is how often its job ran before.
    """
    with stores.sessions() as session:
        begun = tries_of(session, photograph_id)
    with side_by_side.among(alone=begun > 0):
        with stores.sessions.begin() as session:
            if count_try(session, photograph_id, 1) > MOST_TRIES:
                give_up_reading(session, photograph_id)
                return
        try:
            with stores.sessions.begin() as session:
                read_photograph(session, stores.files, photograph_id)
                count_try(session, photograph_id, -begun - 1)
        except Exception as wrong:
            with stores.sessions.begin() as session:
                if isinstance(wrong, SURROUNDINGS):
                    count_try(session, photograph_id, -1)  # no fault of its own
                if Patience().is_last(wrong, attempts):
                    give_up_reading(session, photograph_id)
            raise
