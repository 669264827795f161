"""A class's lessons in the week, a line each: the day, when it begins, minutes, the weeks.

Where a school has named its periods, a line may name one instead: its clock is meant.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import time

from noema.core.errors import BadFrame
from noema.core.language import gettext
from noema.core.planning.frame import DAYS, WeeklyLesson, WeekTurn

_PERIOD = re.compile(
    r"(?P<name>.{1,20}?)[ ,]+(?P<hour>\d{1,2})[:.](?P<minute>\d\d)[ ,–-]+"
    r"(?P<end_hour>\d{1,2})[:.](?P<end_minute>\d\d)"
)
_NAMED = re.compile(r"(?P<day>[a-z]{3})[a-z]*[ ,]+(?P<name>.{1,20}?)(?:[ ,]+(?P<turn>[AB]))?", re.I)
_LINE = re.compile(
    r"(?P<day>[a-z]{3})[a-z]*[ ,]+(?P<hour>\d{1,2})[:.](?P<minute>\d\d)[ ,]+(?P<long>\d{1,3})"
    r"(?:[ ,]*min[a-z]*)?(?:[ ,]+(?P<turn>[AB]))?",
    re.IGNORECASE,
)
_DAY_MIN = 1440
SHORTEST_MIN, LONGEST_MIN, MOST_A_WEEK, MOST_PERIODS = 20, 300, 10, 20


@dataclass(frozen=True, kw_only=True)
class Period:
    """A time of every school day, by the name a school gives it."""

    name: str
    start: time
    minutes: int


def periods_of(text: str) -> tuple[Period, ...]:
    """Read the periods of a school's day, a line each; refuses a line that is none.

    >>> [(one.name, one.minutes) for one in periods_of("1 08:50 09:40")]
    [('1', 50)]
    """
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    found = tuple(map(_period, lines))
    if len(found) > MOST_PERIODS or len({one.name for one in found}) < len(found):
        raise BadFrame(
            gettext("A day has at most %(most)s periods, each of its own name.", most=MOST_PERIODS)
        )
    return found


def periods_text(periods: Sequence[Period]) -> str:
    """Write periods so that they can be read again."""
    return "\n".join(f"{one.name} {one.start:%H:%M} {_end(one):%H:%M}" for one in periods)


def _end(one: Period) -> time:
    return time(*divmod(one.start.hour * 60 + one.start.minute + one.minutes, 60))


def _period(line: str) -> Period:
    found = _PERIOD.fullmatch(line)
    if found is not None:
        begins, ends = (
            int(found[f"{at}hour"]) * 60 + int(found[f"{at}minute"]) for at in ("", "end_")
        )
        if SHORTEST_MIN <= ends - begins <= LONGEST_MIN and ends < _DAY_MIN:
            start = time(*divmod(begins, 60))
            return Period(name=found["name"], start=start, minutes=ends - begins)
    raise BadFrame(
        gettext(
            "“%(line)s” is no period: write one such as 1 08:50 09:40: its name, when it begins, "
            "when it ends.",
            line=line[:40],
        )
    )


def weekly_of(text: str, periods: Sequence[Period] = ()) -> tuple[WeeklyLesson, ...]:
    """Read a timetable; refuses a line that is none.

    >>> [(lesson.day, lesson.minutes) for lesson in weekly_of("Tue 9:40 50\\nThursday 11:00 75 B")]
    [(1, 50), (3, 75)]
    """
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    if len(lines) > MOST_A_WEEK:
        raise BadFrame(gettext("A class has at most %(most)s lessons a week.", most=MOST_A_WEEK))
    found = (_in_period(line, periods) or _lesson(line) for line in lines)
    return tuple(sorted(found, key=lambda one: (one.day, one.start)))


def checked_minutes(minutes: int) -> int:
    """Give a lesson's minutes; refuses what no lesson has."""
    if not SHORTEST_MIN <= minutes <= LONGEST_MIN:
        raise BadFrame(
            gettext(
                "A lesson has %(least)s to %(most)s minutes, not %(minutes)s.",
                least=SHORTEST_MIN,
                most=LONGEST_MIN,
                minutes=minutes,
            )
        )
    return minutes


def weekly_text(lessons: Sequence[WeeklyLesson]) -> str:
    """Write a timetable so that it can be read again."""
    return "\n".join(
        f"{DAYS[one.day]} {one.start:%H:%M} {one.minutes} {one.turn.value}".rstrip()
        for one in lessons
    )


def _in_period(line: str, periods: Sequence[Period]) -> WeeklyLesson | None:
    found = _NAMED.fullmatch(line)
    if found is None or found["day"].lower() not in DAYS:
        return None
    for one in periods:
        if one.name.lower() == found["name"].lower():
            return WeeklyLesson(
                day=DAYS.index(found["day"].lower()),
                start=one.start,
                minutes=one.minutes,
                turn=WeekTurn((found["turn"] or "").upper()),
            )
    return None


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
    minutes = checked_minutes(int(found["long"]))
    return WeeklyLesson(
        day=DAYS.index(found["day"].lower()),
        start=time(int(found["hour"]), int(found["minute"])),
        minutes=minutes,
        turn=WeekTurn((found["turn"] or "").upper()),
    )
