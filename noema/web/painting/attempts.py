"""A student's attempts at an exercise, side by side, as far as they may be seen."""

from collections.abc import Sequence
from dataclasses import dataclass

from noema.core.judging.review import ReviewState
from noema.core.language import gettext
from noema.core.progress.value_accuracy import accuracy_of, change_words
from noema.formats.days import day_of_year
from noema.formats.judgement_json import tally_from_json
from noema.store.reviews import AttemptRow
from noema.store.student_work import attempts_of_student, classes_of_student
from noema.web.drawings.strip import TinyStrip, make_tiny_strips
from noema.web.frame.clock import here
from noema.web.frame.request import db


@dataclass(frozen=True, kw_only=True)
class AttemptLine:
    """One attempt in a line."""

    number: int
    photograph_id: int
    strip: TinyStrip
    state: str
    change: str  # against the attempt before
    handed_in: str


def may_see(attempts: Sequence[AttemptRow], *, sees_at_once: bool) -> tuple[AttemptRow, ...]:
    """Leave out what the teacher wants to look at first."""
    return tuple(
        one for one in attempts if sees_at_once or one.review.state is not ReviewState.OPEN
    )


def attempts_seen(student_id: int) -> tuple[AttemptRow, ...]:
    """Give what a student handed in, in all their classes, as far as they may see it."""
    at_once = {one.id: one.sees_at_once for one in classes_of_student(db(), student_id)}
    return tuple(
        one
        for one in attempts_of_student(db(), student_id)
        if may_see([one], sees_at_once=at_once.get(one.class_id, False))
    )


def attempt_lines(attempts: Sequence[AttemptRow]) -> tuple[AttemptLine, ...]:
    """Put attempts at one exercise into words and pictures, oldest first."""
    tallies = [tally_from_json(attempt.tally) for attempt in attempts]
    lines, before = [], None
    for number, (attempt, tally, strip) in enumerate(
        zip(attempts, tallies, make_tiny_strips(tallies), strict=True), start=1
    ):
        now = accuracy_of(tally, attempt.review)
        lines.append(
            AttemptLine(
                number=number,
                photograph_id=attempt.photograph_id,
                strip=strip,
                state=gettext(attempt.review.state.value),
                change=change_words(before, now),
                handed_in=day_of_year(here(attempt.received_at)),
            )
        )
        before = now or before
    return tuple(lines)
