"""What is left in a school's cupboard, and what runs out when.

Containers are counted at some time; lessons since take from them, an opened one first, then the
smallest.
"""

from collections import defaultdict
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta

from noema.core.planning.amounts import Range
from noema.core.planning.paint_uses import TubeInMedium, summed


@dataclass(frozen=True, kw_only=True)
class Container:
    """A tube or bottle."""

    id: int
    paint: TubeInMedium
    label: str
    size_ml: float
    left_ml: float
    counted_at: datetime  # at the school's clock
    opened_on: date | None = None

    @property
    def order(self) -> tuple[bool, float, int]:
        """Which is taken from first: an opened one, then the smallest."""
        return (self.opened_on is None, self.left_ml, self.id)


@dataclass(frozen=True, kw_only=True)
class LessonTakes:
    """What a lesson takes of a paint, ml."""

    at: datetime  # at the school's clock
    paint: TubeInMedium
    ml: Range
    class_name: str


@dataclass(frozen=True, kw_only=True)
class RunsOut:
    """The first lesson for which there isn't enough of a paint."""

    at: datetime
    class_name: str


@dataclass(frozen=True, kw_only=True)
class StockLine:
    """One paint of the cupboard and what is to come of it."""

    paint: TubeInMedium
    left_ml: float  # now
    to_come: Range  # what lessons to come take of it
    usually_out: RunsOut | None  # if lessons take what is usual
    maybe_out: RunsOut | None  # if they take much


def left_now(
    containers: Iterable[Container], takes: Iterable[LessonTakes], now: datetime
) -> tuple[Container, ...]:
    """Take down what lessons since have used; a container that is begun is opened that day."""
    by_paint: dict[TubeInMedium, list[Container]] = defaultdict(list)
    for one in containers:
        by_paint[one.paint].append(one)
    for lesson in sorted(takes, key=lambda one: one.at):
        if lesson.at < now:
            by_paint[lesson.paint] = _taken(by_paint[lesson.paint], lesson)
    return tuple(one for some in by_paint.values() for one in some)


def _taken(containers: Sequence[Container], lesson: LessonTakes) -> list[Container]:
    wanted, found = lesson.ml.usual, list[Container]()
    for one in sorted(containers, key=lambda one: one.order):
        # What was counted since has the lesson in it already.
        takes = min(wanted, one.left_ml) if one.counted_at <= lesson.at else 0.0
        wanted -= takes
        opened = one.opened_on or (lesson.at.date() if takes else None)
        found.append(replace(one, left_ml=one.left_ml - takes, opened_on=opened))
    return found


def stock_lines(
    containers: Iterable[Container], takes: Iterable[LessonTakes], now: datetime
) -> tuple[StockLine, ...]:
    """Give every paint that is there or is to be used, what runs out soonest first."""
    lessons = sorted(takes, key=lambda one: one.at)
    left: dict[TubeInMedium, float] = defaultdict(float)
    for one in left_now(containers, lessons, now):
        left[one.paint] += one.left_ml
    coming: dict[TubeInMedium, list[LessonTakes]] = defaultdict(list)
    for lesson in lessons:
        if lesson.at >= now:
            coming[lesson.paint].append(lesson)
    lines = (
        StockLine(
            paint=paint,
            left_ml=left.get(paint, 0.0),
            to_come=summed(one.ml for one in some),
            usually_out=_out(left.get(paint, 0.0), some, lambda ml: ml.usual),
            maybe_out=_out(left.get(paint, 0.0), some, lambda ml: ml.much),
        )
        for paint in {**left, **coming}
        for some in [coming.get(paint, [])]
    )
    return tuple(sorted(lines, key=_soonest))


def _out(left: float, some: Sequence[LessonTakes], of: Callable[[Range], float]) -> RunsOut | None:
    for lesson in some:
        left -= of(lesson.ml)
        if left < 0.0:
            return RunsOut(at=lesson.at, class_name=lesson.class_name)
    return None


def _soonest(line: StockLine) -> tuple[bool, bool, bool, datetime, str, str]:
    out = line.maybe_out
    return (
        out is None,
        not line.to_come.much,
        line.usually_out is None,
        datetime.max if out is None else out.at,
        line.paint.tube,
        line.paint.medium.value,
    )


def order_by(out: RunsOut, lead_days: int) -> date:
    """Give the day by which to order what runs out."""
    return out.at.date() - timedelta(days=lead_days)
