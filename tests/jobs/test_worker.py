"""The worker, killed in the middle of a batch and started again."""

import os
import signal
import subprocess
import sys
import time
from datetime import UTC, datetime
from functools import partial

import pytest
from sqlalchemy import text

from noema.actions.back_up import BackupPlan
from noema.actions.hand_in_photo import hand_in_photo
from noema.devices.piece_store import LocalPieces
from noema.jobs.stores import Stores
from noema.jobs.worker import make_worker, queues_of
from noema.stand_ins.outbox import PretendOutbox
from noema.stand_ins.processes import own_processes
from noema.stand_ins.studio import take_picture
from noema.store.photographs import add_batch
from noema.store.queue import READ_PHOTOGRAPH
from tests.trade import CAREFUL, PICTURE_PX, found_school

PHOTOS = 12
WAIT_S = 90


@pytest.fixture
def start_worker(settings):
    """Starts worker processes, and ends those that are left."""
    running = []

    def start() -> subprocess.Popen:
        environment = {
            **os.environ,
            "NOEMA_DATABASE_URL": settings.database_url,
            "NOEMA_FILES": settings.files,
            "NOEMA_SECRET_KEY": settings.secret_key,
            "NOEMA_HEARTBEAT_S": "1",
            "NOEMA_STALLED_S": "3",
        }
        worker = subprocess.Popen(
            [sys.executable, "-m", "noema.assemble"], env=environment, stderr=subprocess.DEVNULL
        )
        running.append(worker)
        return worker

    yield start
    for worker in running:
        worker.terminate()
        worker.wait(15)


def count(sessions, question: str, school_id: int) -> int:
    with sessions() as session:
        return session.scalar(text(question), {"s": school_id})


READ = "SELECT count(*) FROM photograph WHERE school_id = :s AND state IN ('read', 'read together')"
READINGS = (
    "SELECT count(*) FROM reading JOIN photograph p ON p.id = photograph_id "
    "WHERE p.school_id = :s AND basis NOT LIKE 'together:%'"
)


def until(condition, worker) -> None:
    deadline = time.monotonic() + WAIT_S
    while not condition():
        assert worker.poll() is None, "the worker ended by itself"
        assert time.monotonic() < deadline, "the worker took too long"
        time.sleep(0.05)


def picture_of(printed, n: int) -> bytes:
    layout, pdf = printed[n % len(printed)]
    picture = take_picture(
        layout, pdf, seed=100 + n, preset="easy", hand=CAREFUL, size_px=PICTURE_PX
    )
    return picture.jpeg


def test_a_worker_killed_in_the_middle_loses_and_doubles_nothing(sessions, files, start_worker):
    school = found_school(sessions, files)
    sheets = school.sheets()
    printed = [school.printed(sheet) for sheet in sheets]
    # Processes, not threads: the renderer of PDFs isn't made for threads.
    with own_processes() as pool:
        pictures = list(pool.map(partial(picture_of, printed), range(PHOTOS)))
    with sessions.begin() as session:
        batch = add_batch(session, school.id, school.teacher_id)
        for n, data in enumerate(pictures):
            hand_in_photo(
                session,
                files,
                school_id=school.id,
                batch_id=batch,
                name=f"{n}.jpg",
                data=data,
                received_at=datetime.now(UTC),
            )
    worker = start_worker()
    until(lambda: count(sessions, READ, school.id) >= 3, worker)
    worker.send_signal(signal.SIGKILL)
    worker.wait()
    assert count(sessions, READ, school.id) < PHOTOS
    again = start_worker()
    until(lambda: count(sessions, READ, school.id) == PHOTOS, again)
    assert count(sessions, READINGS, school.id) == PHOTOS


def test_the_worker_knows_the_job_that_is_queued(settings, sessions, files, tmp_path):
    pieces = LocalPieces(tmp_path)
    stores = Stores(sessions=sessions, files=files, pieces=pieces, outbox=PretendOutbox(tmp_path))
    worker = make_worker(settings.database_url, stores, settings.stalled_s)
    assert READ_PHOTOGRAPH in worker.tasks
    # A worker that wasn't told where backups lie leaves them to one that was.
    plan = BackupPlan(database_url=settings.database_url, folder=tmp_path, days=1)
    backing_up = make_worker(settings.database_url, stores, settings.stalled_s, plan)
    nightly = backing_up.tasks["back_up"].queue
    assert nightly in queues_of(backing_up)
    assert nightly not in queues_of(worker)
