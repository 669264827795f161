"""The task that learns what a class's tubes are."""

from noema.actions.learn_tubes import learn_tubes
from noema.store.engine import Sessions


def learn_tubes_of(sessions: Sessions, class_id: int, set_ref: str) -> None:
    """Learn a class's tubes of one set in one transaction."""
    with sessions.begin() as session:
        learn_tubes(session, class_id, set_ref)
