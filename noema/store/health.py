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
            AS oldest,
        (SELECT percentile_cont(0.5) WITHIN GROUP (ORDER BY extract(epoch FROM wait))
            FROM (SELECT reading.made_at - photograph.received_at AS wait
                FROM (SELECT * FROM reading ORDER BY id DESC LIMIT :looked_at) AS reading
                JOIN photograph ON photograph.id = reading.photograph_id
                WHERE NOT EXISTS (SELECT FROM reading AS earlier
                    WHERE earlier.photograph_id = photograph.id AND earlier.id < reading.id)
            ) AS first_readings) AS reading_s
    """
)

_OF_LATE = text(
    """
    SELECT state, split_part(coalesce(reason, ''), chr(10), 1) AS reason, count(*) AS photographs
    FROM (SELECT state, reason FROM photograph ORDER BY id DESC LIMIT :looked_at) AS late
    GROUP BY 1, 2
    """
)

_LOOKED_AT = 200  # the readings made last, so that the question costs the same in any school


@dataclass(frozen=True, kw_only=True)
class Vitals:
    """How it stands with the database and the workers."""

    version: str  # of the tables
    heartbeat: datetime | None  # of the worker seen last
    waiting: int  # jobs that could be done now
    doing: int
    failed: int
    oldest: datetime | None  # since when the oldest of them waits
    reading_s: float | None  # the median from a photograph's coming in to its reading, of late


def vitals(session: Session) -> Vitals:
    """How does it stand?"""
    row = session.execute(_QUESTION, {"looked_at": _LOOKED_AT}).one()
    return Vitals(
        version=row.version,
        heartbeat=row.heartbeat,
        waiting=row.waiting,
        doing=row.doing,
        failed=row.failed,
        oldest=row.oldest,
        reading_s=row.reading_s,
    )


def photographs_of_late(session: Session) -> dict[tuple[str, str], int]:
    """What became of the photographs that came last, by state and why they weren't read?"""
    rows = session.execute(_OF_LATE, {"looked_at": _LOOKED_AT})
    return {(row.state, row.reason): row.photographs for row in rows}
