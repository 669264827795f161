"""Where every student of a class stands with every assignment."""

from dataclasses import dataclass

from sqlalchemy import ColumnElement, select
from sqlalchemy.orm import Session

from noema.core.judging.review import ReviewState
from noema.core.progress.states import PhotoState, WorkState, work_state
from noema.store.tables import Assignment, Enrolment, Photograph, ReviewRow, Sheet, StudentTerms

WorkKey = tuple[int, int]  # student, assignment


@dataclass(frozen=True, kw_only=True)
class WorkRow:
    """One student's work on one assignment."""

    state: WorkState
    photograph_id: int | None  # the latest one


def work_of_class(session: Session, class_id: int) -> dict[WorkKey, WorkRow]:
    """Where does each student of a class stand? Nothing for a pair: nothing was printed."""
    there = select(Enrolment.student_id).where(Enrolment.class_id == class_id)
    found = work_where(session, Assignment.class_id == class_id, Sheet.student_id.in_(there))
    of_class = select(Assignment.id).where(Assignment.class_id == class_id)
    return excused_too(session, found, StudentTerms.assignment_id.in_(of_class))


def excused_too(
    session: Session, found: dict[WorkKey, WorkRow], *conditions: ColumnElement[bool]
) -> dict[WorkKey, WorkRow]:
    """Add who is excused from what was never printed for them; conditions are on terms."""
    question = select(StudentTerms.student_id, StudentTerms.assignment_id)
    excused = question.where(StudentTerms.excuse.is_not(None), *conditions)
    nothing = WorkRow(state=WorkState.EXCUSED, photograph_id=None)
    return {(student, given): nothing for student, given in session.execute(excused)} | found


def work_where(session: Session, *conditions: ColumnElement[bool]) -> dict[WorkKey, WorkRow]:
    """Where does the work stand on the sheets that meet some conditions?"""
    question = (
        select(
            Sheet.student_id,
            Sheet.assignment_id,
            Photograph.id,
            Photograph.state,
            ReviewRow.state.label("review"),
            StudentTerms.excuse,
        )
        .join(Assignment, Assignment.id == Sheet.assignment_id)
        .outerjoin(
            Photograph,
            (Photograph.sheet_id == Sheet.id)
            & Photograph.state.not_in([PhotoState.SET_ASIDE.value, PhotoState.TOGETHER.value]),
        )
        .outerjoin(ReviewRow, ReviewRow.photograph_id == Photograph.id)
        .outerjoin(
            StudentTerms,
            (StudentTerms.assignment_id == Sheet.assignment_id)
            & (StudentTerms.student_id == Sheet.student_id),
        )
        .where(*conditions)
        .order_by(Photograph.id.asc().nulls_first())
    )
    latest = {(row.student_id, row.assignment_id): row for row in session.execute(question)}
    return {
        key: _work(row.id, row.state, row.review, excused=row.excuse is not None)
        for key, row in latest.items()
    }


def _work(
    photograph_id: int | None, state: str | None, review: str | None, *, excused: bool
) -> WorkRow:
    return WorkRow(
        state=work_state(
            True,
            None if state is None else PhotoState(state),
            None if review is None else ReviewState(review),
            excused=excused,
        ),
        photograph_id=photograph_id,
    )
