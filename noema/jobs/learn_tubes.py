"""The tasks that learn what a class's tubes are, and let its keys follow them."""

from noema.actions.learn_tubes import hold_by_tubes, learn_tubes
from noema.store.engine import Sessions


def learn_tubes_of(sessions: Sessions, class_id: int, set_ref: str) -> None:
    """Learn a class's tubes of one set in one transaction."""
    with sessions.begin() as session:
        learn_tubes(session, class_id, set_ref)


def follow_tubes_of(sessions: Sessions, class_id: int, set_ref: str, teacher_id: int) -> None:
    """Let the keys of a class's set follow its tubes, or not, in one transaction."""
    with sessions.begin() as session:
        hold_by_tubes(session, class_id, set_ref, teacher_id)
