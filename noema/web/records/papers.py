"""What a class's records are made of: its grade book and its measurements."""

from noema.actions.write_rubric import rubric_of
from noema.core.judging.skills import mark_of, skill_marks
from noema.formats.class_measurements import SheetMeasured
from noema.formats.grade_book import GradeBook, GradeCell, GradeColumn
from noema.formats.judgement_json import judgement_from_json
from noema.store.assignments import AssignmentRow, assignments_of_class
from noema.store.classes import ClassRow, students_of_class
from noema.store.judgements import judgements_of
from noema.store.readings import readings_of_class
from noema.store.reviews import attempts_of_class, tries_of_class
from noema.store.terms import terms_of_class
from noema.web.frame.request import db, me


def grade_book_of(row: ClassRow) -> GradeBook:
    """Collect a class's grade book: the newest attempt of everybody at everything."""
    rubric = rubric_of(db(), me().school_id)
    attempts, tries = attempts_of_class(db(), row.id), tries_of_class(db(), row.id)
    bodies = judgements_of(db(), [one.photograph_id for one in attempts])
    cells = {}
    for one in attempts:
        judgement = judgement_from_json(bodies[one.photograph_id])
        marks = skill_marks(judgement, one.review, rubric)
        cells[(one.student_id, one.assignment_id)] = GradeCell(
            state=one.review.state.value,
            skills={m.skill.value: round(m.points, 2) for m in marks if m.points is not None},
            mark=mark_of(marks, rubric),
            handed_in=one.received_at,
            attempts=tries[one.student_id, one.assignment_id].attempts,
            sheets=tries[one.student_id, one.assignment_id].sheets,
        )
    graded = {assignment_id for _, assignment_id in cells}
    given = assignments_of_class(db(), row.id)
    return GradeBook(
        class_name=row.name,
        out_of=rubric.out_of,
        columns=tuple(_column(row, one) for one in given if not one.withdrawn or one.id in graded),
        students=tuple((s.id, s.display_name) for s in students_of_class(db(), row.id)),
        cells=cells,
        excuses={
            key: terms.excuse.value
            for key, terms in terms_of_class(db(), row.id).items()
            if terms.excuse is not None
        },
    )


def measured_of(row: ClassRow) -> list[SheetMeasured]:
    """Collect every read sheet of a class."""
    return [
        SheetMeasured(
            student=one.student,
            exercise=one.exercise,
            sheet=one.code,
            handed_in=one.received_at,
            reading=one.body,
        )
        for one in readings_of_class(db(), row.id)
    ]


def _column(row: ClassRow, one: AssignmentRow) -> GradeColumn:
    return GradeColumn(
        number=one.id,
        title=one.title,
        given_on=row.unit.monday_of(one.due_week),
        due_on=one.due_day,
    )
