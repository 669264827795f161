"""Ways out of what a plan can't meet, each tried before it is said, the cheapest first.

A way is another frame; it is offered where the wish is met in it and nothing else is lost.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import partial

from noema.core.errors import Refused
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.options import Asks, Option, options_of
from noema.core.planning.class_plan import ClassPlan, RackTime, WorkOf
from noema.core.planning.frame import DAYS, ClassFrame, SchoolFrame, Wish, lessons_of
from noema.core.planning.plan import PlanSoFar, plan_class
from noema.core.planning.saying import Lack, LackFact, Remedy, RemedyFact, Unmet, WayOut
from noema.core.planning.usual import Usual, usual_in

MOST_WAYS = 3
_EXTRA_WEEKS = (1, 2, 3, 4, 6, 8)
_EXTRA_LESSONS = (1, 2, 3, 4, 6)
_DOUBLE_MIN = 25  # longer than a single


@dataclass(frozen=True, kw_only=True)
class Trying:
    """What ways are tried with."""

    frame: SchoolFrame
    work_of_wish: WorkOf
    usual: Usual
    earlier: PlanSoFar
    rack: Sequence[RackTime]  # of other classes


def unmet_of(trying: Trying, found: ClassPlan) -> tuple[Unmet, ...]:
    """Say what a class's plan doesn't meet, with two or three ways out of each."""
    one = trying.frame.class_of(found.class_id)
    wishes = {wish.id: wish for wish in one.unit}
    return tuple(
        Unmet(
            class_id=one.id,
            wish=wish_id,
            lack=_lack(trying, one, wishes[wish_id], found),
            ways=_ways(trying, one, wishes[wish_id], found),
        )
        for wish_id in found.unmet
    )


def _lack(trying: Trying, one: ClassFrame, wish: Wish, found: ClassPlan) -> LackFact:
    missing = tuple(other for other in wish.after if other in found.unmet)
    if missing:
        return LackFact(lack=Lack.AFTER, wish=wish.id, kind=wish.kind, others=missing)
    if wish.pinned or wish.pins:
        return LackFact(lack=Lack.PIN, wish=wish.id, kind=wish.kind)
    lessons = lessons_of(trying.frame, one)
    steps = found.steps[wish.id]
    longest = max((step.minutes for step in steps), default=0)
    room = max((lesson.minutes for lesson in lessons), default=0)
    own = usual_in(trying.usual, trying.frame.room_of(one), one.people)
    if lessons and longest > room - _around(own):
        return LackFact(lack=Lack.ROW, wish=wish.id, kind=wish.kind, minutes=longest, room=room)
    return LackFact(
        lack=Lack.TIME,
        wish=wish.id,
        kind=wish.kind,
        minutes=sum(step.minutes for step in steps),
        until=trying.frame.ends.isoformat(),
    )


def _around(usual: Usual) -> int:
    return usual.set_up_min + usual.show_min + usual.clean_up_min + usual.to_rack_min


def _ways(trying: Trying, one: ClassFrame, wish: Wish, found: ClassPlan) -> tuple[WayOut, ...]:
    ways: list[WayOut] = []
    kept = set(found.met)
    for sources in _candidates(trying.frame, one, wish):
        for way in sources:
            given_up = kept - {other.id for other in way.frame.class_of(one.id).unit}
            if _meets(trying, way.frame, one.id, wish.id, kept - given_up):
                ways.append(way)
                break  # the cheapest of its sort
        if len(ways) == MOST_WAYS:
            break
    return tuple(ways)


def _meets(trying: Trying, frame: SchoolFrame, class_id: str, wish: str, kept: set[str]) -> bool:
    try:
        tried = plan_class(
            frame,
            frame.class_of(class_id),
            trying.work_of_wish,
            usual=trying.usual,
            earlier=trying.earlier,
            rack=trying.rack,
        )
    except Refused:  # this exercise can't be had so
        return False
    return wish in tried.met and kept <= tried.met


def _candidates(frame: SchoolFrame, one: ClassFrame, wish: Wish) -> Iterator[Iterator[WayOut]]:
    """Give sorts of ways, the cheapest sort first, each with its cheapest first."""
    yield _unpinned(frame, one, wish)
    yield _smaller(frame, one, wish)
    yield _without_redo(frame, one, wish)
    yield _more_lessons(frame, one)
    yield _later_end(frame)
    yield _longer_lessons(frame, one)
    yield _without_another(frame, one, wish)


def _unpinned(frame: SchoolFrame, one: ClassFrame, wish: Wish) -> Iterator[WayOut]:
    if wish.pinned or wish.pins:
        loose = _with_wish(frame, one, replace(wish, pinned=None, pins={}))
        yield WayOut(fact=RemedyFact(remedy=Remedy.UNPIN), frame=loose)


def _smaller(frame: SchoolFrame, one: ClassFrame, wish: Wish) -> Iterator[WayOut]:
    kind = kind_of(wish.kind)
    for option in options_of(kind.options):
        for value, fact in _less(option, wish.options.get(option.name, option.usual)):
            options = {**wish.options, option.name: value}
            smaller = _with_wish(frame, one, replace(wish, options=options))
            yield WayOut(fact=fact, frame=smaller)


def _less(option: Option, now: object) -> Iterator[tuple[object, RemedyFact]]:
    if option.asks is Asks.NUMBER and isinstance(now, int):
        for less in sorted((int(n) for n, _ in option.choices if int(n) < now), reverse=True):
            yield (
                less,
                RemedyFact(remedy=Remedy.FEWER, label=option.label, now=str(now), then=str(less)),
            )
    if option.asks in (Asks.WORDS, Asks.TUBES, Asks.PAIRS) and isinstance(now, list | tuple):
        said = dict(option.choices)
        fewest = 0 if option.asks is Asks.WORDS else 1
        for count in range(len(now) - 1, fewest - 1, -1):
            gone = tuple(said.get(str(part), str(part)) for part in now[count:])
            yield (
                list(now[:count]),
                RemedyFact(remedy=Remedy.WITHOUT_PART, label=option.label, names=gone),
            )


def _without_redo(frame: SchoolFrame, one: ClassFrame, wish: Wish) -> Iterator[WayOut]:
    if wish.redo:
        without = _with_wish(frame, one, replace(wish, redo=False))
        yield WayOut(fact=RemedyFact(remedy=Remedy.NO_REDO), frame=without)


def _more_lessons(frame: SchoolFrame, one: ClassFrame) -> Iterator[WayOut]:
    if not one.lessons:
        return
    minutes = one.lessons[0].minutes
    free = list(_free_times(frame, one))
    for count in _EXTRA_LESSONS:
        if len(free) < count:
            return
        chosen = tuple((at, minutes) for at in free[-count:])
        more = _with_class(frame, replace(one, extra=(*one.extra, *chosen)))
        days = tuple(at.date().isoformat() for at, _ in chosen)
        yield WayOut(fact=RemedyFact(remedy=Remedy.LESSONS, count=count, names=days), frame=more)


def _free_times(frame: SchoolFrame, one: ClassFrame) -> Iterator[datetime]:
    """Give the school days without a lesson of the class, at its usual time."""
    taken = {lesson.at.date() for lesson in lessons_of(frame, one)}
    for number in range((frame.ends - frame.begins).days + 1):
        day = frame.begins + timedelta(days=number)
        is_school = day.weekday() < DAYS.index("sat") and not frame.is_free(day)
        if is_school and day not in taken:
            yield datetime.combine(day, one.lessons[0].start)


def _later_end(frame: SchoolFrame) -> Iterator[WayOut]:
    for weeks in _EXTRA_WEEKS:
        later = partial(replace, frame, ends=frame.ends + timedelta(weeks=weeks))
        try:
            longer = later()
        except Refused:  # longer than a plan may be
            return
        yield WayOut(fact=RemedyFact(remedy=Remedy.LATER, count=weeks), frame=longer)


def _longer_lessons(frame: SchoolFrame, one: ClassFrame) -> Iterator[WayOut]:
    longer = tuple(replace(les, minutes=les.minutes + _DOUBLE_MIN) for les in one.lessons)
    if longer:
        yield WayOut(
            fact=RemedyFact(remedy=Remedy.LONGER, then=str(longer[0].minutes)),
            frame=_with_class(frame, replace(one, lessons=longer)),
        )


def _without_another(frame: SchoolFrame, one: ClassFrame, wish: Wish) -> Iterator[WayOut]:
    needed = _needed(one, wish)
    for other in reversed(one.unit):
        if other.id not in needed:
            unit = tuple(
                replace(left, after=tuple(a for a in left.after if a != other.id))
                for left in one.unit
                if left is not other
            )
            yield WayOut(
                fact=RemedyFact(
                    remedy=Remedy.WITHOUT, label=kind_of(other.kind).label, names=(other.id,)
                ),
                frame=_with_class(frame, replace(one, unit=unit)),
            )


def _needed(one: ClassFrame, wish: Wish) -> set[str]:
    """Give a wish and all that comes before it."""
    by_id: Mapping[str, Wish] = {other.id: other for other in one.unit}
    found, left = set[str](), [wish.id]
    while left:
        now = left.pop()
        if now not in found:
            found.add(now)
            left += by_id[now].after
    return found


def _with_wish(frame: SchoolFrame, one: ClassFrame, wish: Wish) -> SchoolFrame:
    unit = tuple(wish if other.id == wish.id else other for other in one.unit)
    return _with_class(frame, replace(one, unit=unit))


def _with_class(frame: SchoolFrame, one: ClassFrame) -> SchoolFrame:
    classes = tuple(one if other.id == one.id else other for other in frame.classes)
    return replace(frame, classes=classes)
