"""What the page of a unit shows: lessons as columns of minutes, wishes, what isn't met."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime

from noema.actions.change_unit import frame_of_class, paces_of_class
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.media import Medium
from noema.core.language import gettext
from noema.core.pigments.shelf import PLUS_BLACK, SETS
from noema.core.planning.class_plan import ClassPlan
from noema.core.planning.frame import SchoolFrame, Wish, lessons_of
from noema.core.planning.kept import KeptPlan, as_kept
from noema.core.planning.pace import Pace
from noema.core.planning.ready import READY
from noema.core.planning.saying import Unmet
from noema.core.planning.timetable import weekly_text
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.store.classes import ClassRow, class_of_school, classes_of_school
from noema.store.paints import own_sets
from noema.store.units import UnitRow, unit_of_class, units_of_school
from noema.web.drawings.minutes import MinuteSheet, make_minutes
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.frame.weeks import week_words

OF_CLASS = "class-"
"""Before a class's number where its unit is started from."""


@dataclass(frozen=True, kw_only=True)
class WishLine:
    """An exercise of the unit, and when it is."""

    wish: Wish
    title: str
    begins: date | None
    due: date | None
    due_week: int
    takes: str  # how long this class paints at it, with its doubt
    moved: bool  # elsewhere than in the plan before
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
    return UnitPage(
        frame=frame(Stage.PLAN),
        row=row,
        week=week_words(row),
        is_planned=_is_planned(kept),
        can_undo=kept is not None and kept.can_undo,
        sheet=None if found is None or plan is None else _sheet(found, plan, now),
        wishes=tuple(_wish_line(row, wish, found, plan, paces) for wish in one.unit),
        unmet=() if plan is None or not _is_planned(kept) else plan.unmet,
        lessons=_lesson_lines(school, now),
        timetable=weekly_text(one.lessons),
        begins=school.begins,
        ends=school.ends,
        kinds=tuple((kind.name, gettext(kind.label)) for kind in KINDS.values()),
        sets=_sets(),
        media=tuple(Medium),
        ready=(*((unit.id, gettext(unit.label)) for unit in READY.values()), *_of_others(class_id)),
        has_feed=kept is not None and kept.has_feed,
        feed=feed,
        sentence=sentence,
    )


def _of_others(class_id: int) -> Iterator[tuple[str, str]]:
    """Offer the units of a school's other classes."""
    there = {one.class_id for one in units_of_school(db(), me().school_id)} - {class_id}
    for other in classes_of_school(db(), me().school_id):
        if other.id in there:
            yield f"{OF_CLASS}{other.id}", gettext("as %(name)s has it", name=other.name)


def _is_planned(kept: UnitRow | None) -> bool:
    return kept is None or kept.is_planned


def _sheet(found: ClassPlan, plan: KeptPlan, now: datetime) -> MinuteSheet:
    fills = {wish: work.fills for wish, work in plan.works.items()}
    titles = {wish: work.title for wish, work in plan.works.items()}
    return make_minutes(found.lessons, fills, titles, now)


def _wish_line(
    row: ClassRow,
    wish: Wish,
    found: ClassPlan | None,
    plan: KeptPlan | None,
    paces: Mapping[tuple[str, str], Pace],
) -> WishLine:
    pace = paces.get((wish.kind, wish.medium.value), Pace())
    is_met = found is not None and wish.id in found.at
    work = None if plan is None else plan.works.get(wish.id)
    due = found.due(wish.id) if found is not None and is_met else None
    return WishLine(
        wish=wish,
        title=gettext(kind_of(wish.kind).label) if work is None else work.title,
        begins=found.begins(wish.id) if found is not None and is_met else None,
        due=due,
        due_week=1 if due is None else min(max(row.unit.week_on(due), 1), row.unit.weeks),
        takes="" if work is None else pace.said(work.work.minutes / work.pace),
        moved=plan is not None and wish.id in plan.moved,
        fills=() if work is None else work.fills,
    )


def _lesson_lines(school: SchoolFrame, now: datetime) -> tuple[LessonLine, ...]:
    one = school.classes[0]
    held = [lesson for lesson in lessons_of(school, one) if lesson.ends > now]
    lines = [_line(lesson.at.replace(tzinfo=None), lesson.minutes, True) for lesson in held]
    minutes = {weekly.start: weekly.minutes for weekly in one.lessons}
    lines += [_line(at, minutes.get(at.time(), 0), False) for at in one.cancelled]
    return tuple(sorted(lines, key=lambda line: line.at))


def _line(at: datetime, minutes: int, is_held: bool) -> LessonLine:
    return LessonLine(at=at, minutes=minutes, words=f"{at:%Y-%m-%d %H:%M}", is_held=is_held)


def _sets() -> tuple[tuple[str, str], ...]:
    own: Sequence[tuple[str, str]] = [
        (one.name, one.label) for one in own_sets(db(), me().school_id)
    ]
    built_in = [(f"{name}{PLUS_BLACK}", f"{one.label}, black") for name, one in SETS.items()]
    return (*own, *built_in, *((name, one.label) for name, one in SETS.items()))
