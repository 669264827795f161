"""What the page of a unit shows: lessons as columns of minutes, wishes, what isn't met."""

from collections.abc import Collection, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime
from urllib.parse import urlencode

from noema.actions.frames import frame_of_class, frames_of_school, paces_of_class
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.media import Medium
from noema.core.language import gettext
from noema.core.pigments.shelf import PLUS_BLACK, SETS, builtin_set
from noema.core.planning.class_plan import ClassPlan
from noema.core.planning.frame import (
    DAY_NAMES,
    SchoolFrame,
    Wish,
    lessons_of,
)
from noema.core.planning.kept import KeptPlan, as_kept
from noema.core.planning.pace import Pace
from noema.core.planning.ready import READY
from noema.core.planning.saying import Unmet
from noema.core.planning.timetable import weekly_text
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.formats.options_json import options_from_json
from noema.store.assignments import given_wishes
from noema.store.classes import ClassRow, class_of_school, classes_of_school
from noema.store.paints import own_sets
from noema.store.reach import seeing_all
from noema.store.unit_patterns import unit_patterns_of
from noema.store.units import UnitRow, unit_of_class
from noema.web.drawings.minutes import MinuteSheet
from noema.web.exercises.options import form_of
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.frame.weeks import week_words
from noema.web.unit.drawn import drawn_unit

OF_CLASS, OF_PATTERN = "class-", "kept-"
"""Before the number of a class, or of a kept unit, that a unit is started from."""


@dataclass(frozen=True, kw_only=True)
class WishLine:
    """An exercise of the unit, and when it is."""

    wish: Wish
    title: str
    begins: date | None
    due: date | None
    takes: str  # how long this class paints at it, with its doubt
    moved: bool  # elsewhere than in the plan before
    assignment: int | None  # it was given to the class as
    assign_query: str  # of the address at which it is assigned
    fills: tuple[str, ...]


@dataclass(frozen=True, kw_only=True)
class LessonLine:
    """A lesson, and whether it is held."""

    at: datetime
    minutes: int
    words: str
    is_held: bool


@dataclass(frozen=True, kw_only=True)
class UnitPage:
    """The unit in time."""

    frame: Frame
    row: ClassRow
    week: str
    is_planned: bool
    can_undo: bool
    sheet: MinuteSheet | None
    wishes: tuple[WishLine, ...]
    unmet: tuple[Unmet, ...]
    lessons: tuple[LessonLine, ...]  # that are to come, or aren't held
    timetable: str
    begins: date
    ends: date
    rooms: tuple[str, ...]
    room: str
    tests: tuple[date, ...]  # Mondays of weeks that are kept for a test
    clashes: tuple[str, ...]  # lessons of other classes in the same room at the same time
    kept_units: tuple[tuple[int, str], ...]
    kinds: tuple[tuple[str, str], ...]
    sets: tuple[tuple[str, str], ...]
    media: tuple[Medium, ...]
    ready: tuple[tuple[str, str], ...]
    has_feed: bool = False
    feed: str = ""  # a private address just made, shown this once
    sentence: str = ""


def unit_page(class_id: int, sentence: str = "", feed: str = "") -> UnitPage:
    """Collect a class's unit."""
    row = class_of_school(db(), me().school_id, class_id)
    school = frame_of_class(db(), me().school_id, class_id)
    kept, now = unit_of_class(db(), class_id), datetime.now(UTC)
    plan = None if kept is None or kept.plan is None else kept_plan_from_json(kept.plan)
    found = None if plan is None else as_kept(school, plan)
    one, paces = school.classes[0], paces_of_class(db(), class_id)
    patterns = unit_patterns_of(db(), me().school_id)
    given = given_wishes(db(), (class_id,))
    assigned = {wish: one.assignment_id for (_, wish), one in given.items()}
    with seeing_all(db()):  # a room is the whole school's
        everywhere = [(other, its) for other, _, its in frames_of_school(db(), me().school_id)]
    seen = {other.id for other in classes_of_school(db(), me().school_id)}
    return UnitPage(
        frame=frame(Stage.PLAN),
        row=row,
        week=week_words(row),
        is_planned=_is_planned(kept),
        can_undo=kept is not None and kept.can_undo,
        sheet=None if found is None or plan is None else drawn_unit(one, found, plan, now),
        wishes=tuple(_wish_line(row, wish, found, plan, paces, assigned) for wish in one.unit),
        unmet=() if plan is None or not _is_planned(kept) else plan.unmet,
        lessons=_lesson_lines(school, now),
        timetable=weekly_text(one.lessons),
        begins=school.begins,
        ends=school.ends,
        kinds=tuple((kind.name, gettext(kind.label)) for kind in KINDS.values()),
        sets=sets_to_choose(),
        rooms=tuple(room.name for room in school.rooms),
        room=school.room_of(one).name,
        tests=one.tests,
        clashes=tuple(_clashes(school, class_id, everywhere, seen)),
        kept_units=tuple((one.id, one.name) for one in patterns),
        media=tuple(Medium),
        ready=(
            *((unit.id, gettext(unit.label)) for unit in READY.values()),
            *((f"{OF_PATTERN}{kept.id}", kept.name) for kept in patterns),
            *_others(class_id, [one for one in everywhere if one[0].id in seen]),
        ),
        has_feed=kept is not None and kept.has_feed,
        feed=feed,
        sentence=sentence,
    )


def _others(
    class_id: int, frames: Sequence[tuple[ClassRow, SchoolFrame]]
) -> Iterator[tuple[str, str]]:
    """Offer the units of a school's other classes."""
    for other, frame_of_other in frames:
        if other.id != class_id and frame_of_other.classes[0].unit:
            yield f"{OF_CLASS}{other.id}", gettext("as %(name)s has it", name=other.name)


def _clashes(
    own: SchoolFrame,
    class_id: int,
    frames: Sequence[tuple[ClassRow, SchoolFrame]],
    seen: Collection[int],
) -> Iterator[str]:
    """Say which lessons of other classes are in the same room at the same time.

    A class that isn't shared with who asks goes without its name.
    """
    one = own.classes[0]
    for other, frame_of_other in frames:
        theirs = frame_of_other.classes[0]
        if other.id == class_id or frame_of_other.room_of(theirs) != own.room_of(one):
            continue
        for lesson in one.lessons:
            if any(lesson.meets(another) for another in theirs.lessons):
                yield gettext(
                    "%(name)s has a lesson in the same room on %(day)s at the same time.",
                    name=other.name if other.id in seen else gettext("Another class"),
                    day=gettext(DAY_NAMES[lesson.day]),
                )


def _is_planned(kept: UnitRow | None) -> bool:
    return kept is None or kept.is_planned


def _wish_line(
    row: ClassRow,
    wish: Wish,
    found: ClassPlan | None,
    plan: KeptPlan | None,
    paces: Mapping[tuple[str, str], Pace],
    assigned: Mapping[str, int],
) -> WishLine:
    pace = paces.get((wish.kind, wish.medium.value), Pace())
    work = None if plan is None else plan.works.get(wish.id)
    due = None if found is None else found.due(wish.id)
    return WishLine(
        wish=wish,
        title=gettext(kind_of(wish.kind).label) if work is None else work.title,
        begins=None if found is None else found.begins(wish.id),
        due=due,
        takes="" if work is None else pace.said(work.work.minutes / work.pace),
        moved=plan is not None and wish.id in plan.moved,
        assignment=assigned.get(wish.id),
        assign_query=_assign_query(row, wish, due),
        fills=() if work is None else work.fills,
    )


def _assign_query(row: ClassRow, wish: Wish, due: date | None) -> str:
    """Give what the form of an assignment is filled with, for a wish."""
    pairs = form_of(options_from_json(kind_of(wish.kind), wish.options))
    pairs += [("kind", wish.kind), ("medium", wish.medium.value), ("wish", wish.id)]
    if wish.set_ref is not None:
        pairs.append(("set", wish.set_ref))
    if due is not None:
        pairs.append(("due_week", str(row.unit.week_within(due))))
    return urlencode(pairs)


def _lesson_lines(school: SchoolFrame, now: datetime) -> tuple[LessonLine, ...]:
    one = school.classes[0]
    held = [lesson for lesson in lessons_of(school, one) if lesson.ends > now]
    lines = [_line(lesson.at.replace(tzinfo=None), lesson.minutes, True) for lesson in held]
    minutes = {weekly.start: weekly.minutes for weekly in one.lessons}
    lines += [_line(at, minutes.get(at.time(), 0), False) for at in one.cancelled]
    return tuple(sorted(lines, key=lambda line: line.at))


def _line(at: datetime, minutes: int, is_held: bool) -> LessonLine:
    return LessonLine(at=at, minutes=minutes, words=f"{at:%Y-%m-%d %H:%M}", is_held=is_held)


def sets_to_choose() -> tuple[tuple[str, str], ...]:
    """Give the sets an exercise may be planned in, by reference and label."""
    own: Sequence[tuple[str, str]] = [
        (one.name, one.label) for one in own_sets(db(), me().school_id)
    ]
    built_in = [
        (f"{name}{PLUS_BLACK}", builtin_set(f"{name}{PLUS_BLACK}").label)
        for name, one in SETS.items()
    ]
    return (*own, *built_in, *((name, one.label) for name, one in SETS.items()))
