"""A frame to plan in as JSON, format noema-frame/1, and changes of it as merge patches (RFC 7396).

Besides the days, holidays and the room (or several, each with a name) it has each class's lessons
in the week, with the weeks they take turns in, lessons besides and lessons that aren't held, its
room and its unit.
"""

from collections.abc import Sequence
from dataclasses import asdict
from datetime import date, datetime, time
from typing import cast

import msgspec

from noema.core.errors import BadFile
from noema.core.exercises.media import Medium
from noema.core.language import gettext
from noema.core.planning.frame import (
    DAYS,
    MOST_GOES,
    USUAL_RACK,
    USUAL_SINKS,
    ClassFrame,
    Room,
    SchoolFrame,
    WeeklyLesson,
    WeekTurn,
    Wish,
)
from noema.core.planning.unit import monday_of
from noema.formats.plain import as_builtins

FORMAT = "noema-frame/1"
Json = dict[str, object]
_NOTHING: Json = {}


class _LessonFile(msgspec.Struct, omit_defaults=True, forbid_unknown_fields=True):
    day: str
    start: str
    minutes: int
    week: str = ""


class _WishFile(msgspec.Struct, omit_defaults=True, forbid_unknown_fields=True):
    id: str
    kind: str
    options: Json = msgspec.field(default_factory=dict)
    set: str | None = None
    medium: str = Medium.ACRYLIC.value
    after: list[str] = msgspec.field(default_factory=list)
    redo: bool = False
    pinned: str | None = None
    pins: dict[str, str] = msgspec.field(default_factory=dict)
    goes: int = 1


class _ExtraFile(msgspec.Struct, forbid_unknown_fields=True):
    at: str
    minutes: int


class _ClassFile(msgspec.Struct, omit_defaults=True, forbid_unknown_fields=True):
    id: str
    people: int
    lessons: list[_LessonFile]
    unit: list[_WishFile] = msgspec.field(default_factory=list)
    extra: list[_ExtraFile] = msgspec.field(default_factory=list)
    cancelled: list[str] = msgspec.field(default_factory=list)
    room: str = ""
    tests: list[str] = msgspec.field(default_factory=list)


class _RoomFile(msgspec.Struct, omit_defaults=True):
    name: str = ""
    rack: int = USUAL_RACK
    sinks: int = USUAL_SINKS
    brushes: int | None = None
    palettes: int | None = None
    jars: int | None = None


class _FrameFile(msgspec.Struct, omit_defaults=True, forbid_unknown_fields=True):
    format: str
    timezone: str
    begins: str = msgspec.field(name="from")
    ends: str = msgspec.field(name="to")
    classes: list[_ClassFile]
    holidays: list[tuple[str, str]] = msgspec.field(default_factory=list)
    room: _RoomFile | None = None
    rooms: list[_RoomFile] = msgspec.field(default_factory=list)


def frame_from_json(content: bytes) -> SchoolFrame:
    """Read a frame; refuses what isn't one, saying where."""
    try:
        file = msgspec.json.decode(content, type=_FrameFile)
    except msgspec.MsgspecError as wrong:
        raise BadFile(gettext("This is no frame to plan in: %(wrong)s.", wrong=wrong)) from wrong
    if file.format != FORMAT:
        raise BadFile(
            gettext(
                "The file's format is “%(format)s”: this command reads %(own)s.",
                format=file.format,
                own=FORMAT,
            )
        )
    try:
        return _frame(file)
    except ValueError as wrong:
        raise BadFile(
            gettext(
                "A day or a time in the frame can't be read (%(wrong)s): write 2027-01-31, 09:40 "
                "and 2027-01-31T09:40.",
                wrong=wrong,
            )
        ) from wrong


def wishes_from_json(body: Sequence[Json]) -> tuple[Wish, ...]:
    """Read the wishes of a unit, as a frame has them."""
    return tuple(_wish(one) for one in msgspec.convert(list(body), list[_WishFile]))


def frame_to_json(frame: SchoolFrame) -> Json:
    """Give a frame as the contract's JSON."""
    file = _FrameFile(
        format=FORMAT,
        timezone=frame.time_zone,
        begins=frame.begins.isoformat(),
        ends=frame.ends.isoformat(),
        holidays=[(first.isoformat(), last.isoformat()) for first, last in frame.holidays],
        room=_room_file(frame.rooms[0]) if len(frame.rooms) == 1 else None,
        rooms=[_room_file(room) for room in frame.rooms] if len(frame.rooms) > 1 else [],
        classes=[_class_file(one) for one in frame.classes],
    )
    return cast(Json, as_builtins(file))


def change_of(frame: SchoolFrame, other: SchoolFrame) -> Json:
    """Give the merge patch that makes one frame another."""
    was, will = frame_to_json(frame), frame_to_json(other)
    return {name: value for name, value in will.items() if was.get(name) != value}


def changed(frame: Json, change: Json) -> Json:
    """Apply a merge patch to a frame's JSON (RFC 7396)."""
    result = dict(frame)
    for name, value in change.items():
        if value is None:
            result.pop(name, None)
        elif isinstance(value, dict):
            was = result.get(name)
            result[name] = changed(was if isinstance(was, dict) else _NOTHING, value)
        else:
            result[name] = value
    return result


def _frame(file: _FrameFile) -> SchoolFrame:
    return SchoolFrame(
        time_zone=file.timezone,
        begins=date.fromisoformat(file.begins),
        ends=date.fromisoformat(file.ends),
        holidays=tuple(
            (date.fromisoformat(first), date.fromisoformat(last)) for first, last in file.holidays
        ),
        rooms=tuple(_room(one) for one in file.rooms or [file.room or _RoomFile()]),
        classes=tuple(_class(one) for one in file.classes),
    )


def _class(one: _ClassFile) -> ClassFrame:
    return ClassFrame(
        id=one.id,
        people=one.people,
        lessons=tuple(
            WeeklyLesson(
                day=DAYS.index(lesson.day),
                start=time.fromisoformat(lesson.start),
                minutes=lesson.minutes,
                turn=WeekTurn(lesson.week),
            )
            for lesson in one.lessons
        ),
        unit=tuple(_wish(wish) for wish in one.unit),
        extra=tuple((datetime.fromisoformat(extra.at), extra.minutes) for extra in one.extra),
        cancelled=tuple(datetime.fromisoformat(at) for at in one.cancelled),
        room=one.room,
        tests=tuple(monday_of(date.fromisoformat(day)) for day in one.tests),
    )


def _wish(wish: _WishFile) -> Wish:
    return Wish(
        id=wish.id,
        kind=wish.kind,
        options=wish.options,
        set_ref=wish.set,
        medium=Medium(wish.medium),
        after=tuple(wish.after),
        redo=wish.redo,
        pinned=None if wish.pinned is None else date.fromisoformat(wish.pinned),
        pins={int(number): date.fromisoformat(day) for number, day in wish.pins.items()},
        goes=min(max(wish.goes, 1), MOST_GOES),
    )


def _class_file(one: ClassFrame) -> _ClassFile:
    return _ClassFile(
        id=one.id,
        people=one.people,
        lessons=[
            _LessonFile(
                day=DAYS[lesson.day],
                start=lesson.start.strftime("%H:%M"),
                minutes=lesson.minutes,
                week=lesson.turn.value,
            )
            for lesson in one.lessons
        ],
        unit=[
            _WishFile(
                id=wish.id,
                kind=wish.kind,
                options=dict(wish.options),
                set=wish.set_ref,
                medium=wish.medium.value,
                after=list(wish.after),
                redo=wish.redo,
                pinned=None if wish.pinned is None else wish.pinned.isoformat(),
                pins={str(number): day.isoformat() for number, day in wish.pins.items()},
                goes=wish.goes,
            )
            for wish in one.unit
        ],
        extra=[_ExtraFile(at=_minute(at), minutes=minutes) for at, minutes in one.extra],
        cancelled=[_minute(at) for at in one.cancelled],
        room=one.room,
        tests=[monday.isoformat() for monday in one.tests],
    )


def room_from_json(body: Json) -> Room:
    """Read a room, as a frame has it."""
    return _room(msgspec.convert(body, _RoomFile))


def room_to_json(room: Room) -> Json:
    """Give a room, as a frame has it."""
    return cast(Json, as_builtins(_room_file(room)))


def _room(one: _RoomFile) -> Room:
    return Room(**msgspec.structs.asdict(one))


def _room_file(room: Room) -> _RoomFile:
    return _RoomFile(**asdict(room))


def _minute(at: datetime) -> str:
    return at.isoformat(timespec="minutes")
