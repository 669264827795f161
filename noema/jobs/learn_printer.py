"""The task that learns what a printer lays."""

from noema.actions.learn_printer import learn_printer
from noema.store.engine import Sessions


def learn_one(sessions: Sessions, printer_id: int) -> None:
    """Learn a printer in one transaction."""
    with sessions.begin() as session:
        learn_printer(session, printer_id)
