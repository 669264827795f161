"""What holds for single students: days and excuses in an assignment, and what helps them in all."""

from collections.abc import Collection
from dataclasses import dataclass
from datetime import date

from sqlalchemy import ColumnElement, delete, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.core.coaching.audience import Audience
from noema.core.coaching.needs import Needs
from noema.core.progress.excuse import Excuse
from noema.store.tables import Assignment, Enrolment, Photograph, Sheet, Student, StudentTerms


@dataclass(frozen=True, kw_only=True)
class Terms:
    """What holds for one student of an assignment, and not for the class."""

    due_on: date | None = None
    excuse: Excuse | None = None


USUAL_TERMS = Terms()


def terms_of_assignment(session: Session, assignment_id: int) -> dict[int, Terms]:
    """What holds for single students of an assignment, by student?"""
    rows = session.scalars(select(StudentTerms).where(StudentTerms.assignment_id == assignment_id))
    return {row.student_id: _terms(row) for row in rows}


def terms_of_student(session: Session, student_id: int) -> dict[int, Terms]:
    """What holds for one student alone, by assignment?"""
    rows = session.scalars(select(StudentTerms).where(StudentTerms.student_id == student_id))
    return {row.assignment_id: _terms(row) for row in rows}


def terms_of_class(session: Session, class_id: int) -> dict[tuple[int, int], Terms]:
    """What holds for single students of a class, by student and assignment?"""
    given = select(Assignment.id).where(Assignment.class_id == class_id)
    rows = session.scalars(select(StudentTerms).where(StudentTerms.assignment_id.in_(given)))
    return {(row.student_id, row.assignment_id): _terms(row) for row in rows}


def keep_terms(session: Session, assignment_id: int, student_id: int, terms: Terms) -> None:
    """Note what holds for a student; the usual terms take back what was noted."""
    own = (StudentTerms.assignment_id == assignment_id, StudentTerms.student_id == student_id)
    if terms == USUAL_TERMS:
        session.execute(delete(StudentTerms).where(*own))
        return
    values = {
        "due_on": terms.due_on,
        "excuse": None if terms.excuse is None else terms.excuse.value,
    }
    row = insert(StudentTerms).values(assignment_id=assignment_id, student_id=student_id, **values)
    session.execute(
        row.on_conflict_do_update(index_elements=["assignment_id", "student_id"], set_=values)
    )


def give_terms_to(session: Session, from_id: int, to_id: int) -> None:
    """Give one student's terms to another, where nothing is said of the other."""
    theirs = terms_of_student(session, from_id)
    for assignment_id in set(theirs) - set(terms_of_student(session, to_id)):
        keep_terms(session, assignment_id, to_id, theirs[assignment_id])
    session.execute(delete(StudentTerms).where(StudentTerms.student_id == from_id))


def is_excused() -> ColumnElement[bool]:
    """Whether the student enrolled is excused from the assignment; correlated with both."""
    return (
        select(StudentTerms.student_id)
        .where(
            StudentTerms.assignment_id == Assignment.id,
            StudentTerms.student_id == Enrolment.student_id,
            StudentTerms.excuse.is_not(None),
        )
        .correlate(Assignment, Enrolment)
        .exists()
    )


def needs_of_students(session: Session, student_ids: Collection[int]) -> dict[int, Needs]:
    """What helps some students?"""
    rows = session.execute(select(Student.id, *_NEEDS).where(Student.id.in_(student_ids)))
    return {
        row.id: _needs(row.larger_cells, row.fewer_steps, row.gentler, row.audience) for row in rows
    }


def is_judged_gently(session: Session, photograph_id: int) -> bool:
    """Is the student whose sheet a photograph shows judged more gently than their class?"""
    question = (
        select(Student.gentler)
        .join(Sheet, Sheet.student_id == Student.id)
        .join(Photograph, Photograph.sheet_id == Sheet.id)
        .where(Photograph.id == photograph_id)
    )
    return bool(session.scalar(question))


def set_needs(session: Session, student_id: int, needs: Needs) -> None:
    """Say what helps a student."""
    audience = None if needs.audience is None else needs.audience.value
    session.execute(
        update(Student)
        .where(Student.id == student_id)
        .values(
            larger_cells=needs.larger_cells,
            fewer_steps=needs.fewer_steps,
            gentler=needs.gentler,
            audience=audience,
        )
    )


def assignments_with_sheets_of(session: Session, student_id: int) -> tuple[int, ...]:
    """Of which assignments has a student a sheet?"""
    question = select(Sheet.assignment_id).where(Sheet.student_id == student_id).distinct()
    return tuple(session.scalars(question.order_by(Sheet.assignment_id)))


_NEEDS = (Student.larger_cells, Student.fewer_steps, Student.gentler, Student.audience)


def _needs(larger_cells: bool, fewer_steps: bool, gentler: bool, audience: str | None) -> Needs:
    return Needs(
        larger_cells=larger_cells,
        fewer_steps=fewer_steps,
        gentler=gentler,
        audience=None if audience is None else Audience(audience),
    )


def _terms(row: StudentTerms) -> Terms:
    return Terms(due_on=row.due_on, excuse=None if row.excuse is None else Excuse(row.excuse))
