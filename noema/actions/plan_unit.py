"""A class's unit is put into its lessons, by a job; a lesson that is past stays as it was."""

from datetime import datetime

from sqlalchemy.orm import Session

from noema.actions.change_unit import frame_of_class, workshop_of
from noema.core.colour.srgb import lab_to_hex
from noema.core.exercises.asked import Asked
from noema.core.exercises.media import Medium
from noema.core.planning.amounts import amounts_of
from noema.core.planning.asking import Workshop
from noema.core.planning.class_plan import RackTime, longest_painting_min
from noema.core.planning.frame import SchoolFrame, Wish, lessons_of
from noema.core.planning.kept import KeptPlan, KeptWork, TubeNeed, as_kept, kept_of
from noema.core.planning.plan import PlanSoFar, plan_class
from noema.core.planning.usual import USUAL
from noema.core.planning.ways import Trying, unmet_of
from noema.formats.kept_plan_json import kept_plan_from_json, kept_plan_to_json
from noema.store.classes import school_of_class
from noema.store.units import asked_of_unit, keep_plan, unit_of_class, units_of_school


def plan_unit(session: Session, class_id: int, now: datetime) -> None:
    """Plan a class's unit as it stands now, beside what other classes have on the rack."""
    school_id, asked = school_of_class(session, class_id), asked_of_unit(session, class_id)
    frame = frame_of_class(session, school_id, class_id)
    row = unit_of_class(session, class_id)
    before = None if row is None or row.plan is None else kept_plan_from_json(row.plan)
    shop = workshop_of(session, school_id, class_id)
    earlier = _so_far(frame, before, now)
    rack = _rack_of_others(session, school_id, class_id)
    found = plan_class(frame, frame.classes[0], shop.work, usual=USUAL, earlier=earlier, rack=rack)
    trying = Trying(frame=frame, work_of_wish=shop.work, usual=USUAL, earlier=earlier, rack=rack)
    works = {wish.id: _kept_work(shop, frame, wish) for wish in frame.classes[0].unit}
    plan = kept_of(found, works, unmet_of(trying, found), before)
    keep_plan(session, class_id, kept_plan_to_json(plan), asked)


def _so_far(frame: SchoolFrame, before: KeptPlan | None, now: datetime) -> PlanSoFar:
    """Take what was planned for lessons that are past, and were held, as done."""
    one, times = frame.classes[0], {} if before is None else before.times
    held = {lesson.at.replace(tzinfo=None) for lesson in lessons_of(frame, one) if lesson.at <= now}
    done = {wish: some[: _first_gap(some, held)] for wish, some in times.items()}
    return PlanSoFar(before={one.id: times}, done={one.id: done}, now=now)


def _first_gap(times: tuple[datetime, ...], held: set[datetime]) -> int:
    return next((n for n, at in enumerate(times) if at not in held), len(times))


def _rack_of_others(session: Session, school_id: int, class_id: int) -> list[RackTime]:
    found: list[RackTime] = []
    for other in units_of_school(session, school_id):
        if other.class_id != class_id and other.plan is not None:
            frame = frame_of_class(session, school_id, other.class_id)
            found += as_kept(frame, kept_plan_from_json(other.plan)).rack
    return found


def _paint(asked: Asked, medium: Medium) -> tuple[TubeNeed, ...]:
    if medium.is_dry:
        return ()
    amounts = amounts_of(asked, medium, 1)
    return tuple(
        TubeNeed(tube=name, label=amounts.labels[name], each=each)
        for name, each in amounts.per_person.items()
    )


def _kept_work(shop: Workshop, frame: SchoolFrame, wish: Wish) -> KeptWork:
    asked = shop.asked(wish)
    work = shop.work(frame.classes[0], wish, longest_painting_min(frame, USUAL))
    return KeptWork(
        title=work.title,
        pieces=work.pieces,
        medium=work.medium,
        dry_min=work.dry_min,
        fills=tuple(lab_to_hex([cell.lab for cell in asked.cells])),
        paint=_paint(asked, wish.medium),
        pace=shop.pace_of(frame.classes[0], wish),
    )
