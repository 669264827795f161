"""What a worker counts of its jobs, for Prometheus; no person is in it."""

import time
from collections.abc import Awaitable, Callable
from typing import Any

from procrastinate import JobContext
from procrastinate.worker import Worker
from prometheus_client import CollectorRegistry, Counter, Histogram, start_http_server

REGISTRY = CollectorRegistry()
JOBS = Counter(
    "noema_jobs", "Jobs, by task and how they ended.", ("task", "ended"), registry=REGISTRY
)
TOOK = Histogram(
    "noema_job_seconds", "How long jobs took, by task.", ("task",),
    buckets=(0.1, 0.3, 1.0, 3.0, 10.0, 30.0, 100.0, 300.0), registry=REGISTRY,
)  # fmt: skip


def give_figures(place: str) -> None:
    """Give what is counted to whoever asks at HOST:PORT."""
    host, _, port = place.rpartition(":")
    start_http_server(int(port), addr=host, registry=REGISTRY)


async def counted(do: Callable[[], Awaitable[Any]], context: JobContext, worker: Worker) -> object:
    """Do a job, and count how it ended and how long it took."""
    task, begins, ended = context.job.task_name, time.perf_counter(), "failed"
    try:
        result = await do()
        ended = "done"
        return result
    finally:
        JOBS.labels(task, ended).inc()
        TOOK.labels(task).observe(time.perf_counter() - begins)
