"""Every sheet of an exercise that plainly holds is accepted in one go, after a look at all."""

from collections.abc import Mapping
from dataclasses import dataclass

from sqlalchemy.orm import Session

from noema.actions.review_sheet import review_sheet
from noema.core.errors import OutOfDate, Refused
from noema.core.judging.review import Decision, ReviewState, Verb
from noema.core.language import gettext
from noema.store.assignments import assignment_of_school
from noema.store.reviews import AttemptRow, waiting_for_review


@dataclass(frozen=True, kw_only=True)
class Accepted:
    """What came of it."""

    photograph_ids: tuple[int, ...]  # accepted
    changed: tuple[str, ...]  # students whose sheet somebody decided on meanwhile


def holding(session: Session, school_id: int, assignment_id: int) -> tuple[AttemptRow, ...]:
    """Give the sheets of an assignment that wait, hold plainly and carry no flag."""
    return tuple(
        attempt
        for attempt in waiting_for_review(session, school_id, [assignment_id])
        if attempt.holds_plainly and not attempt.is_behind
    )


def accept_holding(
    session: Session,
    *,
    school_id: int,
    teacher_id: int,
    assignment_id: int,
    seen: Mapping[int, int],
) -> Accepted:
    """Accept the sheets a teacher saw; `seen` gives how long each one's record was then."""
    assignment_of_school(session, school_id, assignment_id)
    wanted = [a for a in holding(session, school_id, assignment_id) if a.photograph_id in seen]
    if not wanted:
        raise Refused(gettext("None of these sheets waits any more: look at the queue again."))
    accepted, changed = [], []
    for attempt in wanted:
        try:
            review_sheet(
                session,
                school_id=school_id,
                teacher_id=teacher_id,
                photograph_id=attempt.photograph_id,
                decision=Decision(verb=Verb.ACCEPT),
                lines_seen=seen[attempt.photograph_id],
            )
            accepted.append(attempt.photograph_id)
        except OutOfDate:
            changed.append(attempt.student)
    return Accepted(photograph_ids=tuple(accepted), changed=tuple(changed))


def take_back(
    session: Session,
    *,
    school_id: int,
    teacher_id: int,
    assignment_id: int,
    photograph_ids: tuple[int, ...],
) -> None:
    """Undo an acceptance of several sheets at once."""
    assignment_of_school(session, school_id, assignment_id)
    for photograph_id in photograph_ids:
        review = review_sheet(
            session,
            school_id=school_id,
            teacher_id=teacher_id,
            photograph_id=photograph_id,
            decision=Decision(verb=Verb.UNDO),
        )
        if review.state is not ReviewState.OPEN:
            raise Refused(gettext("Some of these sheets were decided on since: look at each."))
