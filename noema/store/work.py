"""Where every student of a class stands with every assignment."""

from dataclasses import dataclass

from sqlalchemy import ColumnElement, select
from sqlalchemy.orm import Session

from noema.core.judging.review import ReviewState
from noema.core.progress.states import PhotoState, WorkState, work_state
from noema.store.tables import Assignment, Enrolment, Photograph, ReviewRow, Sheet

WorkKey = tuple[int, int]  # student, assignment


@dataclass(frozen=True, kw_only=True)
class WorkRow:
    """One student's work on one assignment."""

    state: WorkState
    photograph_id: int | None  # the latest one


def work_of_class(session: Session, class_id: int) -> dict[WorkKey, WorkRow]:
    """Where does each student of a class stand? Nothing for a pair: nothing was printed."""
    there = select(Enrolment.student_id).where(Enrolment.class_id == class_id)
    return work_where(session, Assignment.class_id == class_id, Sheet.student_id.in_(there))


def work_where(session: Session, *conditions: ColumnElement[bool]) -> dict[WorkKey, WorkRow]:
    """Where does the work stand on the sheets that meet some conditions?"""
    question = (
        select(
            Sheet.student_id,
            Sheet.assignment_id,
            Photograph.id,
            Photograph.state,
            ReviewRow.state.label("review"),
        )
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .outerjoin(
            Photograph,
            (Photograph.sheet_id == Sheet.id)
            & Photograph.state.not_in([PhotoState.SET_ASIDE.value, PhotoState.TOGETHER.value]),
        )
        .outerjoin(ReviewRow, ReviewRow.photograph_id == Photograph.id)
        .where(*conditions)
        .order_by(Photograph.id.asc().nulls_first())
    )
    latest = {(row.student_id, row.assignment_id): row for row in session.execute(question)}
    return {key: _work(row.id, row.state, row.review) for key, row in latest.items()}


def _work(photograph_id: int | None, state: str | None, review: str | None) -> WorkRow:
    return WorkRow(
        state=work_state(
            True,
            None if state is None else PhotoState(state),
            None if review is None else ReviewState(review),
        ),
        photograph_id=photograph_id,
    )
