"""The tasks of pictures somebody paints from: ranking tubes, reading paint held against them."""

from noema.actions.rank_tubes import rank_next
from noema.actions.read_held import give_up_held, read_held
from noema.jobs.patience import Patience
from noema.jobs.stores import Stores


def rank_all(stores: Stores, picture_id: int) -> None:
    """Work out rankings one after another, each seen as soon as it is there."""
    more = True
    while more:
        with stores.sessions.begin() as session:
            more = rank_next(session, stores.files, picture_id)


def read_held_one(stores: Stores, held_id: int, attempts: int) -> None:
    """Read in one transaction; after the last try it is said that nothing was read."""
    try:
        with stores.sessions.begin() as session:
            read_held(session, stores.files, held_id)
    except Exception as wrong:
        if Patience().is_last(wrong, attempts):
            with stores.sessions.begin() as session:
                give_up_held(session, held_id)
        raise
