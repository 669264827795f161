"""The task that judges an assignment's sheets by what it is held against now."""

from noema.actions.judge_sheets import judge_one_behind, sheets_behind
from noema.store.engine import Sessions


def judge_behind(sessions: Sessions, assignment_id: int) -> None:
    """Judge sheet by sheet, each in a transaction of its own, so that its judgement shows at once.

    One that can't be judged doesn't keep the others waiting.
    """
    with sessions() as session:
        waiting = sheets_behind(session, assignment_id)
    failed: Exception | None = None
    for photograph_id in waiting:
        try:
            with sessions.begin() as session:
                judge_one_behind(session, assignment_id, photograph_id)
        except Exception as wrong:
            failed = wrong
    if failed is not None:
        raise failed
