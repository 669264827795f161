"""Queuing a job in the transaction of its cause: both are kept or neither."""

from collections.abc import Collection

from procrastinate import App, SyncPsycopgConnector
from procrastinate.types import TimeDeltaParams
from sqlalchemy.orm import Session

from noema.store.engine import driver_connection

READ_PHOTOGRAPH = "read_photograph"
REREAD_PHOTOGRAPH = "reread_photograph"
JUDGE_ASSIGNMENT = "judge_assignment"
LEARN_PRINTER = "learn_printer"
LEARN_TUBES = "learn_tubes"
FOLLOW_TUBES = "follow_tubes"
LET_LEAVE = "let_leave"
PLAN_UNIT = "plan_unit"
RANK_TUBES = "rank_tubes"
READ_HELD = "read_held"
READ_TRIAL = "read_trial"
"""The jobs' names; `noema.jobs` does them."""

_LATER, _AFTER_READING, _SOON = -10, -5, 5
_QUEUE = App(connector=SyncPsycopgConnector())


def queue_reading(session: Session, photograph_id: int, after_s: int = 0) -> None:
    """Ask for a photograph to be read, at once or after some seconds."""
    wait: TimeDeltaParams | None = {"seconds": after_s} if after_s else None
    connection = driver_connection(session)
    job = _QUEUE.configure_task(READ_PHOTOGRAPH, connection=connection, schedule_in=wait)
    job.defer(photograph_id=photograph_id)


def queue_rereading(session: Session, photograph_id: int) -> None:
    """Ask for a photograph to be read again, after everything that waits to be read at all."""
    connection = driver_connection(session)
    job = _QUEUE.configure_task(REREAD_PHOTOGRAPH, connection=connection, priority=_LATER)
    job.defer(photograph_id=photograph_id)


def queue_learning(session: Session, printer_id: int) -> None:
    """Ask for a printer to be learned, after everything that waits to be read."""
    connection = driver_connection(session)
    job = _QUEUE.configure_task(LEARN_PRINTER, connection=connection, priority=_AFTER_READING)
    job.defer(printer_id=printer_id)


def queue_learning_tubes(session: Session, class_id: int, set_ref: str) -> None:
    """Ask for a class's tubes to be learned, after everything that waits to be read."""
    connection = driver_connection(session)
    job = _QUEUE.configure_task(LEARN_TUBES, connection=connection, priority=_AFTER_READING)
    job.defer(class_id=class_id, set_ref=set_ref)


def queue_following_tubes(session: Session, class_id: int, set_ref: str, teacher_id: int) -> None:
    """Ask for the keys of a class's set to follow its tubes, or not, as a teacher chose."""
    job = _QUEUE.configure_task(FOLLOW_TUBES, connection=driver_connection(session))
    job.defer(class_id=class_id, set_ref=set_ref, teacher_id=teacher_id)


def queue_leaving(
    session: Session, uploads: Collection[str] = (), letters: Collection[str] = ()
) -> None:
    """Ask for files whose rows are gone, pieces of some uploads and some letters to leave."""
    job = _QUEUE.configure_task(LET_LEAVE, connection=driver_connection(session))
    job.defer(uploads=list(uploads), letters=list(letters))


def queue_planning(session: Session, class_id: int) -> None:
    """Ask for a class's unit to be planned as it stands when the job is done."""
    job = _QUEUE.configure_task(PLAN_UNIT, connection=driver_connection(session))
    job.defer(class_id=class_id)


def queue_judging(session: Session, assignment_id: int) -> None:
    """Ask for an assignment's sheets to be judged by what it is held against now."""
    job = _QUEUE.configure_task(JUDGE_ASSIGNMENT, connection=driver_connection(session))
    job.defer(assignment_id=assignment_id)


def queue_ranking(session: Session, picture_id: int) -> None:
    """Ask for the few tubes that do for a picture."""
    job = _QUEUE.configure_task(RANK_TUBES, connection=driver_connection(session))
    job.defer(picture_id=picture_id)


def queue_held(session: Session, held_id: int) -> None:
    """Ask for a photograph of paint to be read; somebody waits at the easel."""
    job = _QUEUE.configure_task(READ_HELD, connection=driver_connection(session), priority=_SOON)
    job.defer(held_id=held_id)


def queue_trial(session: Session, trial_id: int) -> None:
    """Ask for a photograph of the trial sheet to be read; somebody waits for it."""
    connection = driver_connection(session)
    job = _QUEUE.configure_task(READ_TRIAL, connection=connection, priority=_SOON)
    job.defer(trial_id=trial_id)
