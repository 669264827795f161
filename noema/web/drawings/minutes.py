"""Lessons as columns of minutes, hung up week by week: greys for what is done, colour for paint."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from noema.core.language import gettext
from noema.core.planning.frame import ClassFrame, Wish
from noema.core.planning.timeline import Doing, LessonPart, PlannedLesson
from noema.core.planning.unit import monday_of
from noema.formats.days import short_day
from noema.web.frame.clock import lesson_address

_GAP, _WEEK_GAP = 4.0, 12.0  # drawing units
_NARROW, _WIDE, _FEW = 30.0, 52.0, 18  # columns; few of them are wide
_A_MINUTE, _TOP, _FOOT = 2.6, 22.0, 40.0
_MOST_FILLS, _FILL_HIGH = 12, 10.0
_GREYS = {
    Doing.SET_UP: "#c9c9c9",
    Doing.HAND_BACK: "#5e5e5e",
    Doing.PHOTOGRAPH: "#3a3a3a",
    Doing.SHOW: "#9a9a9a",
    Doing.PAINT: "#efefef",
    Doing.CLEAN_UP: "#b4b4b4",
}


@dataclass(frozen=True, kw_only=True)
class MovedPiece:
    """What is painted in a lesson to come, that may be moved to another."""

    wish: str
    number: int  # of its first step
    is_pinned: bool
    said: str


@dataclass(frozen=True, kw_only=True)
class MinuteBox:
    """Some minutes of a lesson."""

    piece: MovedPiece | None  # what is painted in it, that can be moved
    top: float
    height: float
    grey: str
    fills: tuple[tuple[float, float, str], ...]  # left, width and colour of what is painted
    fills_top: float
    fills_high: float


@dataclass(frozen=True, kw_only=True)
class LessonColumn:
    """One lesson."""

    named: str  # as it stands in an address
    at: str  # at the school's clock
    left: float
    middle: float
    width: float
    height: float
    boxes: tuple[MinuteBox, ...]
    day: str  # of the month
    said: str  # the lesson in words
    is_past: bool
    is_next: bool
    is_test: bool  # its week is kept for a test


@dataclass(frozen=True, kw_only=True)
class WeekMark:
    """Where a week begins."""

    left: float
    words: str


@dataclass(frozen=True, kw_only=True)
class MinuteSheet:
    """All lessons of a class."""

    columns: tuple[LessonColumn, ...]
    weeks: tuple[WeekMark, ...]
    width: float
    height: float
    top: float
    day_y: float


def make_minutes(
    lessons: Sequence[PlannedLesson],
    fills: Mapping[str, tuple[str, ...]],
    titles: Mapping[str, str],
    now: datetime,
    one_class: ClassFrame,
) -> MinuteSheet:
    """Draw a class's lessons; `fills` and `titles` are those of the exercises, by wish."""
    wishes = {wish.id: wish for wish in one_class.unit}
    left, columns, weeks, week = 0.0, list[LessonColumn](), list[WeekMark](), None
    wide = _WIDE if len(lessons) <= _FEW else _NARROW
    coming = next((one.lesson.at for one in lessons if one.lesson.ends > now), None)
    longest = max((one.lesson.minutes for one in lessons), default=0)
    for one in lessons:
        monday = monday_of(one.lesson.at.date())
        if monday != week:
            left += _WEEK_GAP if columns else 0.0
            weeks.append(WeekMark(left=left, words=short_day(monday)))
            week = monday
        columns.append(
            LessonColumn(
                named=lesson_address(one.lesson.at),
                at=one.lesson.at.replace(tzinfo=None).isoformat(timespec="minutes"),
                left=left,
                middle=left + wide / 2,
                width=wide,
                height=one.lesson.minutes * _A_MINUTE,
                boxes=tuple(
                    _box(part, left, wide, fills, _piece(one, part, wishes, titles, now))
                    for part in one.parts
                ),
                day=f"{one.lesson.at:%-d}",
                said=_said(one, titles),
                is_past=one.lesson.ends <= now,
                is_next=one.lesson.at == coming,
                is_test=one_class.has_test(one.lesson.at.date()),
            )
        )
        left += wide + _GAP
    height = _TOP + longest * _A_MINUTE
    return MinuteSheet(
        columns=tuple(columns),
        weeks=tuple(weeks),
        width=max(left, 1.0),
        height=height + _FOOT,
        top=_TOP,
        day_y=height + _FOOT / 2,
    )


def _piece(
    one: PlannedLesson,
    part: LessonPart,
    wishes: Mapping[str, Wish],
    titles: Mapping[str, str],
    now: datetime,
) -> MovedPiece | None:
    wish = wishes.get(part.wish or "")
    if wish is None or part.first is None or one.lesson.at <= now:
        return None
    day = wish.day_of(part.first)
    return MovedPiece(
        wish=wish.id,
        number=part.first,
        is_pinned=day is not None,
        said=gettext(
            "%(title)s, %(day)s, %(minutes)s minutes",
            title=titles.get(wish.id, wish.id),
            day=f"{one.lesson.at:%Y-%m-%d}",
            minutes=part.minutes,
        ),
    )


def _box(
    part: LessonPart,
    left: float,
    column: float,
    fills: Mapping[str, tuple[str, ...]],
    piece: MovedPiece | None,
) -> MinuteBox:
    top, height = _TOP + part.begins_min * _A_MINUTE, part.minutes * _A_MINUTE
    some: tuple[str, ...] = ()
    if part.doing is Doing.PAINT and part.wish is not None:
        every = fills.get(part.wish, ())
        some = every[:: max(1, -(-len(every) // _MOST_FILLS))]
    wide = (column - 8.0) / max(len(some), 1)
    return MinuteBox(
        piece=piece,
        top=top,
        height=max(height - 1.0, 1.0),
        grey=_GREYS[part.doing],
        fills=tuple((left + 4.0 + n * wide, wide, fill) for n, fill in enumerate(some)),
        fills_top=top + height / 2 - min(_FILL_HIGH, height - 4.0) / 2,
        fills_high=max(min(_FILL_HIGH, height - 4.0), 1.0),
    )


def _said(one: PlannedLesson, titles: Mapping[str, str]) -> str:
    when = f"{one.lesson.at:%Y-%m-%d %H:%M}"
    if not one.parts:
        return gettext("%(when)s: nothing planned", when=when)
    done = ", ".join(
        f"{gettext(part.doing.label)}{_of(part, titles)} {part.minutes}" for part in one.parts
    )
    return gettext(
        "%(when)s, minutes: %(done)s; %(spare)s to spare", when=when, done=done, spare=one.spare_min
    )


def _of(part: LessonPart, titles: Mapping[str, str]) -> str:
    return "" if part.wish is None else f" {titles.get(part.wish, part.wish)}"
