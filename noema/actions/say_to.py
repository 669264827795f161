"""What Noema says of an attempt, made of its facts when it is read."""

from noema.core.coaching.advice import Advice
from noema.core.words.advice import advice_words
from noema.formats.facts_json import facts_from_json
from noema.store.reviews import AttemptRow


def sentence_of(attempt: AttemptRow) -> str:
    """Say what to do next, for the class the attempt is from."""
    advice = facts_from_json(Advice, attempt.advice)
    return advice_words(
        advice, attempt.medium, audience=attempt.audience, turn=attempt.photograph_id
    )
