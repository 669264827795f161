"""A question about a whole class, as JSON."""

from typing import cast

from noema.core.exercises.class_question import ClassQuestion
from noema.core.language import N_
from noema.formats.plain import Json, from_plain, to_plain


def question_to_json(question: ClassQuestion) -> Json:
    """Give a question and its answer as plain values."""
    return cast(Json, to_plain(question, {"shift": 2}))


def question_from_json(values: Json | None) -> ClassQuestion | None:
    """Read back what `question_to_json` wrote; None: nothing is in question."""
    return None if values is None else from_plain(ClassQuestion, values, N_("question"))
