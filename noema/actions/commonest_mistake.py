"""What most of a class of the school did when they last painted a kind of exercise."""

from sqlalchemy.orm import Session

from noema.actions.work_out_exercise import exercise_of
from noema.core.planning.lesson_sheet import SeenMistake
from noema.core.progress.class_patterns import FEWEST, Attempt, class_patterns
from noema.formats.judgement_json import judgement_from_json
from noema.store.assignments import assignment_of_school, last_painted
from noema.store.judgements import judgements_of
from noema.store.paints import hue_words
from noema.store.reviews import latest_of_assignment


def commonest_mistake(session: Session, school_id: int, kind: str) -> SeenMistake | None:
    """Give it; None where too few painted that kind, or had anything in common."""
    assignment_id = last_painted(session, school_id, kind, FEWEST)
    if assignment_id is None:
        return None
    row = assignment_of_school(session, school_id, assignment_id)
    exercise, latest = exercise_of(session, row), latest_of_assignment(session, assignment_id)
    bodies = judgements_of(session, [attempt.photograph_id for attempt in latest])
    attempts = [
        Attempt(judgement=judgement_from_json(bodies[one.photograph_id]), review=one.review)
        for one in latest
    ]
    table = hue_words(session, school_id).table
    found = class_patterns(attempts, exercise.asked, exercise.paints, table)
    if not found:
        return None
    return SeenMistake(words=found[0].words, say=found[0].suggestion, where=row.class_name)
