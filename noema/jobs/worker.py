"""The job worker: its tasks, and what it does about jobs of workers that died."""

import asyncio
import logging
from collections.abc import Callable
from datetime import UTC, datetime
from functools import partial

from procrastinate import App, JobContext, PsycopgConnector

from noema.actions.back_up import BackupPlan
from noema.jobs.back_up import back_up_all, try_backup
from noema.jobs.counting import counted
from noema.jobs.judge_assignment import judge_behind
from noema.jobs.learn_printer import learn_one
from noema.jobs.learn_tubes import follow_tubes_of, learn_tubes_of
from noema.jobs.let_leave import let_leave_all
from noema.jobs.paint_from import rank_all, read_held_one, read_trial_one
from noema.jobs.patience import Patience
from noema.jobs.plan_unit import plan_unit_of
from noema.jobs.read_photograph import read_one
from noema.jobs.reread_photograph import reread_one
from noema.jobs.side_by_side import SideBySide
from noema.jobs.stores import Stores
from noema.jobs.sweep import sweep_all
from noema.store.engine import REACHING
from noema.store.queue import (
    FOLLOW_TUBES,
    JUDGE_ASSIGNMENT,
    LEARN_PRINTER,
    LEARN_TUBES,
    LET_LEAVE,
    PLAN_UNIT,
    RANK_TUBES,
    READ_HELD,
    READ_PHOTOGRAPH,
    READ_TRIAL,
    REREAD_PHOTOGRAPH,
)

_LOG = logging.getLogger(__name__)

_IN_DATABASE: dict[str, Callable[..., None]] = {
    LEARN_PRINTER: learn_one,
    LEARN_TUBES: learn_tubes_of,
    FOLLOW_TUBES: follow_tubes_of,
    JUDGE_ASSIGNMENT: judge_behind,
    PLAN_UNIT: plan_unit_of,
}
"""Tasks that need nothing but the database."""

_BACKUPS = "backups"  # a queue of its own: other workers leave it alone
_EVERY_TEN_SECONDS, _EVERY_HOUR = "* * * * * */10", "7 * * * *"
_EVERY_NIGHT, _EVERY_MONTH = "23 1 * * *", "41 3 2 * *"  # UTC


def make_worker(
    database_url: str, stores: Stores, stalled_s: int, backups: BackupPlan | None = None
) -> App:
    """Make the queue's application with its tasks."""
    sessions, files, side_by_side = stores.sessions, stores.files, SideBySide()
    app = App(connector=PsycopgConnector(conninfo=database_url, kwargs=dict(REACHING)))

    @app.task(name=READ_PHOTOGRAPH, pass_context=True, retry=Patience())
    def read_photograph(context: JobContext, photograph_id: int) -> None:
        read_one(stores, side_by_side, photograph_id, context.job.attempts)

    @app.task(
        name=REREAD_PHOTOGRAPH,
        pass_context=False,
        retry=Patience(),
    )
    def reread_photograph(photograph_id: int) -> None:
        reread_one(sessions, files, photograph_id)

    @app.task(
        name=LET_LEAVE,
        pass_context=False,
        retry=Patience(),
    )
    def let_leave(uploads: list[str], letters: list[str]) -> None:
        let_leave_all(stores, uploads, letters)

    @app.task(name=RANK_TUBES, pass_context=False, retry=Patience())
    def rank_tubes(picture_id: int) -> None:
        rank_all(stores, picture_id)

    _add_waited_for(app, stores)
    for name, task in _IN_DATABASE.items():
        app.task(name=name, pass_context=False, retry=Patience())(partial(task, sessions))

    @app.periodic(cron=_EVERY_TEN_SECONDS)
    @app.task(name="take_up_stalled", queueing_lock="take_up_stalled", pass_context=False)
    async def take_up_stalled(timestamp: int) -> None:
        await take_up(app, stalled_s)

    @app.periodic(cron=_EVERY_HOUR)
    @app.task(name="sweep", queueing_lock="sweep", pass_context=False)
    def sweep(timestamp: int) -> None:
        sweep_all(stores, datetime.fromtimestamp(timestamp, UTC))

    if backups is not None:
        _add_backups(app, stores, backups)
    return app


def _add_waited_for(app: App, stores: Stores) -> None:
    """Add what somebody waits for at a page."""

    @app.task(name=READ_HELD, pass_context=True, retry=Patience())
    def read_held(context: JobContext, held_id: int) -> None:
        read_held_one(stores, held_id, context.job.attempts)

    @app.task(name=READ_TRIAL, pass_context=True, retry=Patience())
    def read_trial(context: JobContext, trial_id: int) -> None:
        read_trial_one(stores, trial_id, context.job.attempts)


def _add_backups(app: App, stores: Stores, plan: BackupPlan) -> None:
    """Add what only workers do that were told where backups lie."""

    @app.periodic(cron=_EVERY_NIGHT)
    @app.task(name="back_up", queue=_BACKUPS, queueing_lock="back_up", pass_context=False)
    def make_backup(timestamp: int) -> None:
        back_up_all(stores, plan, datetime.fromtimestamp(timestamp, UTC))

    @app.periodic(cron=_EVERY_MONTH)
    @app.task(name="try_backup", queue=_BACKUPS, queueing_lock="try_backup", pass_context=False)
    def try_one(timestamp: int) -> None:
        try_backup(plan, datetime.fromtimestamp(timestamp, UTC))


async def take_up(app: App, stalled_s: int) -> int:
    """Queue again what workers that fell silent left undone; gives how many."""
    stalled = list(await app.job_manager.get_stalled_jobs(seconds_since_heartbeat=stalled_s))
    for job in stalled:
        await app.job_manager.retry_job(job)
    if stalled:
        _LOG.warning("%d jobs of a worker that fell silent are taken up again", len(stalled))
    return len(stalled)


def queues_of(app: App) -> list[str]:
    """Give the queues whose jobs a worker takes."""
    return sorted({task.queue for task in app.tasks.values()})


async def run_worker(app: App, at_once: int, heartbeat_s: int, stalled_s: int) -> None:
    """Work until told to stop."""
    async with app.open_async():
        await take_up(app, stalled_s)
        await app.run_worker_async(
            queues=queues_of(app),
            worker_middleware=[counted],
            concurrency=at_once,
            fetch_job_polling_interval=1.0,
            update_heartbeat_interval=heartbeat_s,
            stalled_worker_timeout=stalled_s,
            shutdown_graceful_timeout=10.0,
            delete_jobs="successful",
        )


def work(app: App, at_once: int, heartbeat_s: int, stalled_s: int) -> None:
    """Run the worker in this process."""
    asyncio.run(run_worker(app, at_once, heartbeat_s, stalled_s))
