"""What the demo's students do themselves: think before they see, and come in with a card."""

import click
from numpy.random import default_rng
from sqlalchemy.orm import Session

from noema.actions.archive_class import name_term
from noema.actions.show_readings import show_readings
from noema.core.joining.card import card_words
from noema.core.judging.verdict import Verdict
from noema.core.progress.states import WorkState
from noema.formats.judgement_json import tally_from_json
from noema.store.assignments import assignments_of_class
from noema.store.classes import classes_of_school
from noema.store.people import school_by_name
from noema.store.reviews import attempts_in_class
from noema.store.student_work import keep_check
from noema.store.students import card_holders_of_class, join_of_class
from noema.store.work import work_of_class

_SEED = 12
_SAYS, _EYE = 0.6, 0.72  # sheets thought about; cells then seen as they are read
TERM = "Autumn term"


def let_students_think(session: Session, school_id: int, class_id: int, *, at_once: bool) -> None:
    """Let most students of a class say what holds before they saw it, not always rightly."""
    rng = default_rng([_SEED, class_id])
    show_readings(session, school_id, class_id, at_once=at_once)
    name_term(session, school_id, class_id, TERM)
    for attempt in attempts_in_class(session, class_id):
        if rng.random() >= _SAYS:
            continue
        tally = tally_from_json(attempt.tally)
        thinks = [
            cell
            for cell, verdict in zip(tally.ids, tally.verdicts, strict=True)
            if (verdict is Verdict.HOLDS) is (rng.random() < _EYE)
        ]
        keep_check(session, attempt.photograph_id, thinks)


def say_how_students_come_in(session: Session, school: str, secret: str) -> None:
    """Print the ways in of a student with something to paint, and of one with a fresh reading."""
    school_id = school_by_name(session, school)
    told: set[str] = set()
    for row in () if school_id is None else classes_of_school(session, school_id):
        joining = join_of_class(session, row.id)
        newest = assignments_of_class(session, row.id)[-1:]
        work = work_of_class(session, row.id)
        for student in card_holders_of_class(session, row.id):
            for one in newest:
                state = work[student.id, one.id].state if (student.id, one.id) in work else None
                words = _COMES_IN.get(state) if state else None
                if words is None or words in told:
                    continue
                told.add(words)
                card = " ".join(card_words(secret, student.id, student.card_serial))
                click.echo(
                    f"  A student {words}, {student.display_name}: at /join, class code "
                    f"{joining.join_code}, card “{card}”"
                )


_COMES_IN = {
    WorkState.WAITING: "with something to paint",
    WorkState.TO_REVIEW: "whose sheet was just read",
}
