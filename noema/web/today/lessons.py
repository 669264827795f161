"""The lessons that are next: what is done in them, and what is still to be got ready."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from noema.actions.frames import frames_of_school
from noema.actions.lesson_facts import lesson_key
from noema.core.language import gettext, ngettext
from noema.core.planning.class_plan import ClassPlan
from noema.core.planning.kept import KeptPlan, as_kept
from noema.core.planning.timeline import Doing, PlannedLesson
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.store.assignments import GivenWish, given_wishes
from noema.store.classes import ClassRow
from noema.store.laid_out import done_of_lessons
from noema.web.frame.clock import here, lesson_address
from noema.web.frame.request import db, me

_MOST_LESSONS = 6
_GOES_ON = timedelta(hours=5)  # as long as a lesson may be


@dataclass(frozen=True, kw_only=True)
class ComingLesson:
    """A lesson that is next, or goes on now."""

    at: datetime  # at the school's clock
    goes_on: bool
    named: str  # as it stands in an address
    class_id: int
    class_name: str
    words: str  # what is done in it
    ready: tuple[str, ...]  # what is still to be got ready, in words
    laid_out: int  # things ticked off its list


def coming_lessons(rows: Sequence[ClassRow]) -> tuple[ComingLesson, ...]:
    """Find the next lesson with something planned of some classes, the soonest first."""
    now, names = datetime.now(UTC), {row.id: row for row in rows}
    soon = sorted(_soonest(names, now), key=lambda one: (one[1].lesson.at, one[0].name))
    shown = soon[:_MOST_LESSONS]
    given = given_wishes(db(), [row.id for row, *_ in shown])
    keys = [(row.id, lesson_key(one)) for row, one, *_ in shown]
    done = done_of_lessons(db(), keys)
    return tuple(
        ComingLesson(
            at=one.lesson.at.replace(tzinfo=None),
            goes_on=one.lesson.at <= now,
            named=lesson_address(one.lesson.at),
            class_id=row.id,
            class_name=row.name,
            words="; ".join(plan.works[wish].title for wish in one.wishes),
            ready=tuple(_ready(row, one, plan, found, given, rack)),
            laid_out=done.get((row.id, lesson_key(one)), 0),
        )
        for row, one, plan, found, rack in shown
    )


_Soon = tuple[ClassRow, PlannedLesson, KeptPlan, ClassPlan, int]


def _soonest(names: dict[int, ClassRow], now: datetime) -> Iterator[_Soon]:
    """Give the next lesson of each class with its plan and the places on its room's rack."""
    clock = here(now).replace(tzinfo=None)
    for row, kept, frame in frames_of_school(db(), me().school_id, names):
        plan = None if kept.plan is None else kept_plan_from_json(kept.plan)
        if plan is None or not any(
            at >= clock - _GOES_ON for some in plan.times.values() for at in some
        ):
            continue
        found = as_kept(frame, plan)
        coming = next((one for one in found.lessons if one.parts and one.lesson.ends > now), None)
        if coming is not None:
            yield row, coming, plan, found, frame.room_of(frame.classes[0]).rack


def _ready(
    row: ClassRow,
    one: PlannedLesson,
    plan: KeptPlan,
    found: ClassPlan,
    given: dict[tuple[int, str], GivenWish],
    rack: int,
) -> Iterator[str]:
    for part in one.parts:
        title = "" if part.wish is None else plan.works[part.wish].title
        if part.doing is Doing.HAND_BACK:
            yield gettext("hand back %(title)s", title=title)
        if part.doing is Doing.PHOTOGRAPH and any(
            time.wish == part.wish and time.begins < one.lesson.at for time in found.rack
        ):
            yield gettext("take %(title)s off the rack", title=title)
        if part.doing is Doing.PAINT and part.first == 0 and part.wish is not None:
            assigned = given.get((row.id, part.wish))
            if assigned is None:
                yield gettext("assign and print %(title)s", title=title)
            elif assigned.missing:
                yield gettext("print %(title)s", title=title)
    wet = sum(time.sheets for time in found.rack if time.begins == one.lesson.ends)
    if wet:
        yield ngettext(
            "%(wet)s of %(count)s place on the rack",
            "%(wet)s of %(count)s places on the rack",
            rack,
            wet=wet,
        )
