"""What tells whether Noema works: its tables, its workers, what waits."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import text
from sqlalchemy.orm import Session

_QUESTION = text(
    """
    SELECT
        (SELECT version_num FROM alembic_version) AS version,
        (SELECT max(last_heartbeat) FROM procrastinate_workers) AS heartbeat,
        (SELECT count(*) FROM procrastinate_jobs WHERE status = 'todo'
            AND (scheduled_at IS NULL OR scheduled_at <= now())) AS waiting,
        (SELECT count(*) FROM procrastinate_jobs WHERE status = 'doing') AS doing,
        (SELECT count(*) FROM procrastinate_jobs WHERE status = 'failed') AS failed,
        (SELECT min(greatest(event.at, job.scheduled_at)) FROM procrastinate_jobs AS job
            JOIN procrastinate_events AS event ON event.job_id = job.id AND event.type = 'deferred'
            WHERE job.status = 'todo' AND (job.scheduled_at IS NULL OR job.scheduled_at <= now()))
            AS oldest
    """
)


@dataclass(frozen=True, kw_only=True)
class Vitals:
    """How it stands with the database and the workers."""

    version: str  # of the tables
    heartbeat: datetime | None  # of the worker seen last
    waiting: int  # jobs that could be done now
    doing: int
    failed: int
    oldest: datetime | None  # since when the oldest of them waits


def vitals(session: Session) -> Vitals:
    """How does it stand?"""
    row = session.execute(_QUESTION).one()
    return Vitals(
        version=row.version,
        heartbeat=row.heartbeat,
        waiting=row.waiting,
        doing=row.doing,
        failed=row.failed,
        oldest=row.oldest,
    )
