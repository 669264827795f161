"""The task that plans a class's unit."""

from datetime import UTC, datetime

from noema.actions.plan_unit import plan_unit
from noema.store.engine import Sessions


def plan_unit_of(sessions: Sessions, class_id: int) -> None:
    """Plan a class's unit in one transaction."""
    with sessions.begin() as session:
        plan_unit(session, class_id, datetime.now(UTC))
