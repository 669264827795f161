"""A reading is judged by its assignment's key, level and tolerances, and put before the teacher."""

import hashlib
import json
from dataclasses import replace

from sqlalchemy.orm import Session

from noema.actions.weigh_exercise import weigh_exercise
from noema.actions.work_out_exercise import Exercise, exercise_of, for_sheet
from noema.core.coaching.advice import advice
from noema.core.coaching.moves import next_moves
from noema.core.colour.names import HueTable
from noema.core.exercises.catalogue import usual_tolerance
from noema.core.exercises.levels import Key
from noema.core.judging.attention import attention, disagreeing, holds_plainly
from noema.core.judging.judge import judge
from noema.core.judging.judgement import JUDGE_VERSION, Judgement
from noema.core.judging.tally import tally_of
from noema.core.photo.reading import Reading
from noema.formats.asked_json import tolerance_from_json
from noema.formats.judgement_json import judgement_to_json, tally_to_json
from noema.formats.reading_json import reading_from_json
from noema.store.assignments import AssignmentRow
from noema.store.judgements import NewJudgement, add_judgement, open_review
from noema.store.paints import hue_words
from noema.store.readings import readings_of_assignment

_DIGITS = 5


def judge_sheet(
    session: Session,
    photograph_id: int,
    reading_id: int,
    reading: Reading,
    assignment: AssignmentRow,
    exercise: Exercise,
    table: HueTable,
) -> None:
    """Judge one reading; earlier judgements and what a teacher decided stay.

    `exercise` is that of the reading's own sheet, which may hold only some cells.
    """
    weigh_exercise(session, assignment, table)
    judgement = _judged(reading, assignment, exercise, table)
    moves = next_moves(judgement, exercise.asked, exercise.paints, assignment.medium)
    new = NewJudgement(
        reading_id=reading_id,
        judge=JUDGE_VERSION,
        key=_key_name(assignment, exercise),
        level=assignment.level.value,
        body=judgement_to_json(judgement),
        tally=tally_to_json(tally_of(judgement)),
        sentence=advice(
            judgement,
            assignment.medium,
            audience=assignment.audience,
            moves={move.cell: move.words for move in moves},
            turn=photograph_id,
        ),
        moves={move.cell: move.words for move in moves},
        attention=attention(
            judgement, reading.flags, _disagreeing(judgement, reading, assignment, exercise, table)
        ),
        holds_plainly=holds_plainly(judgement, reading.flags),
    )
    open_review(session, photograph_id, add_judgement(session, new))


def judge_all(session: Session, school_id: int, assignment: AssignmentRow) -> int:
    """Judge every read sheet of an assignment as it is now held; gives how many there are."""
    exercise = exercise_of(session, assignment)
    table = hue_words(session, school_id).table
    read = readings_of_assignment(session, assignment.id)
    for one in read:
        own = for_sheet(exercise, one.cells)
        seen = reading_from_json(one.body)
        judge_sheet(session, one.photograph_id, one.reading_id, seen, assignment, own, table)
    return len(read)


def _judged(
    reading: Reading, assignment: AssignmentRow, exercise: Exercise, table: HueTable
) -> Judgement:
    return judge(
        reading,
        exercise.expected,
        exercise.key,
        assignment.level,
        tolerance=tolerance_from_json(assignment.tolerance),
        table=table,
        paints=exercise.paints,
        printed=exercise.asked,
    )


def _disagreeing(
    judgement: Judgement,
    reading: Reading,
    assignment: AssignmentRow,
    exercise: Exercise,
    table: HueTable,
) -> frozenset[str]:
    """Name the cells that a teacher's painted sheet judges otherwise than its paints would."""
    if exercise.key is not Key.TEACHER:
        return frozenset()
    by_paints = replace(exercise, expected=exercise.asked, key=Key.PAINTS)
    return disagreeing(judgement, _judged(reading, assignment, by_paints, table))


def _key_name(assignment: AssignmentRow, exercise: Exercise) -> str:
    """Tell judgements apart that rest on other tolerances than a level's usual ones."""
    rooms = tolerance_from_json(assignment.tolerance)
    if rooms == usual_tolerance(assignment.kind, assignment.level):
        return exercise.key_name
    digest = hashlib.sha256(json.dumps(assignment.tolerance, sort_keys=True).encode()).hexdigest()
    return f"{exercise.key_name} {digest[:_DIGITS]}"
