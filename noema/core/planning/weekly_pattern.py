"""Lessons on their days, told as a timetable: what comes back every week, or every other."""

from collections import defaultdict
from collections.abc import Iterable
from dataclasses import replace
from datetime import date, datetime, time

from noema.core.planning.frame import (
    ClassFrame,
    SchoolFrame,
    WeeklyLesson,
    WeekTurn,
    lessons_of,
)

_OFTEN = 0.6  # share of the days a lesson could be on from which it is in the timetable
_TURNS = (WeekTurn.EVERY, WeekTurn.A, WeekTurn.B)


def with_lessons(
    frame: SchoolFrame, one: ClassFrame, lessons: Iterable[tuple[datetime, int]]
) -> ClassFrame:
    """Give a class these lessons, each a time at the school's clock and its minutes.

    What comes back becomes its timetable; days without one that should have one are cancelled,
    and days with one besides are extra.
    """
    wanted = dict(sorted(lessons))
    by_time: dict[tuple[int, time, int], set[date]] = defaultdict(set)
    for at, minutes in wanted.items():
        by_time[at.weekday(), at.time(), minutes].add(at.date())
    weekly = [
        found
        for (day, start, minutes), days in by_time.items()
        if (found := _weekly(frame, WeeklyLesson(day=day, start=start, minutes=minutes), days))
    ]
    plain = replace(one, lessons=tuple(weekly), extra=(), cancelled=())
    held = {lesson.at.replace(tzinfo=None): lesson.minutes for lesson in lessons_of(frame, plain)}
    last = max(wanted, default=datetime.min)
    return replace(
        plain,
        extra=tuple((at, long) for at, long in wanted.items() if held.get(at) != long),
        cancelled=tuple(at for at in held if at not in wanted and at < last),
    )


def _weekly(frame: SchoolFrame, lesson: WeeklyLesson, days: set[date]) -> WeeklyLesson | None:
    """Say in which weeks a lesson comes back; None where it doesn't."""
    for turn in _TURNS:
        one = ClassFrame(id="", people=0, lessons=(replace(lesson, turn=turn),))
        could = {held.at.date() for held in lessons_of(frame, one)}
        could = {day for day in could if min(days) <= day <= max(days)}
        many = len(could) > 1 and len(could & days) >= _OFTEN * len(could)
        if many and days <= could:
            return replace(lesson, turn=turn)
        if many and turn is WeekTurn.EVERY:
            return lesson
    return None
