"""Queuing a job in the transaction of its cause: both are kept or neither."""

from procrastinate import App, SyncPsycopgConnector
from sqlalchemy.orm import Session

from noema.store.engine import driver_connection

READ_PHOTOGRAPH = "read_photograph"
"""The job's name; `noema.jobs` does it."""

_QUEUE = App(connector=SyncPsycopgConnector())


def queue_reading(session: Session, photograph_id: int, after_s: int = 0) -> None:
    """Ask for a photograph to be read, at once or after some seconds."""
    schedule = {"schedule_in": {"seconds": after_s}} if after_s else {}
    job = _QUEUE.configure_task(READ_PHOTOGRAPH, connection=driver_connection(session), **schedule)
    job.defer(photograph_id=photograph_id)
