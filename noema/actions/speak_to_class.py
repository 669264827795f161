"""A teacher says whom a class's sentences are for; those not yet decided on are said anew."""

from sqlalchemy.orm import Session

from noema.core.coaching.advice import advice
from noema.core.coaching.audience import Audience
from noema.core.exercises.media import Medium
from noema.formats.judgement_json import judgement_from_json
from noema.store.classes import class_of_school, set_audience
from noema.store.judgements import said_of_class, say_otherwise


def speak_to_class(session: Session, school_id: int, class_id: int, audience: Audience) -> None:
    """Set a class's audience and say every sentence of Noema's for it; a teacher's own stay."""
    class_of_school(session, school_id, class_id)
    set_audience(session, class_id, audience)
    say_otherwise(
        session,
        {
            one.judgement_id: advice(
                judgement_from_json(one.body),
                Medium(one.medium),
                audience=audience,
                moves=one.moves,
                turn=one.photograph_id,
            )
            for one in said_of_class(session, class_id)
        },
    )
