"""A student's eye is asked: a series begins, answers come one by one, and it tells what it saw."""

from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime, timedelta

from numpy.random import Generator
from sqlalchemy.orm import Session

from noema.core.colour.axis import Axis
from noema.core.errors import OutOfDate, Refused
from noema.core.language import gettext
from noema.core.seeing.series import LONG, Screen, SeriesKind, found_by, next_question
from noema.core.statistics.adaptive import Found
from noema.formats.series_json import (
    AskedOnce,
    answered_of,
    asked_from_json,
    asked_to_json,
    found_from_json,
    found_to_json,
    screen_from_json,
    screen_to_json,
)
from noema.store.eye import (
    KeptSeries,
    all_series_of_student,
    begin_series,
    keep_asked,
    series_of_student,
)
from noema.store.students import StudentRow

CHECK_LASTS = timedelta(hours=12)
"""After which a screen and its room are looked at anew."""


def known_screen(session: Session, student_id: int, now: datetime) -> Screen | None:
    """Give what a student's screen showed a short while ago; None: it is to be checked."""
    for one in all_series_of_student(session, student_id)[:1]:
        if now - one.begun_at < CHECK_LASTS:
            return screen_from_json(one.screen)
    return None


def begin_asking(
    session: Session,
    student: StudentRow,
    kind: SeriesKind,
    screen: Screen,
    rng: Generator,
    *,
    begun_at: datetime | None = None,
) -> int:
    """Begin a series with its first question; gives its number."""
    number = begin_series(
        session, student.school_id, student.id, kind, screen_to_json(screen), begun_at
    )
    first = next_question(kind, (), rng, found_before(session, student.id, number), screen)
    assert first is not None  # no series is empty
    keep_asked(session, number, asked_to_json([AskedOnce(question=first)]))
    return number


def answer_question(
    session: Session,
    student: StudentRow,
    series_id: int,
    number: int,
    chosen: int,
    *,
    was_told: bool,
    now: datetime,
    rng: Generator,
) -> KeptSeries:
    """Keep an answer and ask the next question, or end the series; gives it as it is then."""
    kept = series_of_student(session, student.id, series_id)
    asked = list(asked_from_json(kept.asked))
    if kept.ended_at is not None or number != len(asked):
        raise OutOfDate(gettext("This question was answered already: go on with the next."))
    if not 0 <= chosen < asked[-1].question.answers:
        raise Refused(gettext("Choose one of the answers shown."))
    asked[-1] = _with_answer(asked[-1], chosen, was_told=was_told)
    if asked[-1].chosen is None:  # an order, of which more is to be said
        keep_asked(session, series_id, asked_to_json(asked))
        return series_of_student(session, student.id, series_id)
    before, screen = found_before(session, student.id, series_id), screen_from_json(kept.screen)
    # A question whose colours were said counts for the length of the series, not for the eye.
    told = sum(one.was_told for one in asked)
    answered = answered_of(asked)
    following = None
    if len(asked) < LONG[kept.kind]:
        following = next_question(kept.kind, answered, rng, before, screen)
    if following is None:
        found = found_to_json(found_by(answered, before)) if len(asked) > told else None
        keep_asked(session, series_id, asked_to_json(asked), found, now)
    else:
        asked.append(AskedOnce(question=following))
        keep_asked(session, series_id, asked_to_json(asked))
    return series_of_student(session, student.id, series_id)


def _with_answer(one: AskedOnce, chosen: int, *, was_told: bool) -> AskedOnce:
    told = was_told or one.was_told
    if not one.question.order:
        return replace(one, chosen=chosen, was_told=told)
    if chosen in one.placed:
        raise OutOfDate(gettext("That colour has its place already: choose another."))
    placed = (*one.placed, chosen)
    is_whole = len(placed) >= one.question.answers - 1
    return replace(one, placed=placed, chosen=chosen if is_whole else None, was_told=told)


def found_before(session: Session, student_id: int, series_id: int) -> Mapping[Axis, Found]:
    """Give what a student's earlier series found last, by quantity."""
    found: dict[Axis, Found] = {}
    for one in all_series_of_student(session, student_id):
        if one.id < series_id and one.ended_at is not None:
            for quantity, result in found_from_json(one.found).items():
                found.setdefault(quantity, result)
    return found
