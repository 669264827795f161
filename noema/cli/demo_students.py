"""What the demo's students do themselves: think before they see, and come in with a card."""

import click
from numpy.random import default_rng
from sqlalchemy.orm import Session

from noema.actions.archive_class import name_term
from noema.actions.show_readings import show_readings
from noema.core.joining.card import card_words
from noema.core.judging.verdict import Verdict
from noema.formats.judgement_json import tally_from_json
from noema.store.classes import classes_of_school
from noema.store.people import school_by_name
from noema.store.reviews import attempts_in_class
from noema.store.student_work import keep_check
from noema.store.students import card_holders_of_class, join_of_class

_SEED = 12
_SAYS, _EYE = 0.6, 0.72  # sheets thought about; cells then seen as they are read
TERM = "Autumn term"


def let_students_think(session: Session, school_id: int) -> None:
    """Let most students say what holds before they saw it, not always rightly."""
    rng = default_rng(_SEED)
    for n, row in enumerate(classes_of_school(session, school_id)):
        show_readings(session, school_id, row.id, at_once=n == 0)
        name_term(session, school_id, row.id, TERM)
        for attempt in attempts_in_class(session, row.id):
            if rng.random() >= _SAYS:
                continue
            tally = tally_from_json(attempt.tally)
            thinks = [
                cell
                for cell, verdict in zip(tally.ids, tally.verdicts, strict=True)
                if (verdict is Verdict.HOLDS) is (rng.random() < _EYE)
            ]
            keep_check(session, attempt.photograph_id, thinks)


def say_how_a_student_comes_in(session: Session, school: str, secret: str) -> None:
    """Print one student's way in, for whoever tries the demo."""
    school_id = school_by_name(session, school)
    rows = () if school_id is None else classes_of_school(session, school_id)
    for row in rows[-1:]:
        joining = join_of_class(session, row.id)
        for student in card_holders_of_class(session, row.id)[:1]:
            words = " ".join(card_words(secret, student.id, student.card_serial))
            click.echo(
                f"  A student, {student.display_name}: at /join, class code {joining.join_code}, "
                f"card “{words}”"
            )
