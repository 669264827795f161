"""What Noema says of an attempt, made of its facts when it is read."""

from sqlalchemy.orm import Session

from noema.core.coaching.advice import Advice, advise
from noema.core.coaching.as_reviewed import as_reviewed
from noema.core.coaching.moves import Move
from noema.core.judging.review import Review, ReviewState
from noema.core.language import gettext
from noema.core.words.advice import advice_words
from noema.formats.facts_json import facts_from_json, facts_to_json
from noema.formats.judgement_json import judgement_from_json
from noema.store.decisions import keep_advice
from noema.store.judgements import judgements_of, moves_of
from noema.store.reviews import AttemptRow


def sentence_of(attempt: AttemptRow) -> str:
    """Say what to do next, for the class the attempt is from."""
    advice = facts_from_json(Advice, attempt.advice)
    return advice_words(
        advice, attempt.medium, audience=attempt.audience, turn=attempt.photograph_id
    )


def sent_back(attempt: AttemptRow) -> tuple[str, str]:
    """Give what became of an attempt, and what is said with it: by the teacher, else by Noema.

    Accepted with something to work on, it is said to be for the next time.
    """
    said = attempt.review.sentence or sentence_of(attempt)
    if attempt.review.state is ReviewState.OPEN:
        return gettext("your teacher looks at it next"), said
    if attempt.review.state is ReviewState.SENT_BACK:
        return gettext("try again"), said
    if facts_from_json(Advice, attempt.advice).praises:
        return gettext("it holds"), said
    return gettext("accepted"), gettext("Next time: %(said)s", said=said)


def follow_word(session: Session, photograph_id: int, review: Review) -> None:
    """Advise by what a teacher said of single cells; by the judgement alone where nothing was."""
    if not review.left_out and not review.overruled:
        keep_advice(session, photograph_id, None)
        return
    judgement = judgement_from_json(judgements_of(session, [photograph_id])[photograph_id])
    moves = {
        cell: facts_from_json(Move, move)
        for cell, move in moves_of(session, [photograph_id])[photograph_id].items()
    }
    advice = advise(as_reviewed(judgement, review), moves)
    keep_advice(session, photograph_id, facts_to_json(advice))
