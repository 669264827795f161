"""Whether Noema lives and is ready, and its figures for Prometheus."""

import os
import time
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from hmac import compare_digest

import structlog
from flask import Blueprint, Response, current_app, g, jsonify, request
from prometheus_client import CONTENT_TYPE_LATEST, CollectorRegistry, Counter, Histogram
from prometheus_client.exposition import generate_latest
from prometheus_client.metrics_core import GaugeMetricFamily
from prometheus_client.multiprocess import MultiProcessCollector
from prometheus_client.registry import Collector
from sqlalchemy import text

from noema.core.errors import NotFound, StoreAway
from noema.core.language import gettext
from noema.devices.logs import belongs_to, belongs_to_nothing, request_id
from noema.store.engine import newest_version
from noema.store.health import Vitals, photographs_of_late, vitals
from noema.web.frame.request import db, files

health = Blueprint("health", __name__)

_SILENT_S, _WAITS_S, _LEAST_FREE = 60.0, 900.0, 500 * 2**20
"""A worker may be silent, the oldest job may wait, and the disk may have no less free than so."""

_ID_HEADER = "X-Request-ID"
_QUIET = ("static", "health.answers", "health.lives", "health.ready", "health.metrics")
_LOG = structlog.stdlib.get_logger(__name__)

_SECONDS = (0.02, 0.05, 0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 30.0)
_SERVER_FAULT, _FIRST_REFUSAL = 500, 400
_REGISTRY = CollectorRegistry()
REQUESTS = Counter(
    "noema_requests", "Answers, by page and class of status.", ("page", "status"),
    registry=_REGISTRY,
)  # fmt: skip
TOOK = Histogram(
    "noema_request_seconds", "How long answers took.", ("page",), buckets=_SECONDS,
    registry=_REGISTRY,
)  # fmt: skip
REFUSALS = Counter(
    "noema_refusals", "What was refused, by reason.", ("reason",), registry=_REGISTRY
)
_NOW = {
    "jobs_waiting": "Jobs that could be done now.",
    "jobs_doing": "Jobs being done.",
    "jobs_failed": "Jobs that failed for good.",
    "queue_age_seconds": "How long the oldest job waits.",
    "reading_seconds": "From a photograph's coming in to its reading: the median of late.",
    "worker_silent_seconds": "Since when no worker was heard.",
    "disk_free_bytes": "What is free where photographs are kept, if that is a disk.",
}
_SHARED = "PROMETHEUS_MULTIPROC_DIR"
"""Where several processes of the pages keep what they count, so that each can give the sums."""


@dataclass(frozen=True, kw_only=True)
class HealthCheck:
    """One thing that must be so."""

    is_well: bool
    words: str


@dataclass(frozen=True, eq=False)
class _FoundNow(Collector):
    """Figures that are asked for, not counted; what isn't known is left out."""

    figures: Mapping[str, float | None]
    photographs: Mapping[tuple[str, str], int]

    def collect(self) -> Iterator[GaugeMetricFamily]:
        """Give them."""
        late = GaugeMetricFamily(
            "noema_photographs_of_late",
            "What became of the photographs that came last, and why they weren't read.",
            labels=("state", "reason"),
        )
        for became, count in self.photographs.items():
            late.add_metric(became, count)
        yield late
        for name, figure in self.figures.items():
            if figure is not None:
                yield GaugeMetricFamily(f"noema_{name}", _NOW[name], value=figure)


@health.get("/health")
def answers() -> tuple[str, int]:
    """Say whether the pages and the database answer."""
    db().execute(text("SELECT 1"))
    return "ok\n", 200


@health.get("/health/live")
def lives() -> tuple[str, int]:
    """Say that the pages answer, whatever else doesn't."""
    return "ok\n", 200


@health.get("/health/ready")
def ready() -> tuple[Response, int]:
    """Say whether everything is there that the work needs, and what isn't."""
    checks = _checks(vitals(db()), datetime.now(UTC))
    is_ready = all(one.is_well for one in checks.values())
    said = {name: {"well": one.is_well, "is": one.words} for name, one in checks.items()}
    return jsonify({"ready": is_ready, "checks": said}), 200 if is_ready else 503


@health.get("/metrics")
def metrics() -> Response:
    """Give figures to who knows the token; no person is in them."""
    token = current_app.config["METRICS_TOKEN"]
    given = request.headers.get("Authorization", "").removeprefix("Bearer ")
    if not token or not compare_digest(given.encode(), token.encode()):
        raise NotFound(gettext("There is no page at this address: go back, or begin at Today."))
    now, found = datetime.now(UTC), vitals(db())
    figures = {
        "jobs_waiting": found.waiting,
        "jobs_doing": found.doing,
        "jobs_failed": found.failed,
        "queue_age_seconds": _since(found.oldest, now),
        "reading_seconds": found.reading_s,
        "worker_silent_seconds": _since(found.heartbeat, now),
        "disk_free_bytes": _free_bytes(),
    }
    found_now = CollectorRegistry()
    found_now.register(_FoundNow(figures, photographs_of_late(db())))
    said = generate_latest(_counted()) + generate_latest(found_now)
    return Response(said, content_type=CONTENT_TYPE_LATEST)


def _counted() -> CollectorRegistry:
    """Give what was counted: the sums of all processes where they share them."""
    if _SHARED not in os.environ:
        return _REGISTRY
    sums = CollectorRegistry()
    MultiProcessCollector(sums)  # type: ignore[no-untyped-call]
    return sums


def begin_timing() -> None:
    """Note when a request began, and give it the id its lines in the log have."""
    g.begun = time.perf_counter()
    g.request_id = request_id(request.headers.get(_ID_HEADER, ""))
    belongs_to_nothing()  # what this thread did before
    belongs_to(request=g.request_id)


def count_answer(response: Response) -> Response:
    """Count and log an answer by its page, and what it refused by its status."""
    page, status = str(request.endpoint), response.status_code
    took = time.perf_counter() - g.get("begun", time.perf_counter())
    REQUESTS.labels(page, f"{status // 100}xx").inc()
    TOOK.labels(page).observe(took)
    if _FIRST_REFUSAL <= status < _SERVER_FAULT:
        REFUSALS.labels(str(status)).inc()
    if request.endpoint not in _QUIET:
        _LOG.info("answered", page=page, status=status, ms=round(1000 * took))
    response.headers[_ID_HEADER] = g.get("request_id", "")
    return response


def _checks(found: Vitals, now: datetime) -> Mapping[str, HealthCheck]:
    silent, waits = _since(found.heartbeat, now), _since(found.oldest, now)
    wanted = newest_version()
    return {
        "tables": HealthCheck(
            is_well=found.version == wanted, words=f"{found.version} of {wanted}"
        ),
        "worker": HealthCheck(
            is_well=found.heartbeat is not None and silent <= _SILENT_S,
            words="never heard" if found.heartbeat is None else f"heard {silent:.0f} s ago",
        ),
        "queue": HealthCheck(
            is_well=waits <= _WAITS_S,
            words=f"{found.waiting} waiting, the oldest for {waits:.0f} s",
        ),
        "files": _files_well(),
    }


def _free_bytes() -> int | None:
    try:
        return files().free_bytes()
    except StoreAway:
        return None


def _files_well() -> HealthCheck:
    try:
        free = files().free_bytes()
    except StoreAway:
        return HealthCheck(is_well=False, words="the store of photographs doesn't answer")
    if free is None:
        return HealthCheck(is_well=True, words="the store of photographs answers")
    return HealthCheck(is_well=free >= _LEAST_FREE, words=f"{free // 2**20} MB free")


def _since(moment: datetime | None, now: datetime) -> float:
    return 0.0 if moment is None else max((now - moment).total_seconds(), 0.0)
