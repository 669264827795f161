"""A class's lessons in the week, a line each: the day, when it begins, minutes, the weeks."""

import re
from collections.abc import Sequence
from datetime import time

from noema.core.errors import BadFrame
from noema.core.language import gettext
from noema.core.planning.frame import DAYS, WeeklyLesson, WeekTurn

_LINE = re.compile(
    r"(?P<day>[a-z]{3})[a-z]*[ ,]+(?P<hour>\d{1,2})[:.](?P<minute>\d\d)[ ,]+(?P<long>\d{1,3})"
    r"(?:[ ,]*min[a-z]*)?(?:[ ,]+(?P<turn>[AB]))?",
    re.IGNORECASE,
)
SHORTEST_MIN, LONGEST_MIN, MOST_A_WEEK = 20, 300, 10


def weekly_of(text: str) -> tuple[WeeklyLesson, ...]:
    """Read a timetable; refuses a line that is none.

    >>> [(lesson.day, lesson.minutes) for lesson in weekly_of("Tue 9:40 50\\nThursday 11:00 75 B")]
    [(1, 50), (3, 75)]
    """
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    if len(lines) > MOST_A_WEEK:
        raise BadFrame(gettext("A class has at most %(most)s lessons a week.", most=MOST_A_WEEK))
    return tuple(sorted(map(_lesson, lines), key=lambda one: (one.day, one.start)))


def weekly_text(lessons: Sequence[WeeklyLesson]) -> str:
    """Write a timetable so that it can be read again."""
    return "\n".join(
        f"{DAYS[one.day]} {one.start:%H:%M} {one.minutes} {one.turn.value}".rstrip()
        for one in lessons
    )


def _lesson(line: str) -> WeeklyLesson:
    found = _LINE.fullmatch(line)
    is_day = found is not None and found["day"].lower() in DAYS
    if found is None or not is_day or int(found["hour"]) > 23 or int(found["minute"]) > 59:
        raise BadFrame(
            gettext(
                "“%(line)s” is no lesson: write one such as Tue 9:40 50, with A or B behind it "
                "where weeks take turns.",
                line=line[:40],
            )
        )
    minutes = int(found["long"])
    if not SHORTEST_MIN <= minutes <= LONGEST_MIN:
        raise BadFrame(
            gettext(
                "A lesson has %(least)s to %(most)s minutes, not %(minutes)s.",
                least=SHORTEST_MIN,
                most=LONGEST_MIN,
                minutes=minutes,
            )
        )
    return WeeklyLesson(
        day=DAYS.index(found["day"].lower()),
        start=time(int(found["hour"]), int(found["minute"])),
        minutes=minutes,
        turn=WeekTurn((found["turn"] or "").upper()),
    )
