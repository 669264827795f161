"""A teacher ticks, adds to and leaves out of what is laid out for a lesson."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from noema.core.errors import Refused
from noema.core.language import gettext
from noema.core.planning.lay_out import ThingState
from noema.store.classes import class_of_school
from noema.store.laid_out import EVERY_LESSON, count_of_things, forget_thing, keep_thing

_LONGEST, _MOST = 80, 5000


@dataclass(frozen=True, kw_only=True)
class OfLesson:
    """A lesson of a school's class."""

    school_id: int
    class_id: int
    lesson: str  # such as 2027-01-12T09:40, at the school's clock


def tick_thing(session: Session, where: OfLesson, thing: str, *, is_done: bool) -> None:
    """Say that a thing is laid out, or isn't after all."""
    class_of_school(session, where.school_id, where.class_id)
    if is_done:
        _keep(session, where, where.lesson, thing, ThingState.DONE)
    else:
        forget_thing(session, where.class_id, (where.lesson,), thing, ThingState.DONE)


def add_thing(session: Session, where: OfLesson, words: str, *, always: bool) -> None:
    """Add a line to a lesson's list, or to those of all lessons of the class."""
    class_of_school(session, where.school_id, where.class_id)
    lesson = EVERY_LESSON if always else where.lesson
    forget_thing(session, where.class_id, (lesson, where.lesson), words, ThingState.LEFT_OUT)
    _keep(session, where, lesson, words, ThingState.ADDED)


def leave_thing_out(session: Session, where: OfLesson, thing: str, *, always: bool) -> None:
    """Take a line off a lesson's list, or off those of all lessons of the class."""
    class_of_school(session, where.school_id, where.class_id)
    _keep(session, where, EVERY_LESSON if always else where.lesson, thing, ThingState.LEFT_OUT)


def usual_things(session: Session, where: OfLesson, things: tuple[str, ...]) -> None:
    """Put back what was left out."""
    class_of_school(session, where.school_id, where.class_id)
    for thing in things:
        both = (EVERY_LESSON, where.lesson)
        forget_thing(session, where.class_id, both, thing, ThingState.LEFT_OUT)


def _keep(session: Session, where: OfLesson, lesson: str, thing: str, state: ThingState) -> None:
    if not 0 < len(thing) <= _LONGEST:
        raise Refused(gettext("Write 1 to %(most)s characters of what to lay out.", most=_LONGEST))
    if count_of_things(session, where.class_id) >= _MOST:
        raise Refused(gettext("This class has too many changes of its lists: take some back."))
    keep_thing(session, where.class_id, lesson, thing, state)
