"""Puts the worker together; pages stand in assemble_pages.

It may import everything; only entry points and tests import it.
"""

from pathlib import Path

from procrastinate import App

from noema.actions.back_up import BackupPlan
from noema.actions.judge_sheets import queue_outdated
from noema.assemble_pages import begun, outbox_of
from noema.assemble_pages import web_application as web_application  # units of before ask here
from noema.devices.stores_at import files_at, pieces_at
from noema.jobs.counting import give_figures
from noema.jobs.stores import Stores
from noema.jobs.worker import make_worker, work
from noema.settings import Settings
from noema.store.engine import open_engine, open_sessions


def worker_of(settings: Settings) -> App:
    """Make the job worker."""
    stores = Stores(
        sessions=open_sessions(open_engine(settings.database_url)),
        files=files_at(settings.files, settings.old_files),
        pieces=pieces_at(settings.files),
        outbox=outbox_of(settings),
    )
    return make_worker(settings.database_url, stores, settings.stalled_s, backups_of(settings))


def backups_of(settings: Settings) -> BackupPlan | None:
    """Say how backups are made, if anybody said where."""
    if not settings.backups:
        return None
    return BackupPlan(
        database_url=settings.database_url,
        folder=Path(settings.backups),
        days=settings.backup_days,
        key=settings.backup_key,
    )


def run_worker() -> None:
    """Run the job worker from the environment."""
    settings = begun()
    if settings.worker_metrics:
        give_figures(settings.worker_metrics)
    with open_sessions(open_engine(settings.database_url)).begin() as session:
        queue_outdated(session)
    work(worker_of(settings), settings.reading_at_once, settings.heartbeat_s, settings.stalled_s)


if __name__ == "__main__":
    run_worker()
