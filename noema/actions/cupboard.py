"""The cupboard as it is now, and how it is filled, counted and emptied."""

from collections import defaultdict
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime
from zoneinfo import ZoneInfo

from sqlalchemy.orm import Session

from noema.actions.frames import frames_of_school
from noema.core.errors import NotFound, Refused
from noema.core.exercises.media import Medium
from noema.core.language import gettext, written
from noema.core.planning.amounts import Range, times
from noema.core.planning.cupboard import Container, LessonTakes, left_now
from noema.core.planning.factor import LearnedFactor
from noema.core.planning.paint_uses import (
    PaintUse,
    TubeInMedium,
    UsedPaint,
    learned_use,
    summed,
    uses_of,
)
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.store.classes import classes_of_school
from noema.store.cupboard import (
    LessonPaintRow,
    add_containers,
    containers_of,
    count_container,
    keep_lead_days,
    lesson_paint_of_school,
)
from noema.store.paints import all_tubes
from noema.store.people import time_zone_of
from noema.store.reach import seeing_all

MOST_CONTAINERS, _MOST_AT_ONCE, _LARGEST_ML, _LONGEST_LEAD = 400, 40, 10_000.0, 180


@dataclass(frozen=True, kw_only=True)
class Cupboard:
    """What stands in it, what lessons took and will take, and what paints are called."""

    now: datetime  # at the school's clock
    containers: tuple[Container, ...]  # as they were counted
    takes: tuple[LessonTakes, ...]
    labels: dict[TubeInMedium, str]

    @property
    def left(self) -> tuple[Container, ...]:
        """Give the containers as they should be now."""
        return left_now(self.containers, self.takes, self.now)


def cupboard_of(session: Session, school_id: int) -> Cupboard:
    """Collect a school's cupboard; a class that isn't shared with who asks goes without a name."""
    zone = ZoneInfo(time_zone_of(session, school_id))
    rows = containers_of(session, school_id)
    containers = tuple(
        Container(
            id=row.id,
            paint=TubeInMedium(tube=row.tube, medium=Medium(row.medium)),
            label=row.label,
            size_ml=row.size_ml,
            left_ml=row.left_ml,
            counted_at=row.counted_at.astimezone(zone).replace(tzinfo=None),
            opened_on=row.opened_on,
        )
        for row in rows
    )
    labels = {one.paint: one.label for one in containers}
    seen = {row.id for row in classes_of_school(session, school_id)}
    with seeing_all(session):  # the cupboard is the whole school's
        takes = tuple(_takes(session, school_id, labels, seen))
    now = datetime.now(UTC).astimezone(zone).replace(tzinfo=None)
    return Cupboard(now=now, containers=containers, takes=takes, labels=labels)


def _takes(
    session: Session, school_id: int, labels: dict[TubeInMedium, str], seen: Collection[int]
) -> Iterator[LessonTakes]:
    """Give what every lesson of the school takes; `labels` learns what paints are called."""
    rows: dict[int, list[LessonPaintRow]] = defaultdict(list)
    for row in lesson_paint_of_school(session, school_id):
        rows[row.class_id].append(row)
    for one, kept, frame in frames_of_school(session, school_id):
        missed = {at.isoformat(timespec="minutes") for at in frame.classes[0].cancelled}
        past = [
            row
            for row in rows.pop(one.id, [])
            if row.lesson not in missed or row.used_ml is not None
        ]
        factor, name = learned_use(used_of(past)), one.name if one.id in seen else ""
        yield from _past(past, factor, name, labels)
        if kept.plan is None:
            continue
        known = {row.lesson for row in past}
        by_lesson: dict[tuple[datetime, TubeInMedium], list[PaintUse]] = defaultdict(list)
        for use in uses_of(kept_plan_from_json(kept.plan), factor):
            labels.setdefault(use.paint, use.label)
            if use.at is not None and use.at.isoformat(timespec="minutes") not in known:
                by_lesson[use.at, use.paint].append(use)
        for (at, paint), some in by_lesson.items():
            ml = times(summed(use.each for use in some), one.students + 1)
            yield LessonTakes(at=at, paint=paint, ml=ml, class_name=name)
    for of_one in rows.values():  # of classes that are over
        yield from _past(of_one, learned_use(used_of(of_one)), "", labels)


def _past(
    rows: Sequence[LessonPaintRow],
    factor: LearnedFactor,
    name: str,
    labels: dict[TubeInMedium, str],
) -> Iterator[LessonTakes]:
    for row in rows:
        paint = TubeInMedium(tube=row.tube, medium=Medium(row.medium))
        labels.setdefault(paint, row.label)
        ml = row.expected_ml * factor.factor if row.used_ml is None else row.used_ml
        at = datetime.fromisoformat(row.lesson)
        yield LessonTakes(
            at=at, paint=paint, ml=Range(little=ml, usual=ml, much=ml), class_name=name
        )


def used_of(rows: Sequence[LessonPaintRow]) -> tuple[UsedPaint, ...]:
    """Give what lessons were said to have used."""
    return tuple(
        UsedPaint(
            paint=TubeInMedium(tube=row.tube, medium=Medium(row.medium)),
            at=datetime.fromisoformat(row.lesson),
            expected=row.expected_ml,
            used=row.used_ml,
        )
        for row in rows
        if row.used_ml is not None
    )


def put_in(
    session: Session, school_id: int, tube: str, medium: Medium, size_ml: float, count: int
) -> None:
    """Put full tubes or bottles into the cupboard."""
    known = all_tubes(session, school_id)
    if tube not in known or medium.is_dry:
        raise NotFound(gettext("There is no such tube: choose one of the list."))
    if not 0 < size_ml <= _LARGEST_ML or not 1 <= count <= _MOST_AT_ONCE:
        raise Refused(
            gettext(
                "Put in 1 to %(count)s tubes or bottles of at most %(ml)s ml at a time.",
                count=_MOST_AT_ONCE,
                ml=int(_LARGEST_ML),
            )
        )
    if len(containers_of(session, school_id)) + count > MOST_CONTAINERS:
        raise Refused(
            gettext(
                "A cupboard holds at most %(most)s tubes and bottles: take empty ones out.",
                most=MOST_CONTAINERS,
            )
        )
    label = known[tube].label
    add_containers(session, school_id, [(tube, medium.value, label, size_ml)] * count)


def count_anew(session: Session, school_id: int, container_id: int, left_ml: float) -> None:
    """Keep what is really left in a container.

    The others of its paint are kept as they should be now, so that no lesson is taken down twice.
    """
    now, cupboard = datetime.now(UTC), cupboard_of(session, school_id)
    one = next((one for one in cupboard.left if one.id == container_id), None)
    if one is None:
        raise NotFound(gettext("There is no such tube or bottle in your cupboard."))
    if not 0 <= left_ml <= one.size_ml:
        raise Refused(
            gettext("It holds 0 to %(size)s ml: say how much is left.", size=written(one.size_ml))
        )
    for other in cupboard.left:
        if other.paint == one.paint:
            is_it = other.id == one.id
            left = left_ml if is_it else other.left_ml
            is_begun = is_it and left_ml < one.size_ml
            opened = other.opened_on or (cupboard.now.date() if is_begun else None)
            count_container(session, other.id, left, _opened(opened, left, other), now)


def _opened(opened: date | None, left_ml: float, one: Container) -> date | None:
    return None if left_ml >= one.size_ml else opened


def set_lead_days(session: Session, school_id: int, days: int) -> None:
    """Keep how many days paint takes from the order to the shelf."""
    if not 0 <= days <= _LONGEST_LEAD:
        raise Refused(gettext("Paint takes 0 to %(most)s days to come.", most=_LONGEST_LEAD))
    keep_lead_days(session, school_id, days)
