"""A reading is judged by its assignment's key, level and tolerances, and put before the teacher."""

from sqlalchemy.orm import Session

from noema.actions.work_out_exercise import Exercise
from noema.core.coaching.advice import advice
from noema.core.colour.names import HueTable
from noema.core.judging.judge import judge
from noema.core.judging.judgement import JUDGE_VERSION
from noema.core.judging.tally import tally_of
from noema.core.photo.reading import Reading
from noema.formats.asked_json import tolerance_from_json
from noema.formats.judgement_json import judgement_to_json, tally_to_json
from noema.store.assignments import AssignmentRow
from noema.store.reviews import NewJudgement, add_judgement, open_review


def judge_sheet(
    session: Session,
    photograph_id: int,
    reading_id: int,
    reading: Reading,
    assignment: AssignmentRow,
    exercise: Exercise,
    table: HueTable,
) -> None:
    """Judge one reading; earlier judgements and what a teacher decided stay."""
    judgement = judge(
        reading,
        exercise.expected,
        exercise.key,
        assignment.level,
        tolerance=tolerance_from_json(assignment.tolerance),
        table=table,
    )
    new = NewJudgement(
        reading_id=reading_id,
        judge=JUDGE_VERSION,
        key=exercise.key_name,
        level=assignment.level.value,
        body=judgement_to_json(judgement),
        tally=tally_to_json(tally_of(judgement)),
        sentence=advice(judgement, assignment.medium)[:400],
    )
    open_review(session, photograph_id, add_judgement(session, new))
