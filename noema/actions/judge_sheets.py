"""A reading is judged by what its assignment is held against now, and put before the teacher."""

from dataclasses import dataclass, replace

from sqlalchemy.orm import Session

from noema.actions.log_colours import log_cells
from noema.actions.say_to import follow_word
from noema.actions.work_out_difficulty import work_out_difficulty
from noema.actions.work_out_exercise import Exercise, exercise_of, for_sheet
from noema.core.coaching.advice import advise
from noema.core.coaching.moves import next_moves
from noema.core.coaching.needs import gentler_than
from noema.core.colour.names import HueTable
from noema.core.exercises.catalogue import usual_tolerance
from noema.core.exercises.levels import Key
from noema.core.judging.attention import attention, disagreeing, holds_plainly
from noema.core.judging.judge import judge
from noema.core.judging.judgement import JUDGE_VERSION, Judgement
from noema.core.judging.review import review_of
from noema.core.judging.tally import tally_of
from noema.core.photo.reading import Reading
from noema.formats.facts_json import facts_to_json
from noema.formats.judgement_json import judgement_to_json, tally_to_json
from noema.formats.reading_json import reading_from_json
from noema.store.assignments import AssignmentRow, assignment_of_school, keep_from_changing
from noema.store.decisions import decisions, record_of
from noema.store.judgements import NewJudgement, add_judgement, open_review
from noema.store.paints import hue_words
from noema.store.queue import queue_judging
from noema.store.readings import reading_of_photo
from noema.store.revisions import assignments_behind, behind
from noema.store.terms import is_judged_gently


@dataclass(frozen=True, kw_only=True)
class Standard:
    """What an assignment's sheets are judged by."""

    assignment: AssignmentRow
    exercise: Exercise
    table: HueTable


def standard_of(session: Session, assignment_id: int) -> Standard:
    """Give what sheets are judged by now; no other key is written until the transaction ends.

    Asked for after a photograph was read, so that a key changed meanwhile is the one that counts.
    """
    school_id = keep_from_changing(session, assignment_id)
    assignment = assignment_of_school(session, school_id, assignment_id)
    table = hue_words(session, school_id).table
    work_out_difficulty(session, assignment, table)
    return Standard(assignment=assignment, exercise=exercise_of(session, assignment), table=table)


def judge_sheet(
    session: Session,
    photograph_id: int,
    reading_id: int,
    reading: Reading,
    standard: Standard,
    cells: tuple[str, ...] | None,
) -> None:
    """Judge one reading; earlier judgements and what a teacher decided stay.

    `cells` are the only ones on its sheet; None: all of the exercise.
    """
    assignment, exercise = standard.assignment, for_sheet(standard.exercise, cells)
    gentler = is_judged_gently(session, photograph_id)
    if gentler:
        assignment = _gentler(assignment)
    judgement = _judged(reading, assignment, exercise, standard.table)
    moves = {m.cell: m for m in next_moves(judgement, exercise.asked, exercise.paints)}
    new = NewJudgement(
        reading_id=reading_id,
        judge=JUDGE_VERSION,
        revision_id=assignment.revision_id,
        gentler=gentler,
        body=judgement_to_json(judgement),
        tally=tally_to_json(tally_of(judgement)),
        advice=facts_to_json(advise(judgement, moves)),
        moves={cell: facts_to_json(move) for cell, move in moves.items()},
        attention=attention(
            judgement,
            reading.flags,
            _disagreeing(judgement, reading, assignment, exercise, standard.table),
        ),
        holds_plainly=holds_plainly(judgement, reading.flags),
    )
    open_review(session, photograph_id, add_judgement(session, new))
    log_cells(session, reading_id, assignment.title, exercise.asked, judgement, reading)
    review = review_of(decisions(record_of(session, photograph_id)))
    if review.left_out or review.overruled:
        follow_word(session, photograph_id, review)


def judge_one_behind(session: Session, assignment_id: int, photograph_id: int) -> None:
    """Judge a photograph's newest reading by what its assignment is held against now."""
    standard = standard_of(session, assignment_id)
    read = reading_of_photo(session, assignment_id, photograph_id)
    if read is not None:
        seen = reading_from_json(read.body)
        judge_sheet(session, photograph_id, read.reading_id, seen, standard, read.cells)


def queue_outdated(session: Session) -> int:
    """Queue the judging of what an earlier judge judged; gives how many assignments there are."""
    outdated = assignments_behind(session, JUDGE_VERSION)
    for assignment_id in outdated:
        queue_judging(session, assignment_id)
    return len(outdated)


def sheets_behind(session: Session, assignment_id: int) -> tuple[int, ...]:
    """Name the photographs whose judgement isn't of today's key and judge."""
    return behind(session, assignment_id, JUDGE_VERSION)


def _gentler(assignment: AssignmentRow) -> AssignmentRow:
    """Give an assignment as a student is judged by who is judged a level more gently.

    Tolerances that a teacher chose stay where they are wider.
    """
    level = gentler_than(assignment.level)
    usual = usual_tolerance(assignment.kind, level)
    return replace(assignment, level=level, tolerance=assignment.tolerance.no_less_than(usual))


def _judged(
    reading: Reading, assignment: AssignmentRow, exercise: Exercise, table: HueTable
) -> Judgement:
    return judge(
        reading,
        exercise.expected,
        exercise.key,
        assignment.level,
        tolerance=assignment.tolerance,
        table=table,
        paints=exercise.paints,
        printed=exercise.asked,
        known=exercise.known,
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
