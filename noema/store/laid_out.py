"""What was added to, left out of and done on the lists of things to lay out."""

from collections.abc import Sequence

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from noema.core.planning.lay_out import Changed, ThingState
from noema.store.planning_tables import ThingLaidOut

EVERY_LESSON = ""


def changed_of_lesson(session: Session, class_id: int, lesson: str) -> Changed:
    """What did somebody change of a lesson's list?"""
    rows = session.execute(
        select(ThingLaidOut.thing, ThingLaidOut.state)
        .where(ThingLaidOut.class_id == class_id, ThingLaidOut.lesson.in_((EVERY_LESSON, lesson)))
        .order_by(ThingLaidOut.made_at, ThingLaidOut.thing)
    )
    by_state: dict[str, list[str]] = {state.value: [] for state in ThingState}
    for row in rows:
        by_state[row.state].append(row.thing)
    return Changed(
        added=tuple(dict.fromkeys(by_state[ThingState.ADDED.value])),
        left_out=frozenset(by_state[ThingState.LEFT_OUT.value]),
        done=frozenset(by_state[ThingState.DONE.value]),
    )


def done_of_lessons(
    session: Session, lessons: Sequence[tuple[int, str]]
) -> dict[tuple[int, str], int]:
    """How many things are done, by class and lesson?"""
    classes = {class_id for class_id, _ in lessons}
    rows = session.execute(
        select(ThingLaidOut.class_id, ThingLaidOut.lesson, func.count())
        .where(
            ThingLaidOut.class_id.in_(classes),
            ThingLaidOut.lesson.in_({lesson for _, lesson in lessons}),
            ThingLaidOut.state == ThingState.DONE.value,
        )
        .group_by(ThingLaidOut.class_id, ThingLaidOut.lesson)
    )
    return {(class_id, lesson): count for class_id, lesson, count in rows}


def keep_thing(session: Session, class_id: int, lesson: str, thing: str, state: ThingState) -> None:
    """Keep what somebody did with a thing."""
    row = {"class_id": class_id, "lesson": lesson, "thing": thing, "state": state.value}
    session.execute(insert(ThingLaidOut).values(**row).on_conflict_do_nothing())


def forget_thing(
    session: Session, class_id: int, lessons: Sequence[str], thing: str, *states: ThingState
) -> None:
    """Take back what somebody did with a thing in some lessons."""
    session.execute(
        delete(ThingLaidOut).where(
            ThingLaidOut.class_id == class_id,
            ThingLaidOut.lesson.in_(lessons),
            ThingLaidOut.thing == thing,
            ThingLaidOut.state.in_([state.value for state in states]),
        )
    )


def count_of_things(session: Session, class_id: int) -> int:
    """How many lines has a class been given or changed?"""
    rows = select(func.count()).where(ThingLaidOut.class_id == class_id)
    return session.scalars(rows).one()
