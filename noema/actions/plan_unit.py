"""A class's unit is put into its lessons, by a job; a lesson that is past stays as it was."""

from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime

from sqlalchemy.orm import Session

from noema.actions.frames import frame_of_class, frames_of_school, workshop_of
from noema.actions.say_paint_used import keep_past_paint
from noema.core.colour.srgb import lab_to_hex
from noema.core.errors import Refused
from noema.core.exercises.asked import Asked
from noema.core.exercises.media import Medium
from noema.core.planning.amounts import amounts_of
from noema.core.planning.asking import Workshop
from noema.core.planning.changes import without
from noema.core.planning.class_plan import RackTime, longest_painting_min
from noema.core.planning.frame import ClassFrame, SchoolFrame, Wish, lessons_of
from noema.core.planning.kept import KeptPlan, KeptWork, TubeNeed, as_kept, kept_of
from noema.core.planning.pieces import Piece, WishWork
from noema.core.planning.plan import PlanSoFar, plan_class
from noema.core.planning.saying import Lack, LackFact, Unmet
from noema.core.planning.usual import USUAL
from noema.core.planning.ways import Trying, unmet_of
from noema.formats.kept_plan_json import kept_plan_from_json, kept_plan_to_json
from noema.store.classes import school_of_class
from noema.store.units import asked_of_unit, keep_plan, unit_of_class


def plan_unit(session: Session, class_id: int, now: datetime) -> None:
    """Plan a class's unit as it stands now, beside what other classes have on the rack.

    A wish that can't be worked out any more, its paints gone from the shelf, goes on as it was
    planned; where it never was, it is said.
    """
    school_id, asked = school_of_class(session, class_id), asked_of_unit(session, class_id)
    frame = frame_of_class(session, school_id, class_id)
    row = unit_of_class(session, class_id)
    before = None if row is None or row.plan is None else kept_plan_from_json(row.plan)
    shop = workshop_of(session, school_id, class_id)
    works, gone = _works(shop, frame, {} if before is None else before.works)
    lost = tuple(wish for wish in gone if wish.id not in works)
    for wish in lost:
        frame = replace(frame, classes=(without(wish.id)(frame.classes[0]),))

    def work(one: ClassFrame, wish: Wish, most_min: float) -> WishWork:
        return works[wish.id].work if wish in gone else shop.work(one, wish, most_min)

    earlier = _so_far(frame, before, now)
    if before is not None:
        held = {at for some in earlier.done[str(class_id)].values() for at in some}
        keep_past_paint(session, class_id, frame.classes[0].people, before, held)
    rack = _rack_of_others(session, school_id, frame)
    found = plan_class(frame, frame.classes[0], work, usual=USUAL, earlier=earlier, rack=rack)
    trying = Trying(frame=frame, work_of_wish=work, usual=USUAL, earlier=earlier, rack=rack)
    unmet = (*unmet_of(trying, found), *(_without_paints(class_id, wish) for wish in lost))
    keep_plan(session, class_id, kept_plan_to_json(kept_of(found, works, unmet, before)), asked)


def _works(
    shop: Workshop, frame: SchoolFrame, before: Mapping[str, KeptWork]
) -> tuple[dict[str, KeptWork], list[Wish]]:
    """Work wishes out; also give those that can't be any more, worked out as they were before."""
    works, gone = dict[str, KeptWork](), list[Wish]()
    for wish in frame.classes[0].unit:
        try:
            works[wish.id] = _kept_work(shop, frame, wish)
        except Refused:
            gone.append(wish)
            if wish.id in before:
                works[wish.id] = before[wish.id]
    return works, gone


def _without_paints(class_id: int, wish: Wish) -> Unmet:
    fact = LackFact(lack=Lack.PAINTS, wish=wish.id, kind=wish.kind)
    return Unmet(class_id=str(class_id), wish=wish.id, lack=fact, ways=())


def _so_far(frame: SchoolFrame, before: KeptPlan | None, now: datetime) -> PlanSoFar:
    """Take what was planned for lessons that are past, and were held, as done."""
    one, times = frame.classes[0], {} if before is None else before.times
    held = {lesson.at.replace(tzinfo=None) for lesson in lessons_of(frame, one) if lesson.at <= now}
    done = {wish: some[: _first_gap(some, held)] for wish, some in times.items()}
    return PlanSoFar(before={one.id: times}, done={one.id: done}, now=now)


def _first_gap(times: tuple[datetime, ...], held: set[datetime]) -> int:
    return next((n for n, at in enumerate(times) if at not in held), len(times))


def _rack_of_others(session: Session, school_id: int, own: SchoolFrame) -> list[RackTime]:
    """Give what other classes have on the rack of the class's room."""
    room, found = own.room_of(own.classes[0]), list[RackTime]()
    for row, kept, frame in frames_of_school(session, school_id):
        other = frame.classes[0]
        if kept.plan is None or str(row.id) == own.classes[0].id or frame.room_of(other) != room:
            continue
        found += as_kept(frame, kept_plan_from_json(kept.plan)).rack
    return found


def _paint(asked: Asked, medium: Medium, piece: Piece) -> tuple[TubeNeed, ...]:
    if medium.is_dry:
        return ()
    amounts = amounts_of(asked, medium, 1, cells=piece.cells)
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
        paint=tuple(_paint(asked, wish.medium, piece) for piece in work.pieces),
        pace=shop.pace_of(frame.classes[0], wish),
    )
