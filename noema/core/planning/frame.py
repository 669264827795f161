"""What a plan stands on: a school's days, its rooms, and each class's lessons and unit."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time, timedelta
from enum import Enum
from functools import cache
from zoneinfo import ZoneInfo, available_timezones

from noema.core.errors import BadFrame
from noema.core.exercises.media import Medium
from noema.core.language import N_, gettext
from noema.core.planning.unit import monday_of

DAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
DAY_NAMES = (
    N_("Monday"),
    N_("Tuesday"),
    N_("Wednesday"),
    N_("Thursday"),
    N_("Friday"),
    N_("Saturday"),
    N_("Sunday"),
)
LONGEST_FRAME_DAYS = 400
MOST_IN_A_ROOM = 1000
MOST_GOES = 12
USUAL_RACK = 40  # places; racks have 25 to 50
USUAL_SINKS = 2


class WeekTurn(Enum):
    """In which weeks a lesson is held, where weeks take turns; the frame's first week is an A."""

    EVERY = ""
    A = "A"
    B = "B"


@dataclass(frozen=True, kw_only=True)
class WeeklyLesson:
    """A lesson as the timetable has it."""

    day: int  # 0 for Monday
    start: time  # at the school's clock
    minutes: int
    turn: WeekTurn = WeekTurn.EVERY

    def meets(self, other: "WeeklyLesson") -> bool:
        """Whether both are held at the same time in some week."""
        turns = {self.turn, other.turn}
        if self.day != other.day or turns == {WeekTurn.A, WeekTurn.B}:
            return False
        begins, theirs = (one.start.hour * 60 + one.start.minute for one in (self, other))
        return begins < theirs + other.minutes and theirs < begins + self.minutes


@dataclass(frozen=True, kw_only=True)
class Lesson:
    """A lesson on its day."""

    at: datetime  # with the school's zone
    minutes: int

    @property
    def ends(self) -> datetime:
        """When it ends, as time really runs."""
        return (self.at.astimezone(UTC) + timedelta(minutes=self.minutes)).astimezone(
            self.at.tzinfo
        )


@dataclass(frozen=True, kw_only=True)
class Room:
    """A room and what there is in it; None: enough for everybody."""

    name: str = ""
    rack: int = USUAL_RACK  # sheets that can lie drying at once, of all classes
    sinks: int = USUAL_SINKS
    brushes: int | None = None  # sets of them
    palettes: int | None = None
    jars: int | None = None  # of water


@dataclass(frozen=True, kw_only=True)
class Wish:
    """An exercise a class is to do."""

    id: str
    kind: str
    medium: Medium
    options: Mapping[str, object] = field(default_factory=dict)  # of the kind, by their names
    set_ref: str | None = None
    after: tuple[str, ...] = ()  # wishes whose painting comes before
    redo: bool = False  # there is room to paint again what went back
    pinned: date | None = None  # the day it begins on
    pins: Mapping[int, date] = field(default_factory=dict)  # the days of later steps
    goes: int = 1  # it is cut into so many at least, where it may be cut

    def day_of(self, number: int) -> date | None:
        """Give the day a step is pinned to."""
        return self.pins.get(number) if number else self.pinned


@dataclass(frozen=True, kw_only=True)
class ClassFrame:
    """A class, its lessons and its unit."""

    id: str
    people: int
    lessons: tuple[WeeklyLesson, ...]
    unit: tuple[Wish, ...] = ()
    extra: tuple[tuple[datetime, int], ...] = ()  # lessons besides: the school's clock, minutes
    cancelled: tuple[datetime, ...] = ()  # lessons that aren't held: the school's clock
    room: str = ""  # by its name; none: the school's first
    tests: tuple[date, ...] = ()  # Mondays of weeks in which nothing is painted, for a test

    def has_test(self, day: date) -> bool:
        """Whether a day lies in a week that is kept for a test."""
        return monday_of(day) in self.tests


@dataclass(frozen=True, kw_only=True)
class SchoolFrame:
    """A school's days from one to another, both held."""

    time_zone: str  # IANA name
    begins: date
    ends: date
    classes: tuple[ClassFrame, ...]
    holidays: tuple[tuple[date, date], ...] = ()  # first and last day
    rooms: tuple[Room, ...] = (Room(),)

    def __post_init__(self) -> None:
        """Refuse what can't be planned."""
        if self.time_zone not in _zones():
            raise BadFrame(
                gettext(
                    "There is no time zone “%(zone)s”: use an IANA name such as Europe/London.",
                    zone=self.time_zone,
                )
            )
        if not 0 <= (self.ends - self.begins).days <= LONGEST_FRAME_DAYS:
            raise BadFrame(
                gettext(
                    "A plan goes from one day to a later one, %(days)s days at most.",
                    days=LONGEST_FRAME_DAYS,
                )
            )
        if not self.rooms or len({room.name for room in self.rooms}) < len(self.rooms):
            raise BadFrame(gettext("A school has at least one room, each with a name of its own."))
        for room in self.rooms:
            _check_room(room)
        for one in self.classes:
            _check_unit(one)

    def is_free(self, day: date) -> bool:
        """Whether no school is held on a day."""
        return any(first <= day <= last for first, last in self.holidays)

    def class_of(self, class_id: str) -> ClassFrame:
        """Give a class."""
        return next(one for one in self.classes if one.id == class_id)

    def room_of(self, one: ClassFrame) -> Room:
        """Give a class's room: the school's first where it says none that there is."""
        return next((room for room in self.rooms if room.name == one.room), self.rooms[0])


@cache
def _zones() -> frozenset[str]:
    """Give the names of all time zones; looking for them takes long."""
    return frozenset(available_timezones())


def lessons_of(frame: SchoolFrame, school_class: ClassFrame) -> tuple[Lesson, ...]:
    """Give the lessons a class really has, in time.

    >>> frame = SchoolFrame(
    ...     time_zone="Europe/Berlin", begins=date(2027, 3, 22), ends=date(2027, 4, 2),
    ...     holidays=((date(2027, 3, 25), date(2027, 3, 26)),), classes=())
    >>> tuesdays = WeeklyLesson(day=1, start=time(9, 40), minutes=50)
    >>> one = ClassFrame(id="8a", people=24, lessons=(tuesdays,))
    >>> [lesson.at.isoformat() for lesson in lessons_of(frame, one)]
    ['2027-03-23T09:40:00+01:00', '2027-03-30T09:40:00+02:00']
    """
    zone = ZoneInfo(frame.time_zone)
    held = {
        datetime.combine(day, weekly.start): weekly.minutes
        for day in _days(frame)
        for weekly in school_class.lessons
        if weekly.day == day.weekday() and weekly.turn in (WeekTurn.EVERY, _turn(frame, day))
    }
    held |= {at: minutes for at, minutes in school_class.extra if at.date() in set(_days(frame))}
    return tuple(
        Lesson(at=at.replace(tzinfo=zone), minutes=minutes)
        for at, minutes in sorted(held.items())
        if at not in school_class.cancelled
    )


def _days(frame: SchoolFrame) -> Iterator[date]:
    for number in range((frame.ends - frame.begins).days + 1):
        day = frame.begins + timedelta(days=number)
        if not frame.is_free(day):
            yield day


def _turn(frame: SchoolFrame, day: date) -> WeekTurn:
    monday = frame.begins - timedelta(days=frame.begins.weekday())
    return WeekTurn.B if (day - monday).days // 7 % 2 else WeekTurn.A


def _check_room(room: Room) -> None:
    counts = (room.rack, room.sinks, room.brushes, room.palettes, room.jars)
    if any(count is not None and not 1 <= count <= MOST_IN_A_ROOM for count in counts):
        raise BadFrame(
            gettext(
                "A room has 1 to %(most)s places on the rack, sinks, sets of brushes, palettes and "
                "jars: count those of yours.",
                most=MOST_IN_A_ROOM,
            )
        )


def _check_unit(one: ClassFrame) -> None:
    known: set[str] = set()
    for wish in one.unit:
        if wish.id in known:
            raise BadFrame(
                gettext(
                    "Class %(one)s has two wishes called “%(id)s”: name each another way.",
                    one=one.id,
                    id=wish.id,
                )
            )
        if odd := set(wish.after) - known:
            raise BadFrame(
                gettext(
                    "“%(id)s” of class %(one)s comes after “%(odd)s”, which doesn't stand before "
                    "it: put them in order.",
                    id=wish.id,
                    one=one.id,
                    odd=min(odd),
                )
            )
        known.add(wish.id)
