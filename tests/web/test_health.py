"""Whether Noema works: for programs that watch it, and in its logs."""

import json
import logging
import re
import subprocess
import sys
from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy import text

from noema.stand_ins.mishap import Mishap
from noema.store.engine import newest_version
from noema.store.health import vitals

TOKEN = "only for tests"


@pytest.fixture
def visitor(app):
    app.config["METRICS_TOKEN"] = TOKEN
    yield app.test_client()
    app.config["METRICS_TOKEN"] = ""


def ready(visitor):
    answer = visitor.get("/health/ready")
    return answer.status_code, {n: one["well"] for n, one in answer.get_json()["checks"].items()}


@pytest.fixture
def heard(sessions):
    """A worker that was heard just now."""
    with sessions.begin() as session:
        session.execute(text("INSERT INTO procrastinate_workers DEFAULT VALUES"))
    yield
    with sessions.begin() as session:
        session.execute(text("DELETE FROM procrastinate_workers"))
        session.execute(text("DELETE FROM procrastinate_jobs"))


def test_it_lives_and_says_what_isnt_ready(visitor, sessions, heard):
    assert visitor.get("/health/live").status_code == 200
    with sessions.begin() as session:
        session.execute(text("DELETE FROM procrastinate_jobs"))
    assert ready(visitor) == (
        200,
        {"tables": True, "worker": True, "queue": True, "files": True},
    )
    with sessions.begin() as session:
        session.execute(
            text("UPDATE procrastinate_workers SET last_heartbeat = now() - interval '5 minutes'")
        )
    status, checks = ready(visitor)
    assert (status, checks["worker"], checks["tables"]) == (503, False, True)


def test_a_queue_that_stands_still_isnt_ready(visitor, school, heard, sessions):
    school.hands_in(school.photo_of(school.sheets()[0]), read=False)
    with sessions.begin() as session:
        session.execute(text("UPDATE procrastinate_jobs SET scheduled_at = NULL"))
        session.execute(text("UPDATE procrastinate_events SET at = now() - interval '1 hour'"))
    with sessions() as session:
        found = vitals(session)
    assert found.version == newest_version()
    assert found.waiting >= 1
    assert datetime.now(UTC) - found.oldest > timedelta(minutes=50)
    assert ready(visitor)[1]["queue"] is False


def test_figures_are_for_who_knows_the_token(visitor):
    assert visitor.get("/metrics").status_code == 404
    wrong = {"Authorization": "Bearer something else"}
    assert visitor.get("/metrics", headers=wrong).status_code == 404
    visitor.get("/no-such-page")
    found = visitor.get("/metrics", headers={"Authorization": f"Bearer {TOKEN}"})
    assert found.status_code == 200
    assert 'noema_requests_total{page="health.metrics",status="4xx"}' in found.text
    assert 'noema_refusals_total{reason="404"}' in found.text
    assert re.search(r"^noema_disk_free_bytes \d", found.text, re.MULTILINE)
    assert "noema_request_seconds_bucket" in found.text


CAME_IN = """
UPDATE photograph SET received_at = first.at - interval '30 seconds'
    FROM (SELECT photograph_id, min(made_at) AS at FROM reading GROUP BY 1) AS first
    WHERE first.photograph_id = photograph.id
"""
READ_AGAIN = """
INSERT INTO reading (photograph_id, sheet_id, reader, basis, body, made_at)
    SELECT photograph_id, sheet_id, 'a later reader', basis, body, made_at + interval '9 days'
    FROM reading ORDER BY id DESC LIMIT 1
"""


def test_how_long_photographs_wait_for_their_first_reading_is_told(school):
    school.hands_in(school.photo_of(school.sheets()[0]))
    with school.sessions() as session:
        for change in (CAME_IN, READ_AGAIN):
            session.execute(text(change))
        assert vitals(session).reading_s == pytest.approx(30)
        session.rollback()


def test_what_became_of_photographs_of_late_is_told(school, visitor):
    school.hands_in(school.photo_of(school.sheets()[0], mishap=Mishap(cut_off=True)))
    school.hands_in(school.photo_of(school.sheets()[1]))
    found = visitor.get("/metrics", headers={"Authorization": f"Bearer {TOKEN}"}).text
    late = re.findall(r'^noema_photographs_of_late\{reason="(.*)",state="(.*)"\} ', found, re.M)
    assert ("", "read") in late
    assert any(state == "unreadable" and reason for reason, state in late)


def test_without_a_token_nobody_reads_figures(app):
    empty = {"Authorization": "Bearer "}
    assert app.test_client().get("/metrics", headers=empty).status_code == 404


def test_a_request_keeps_the_id_it_came_with(visitor):
    given = visitor.get("/log-in", headers={"X-Request-ID": "a-proxy-gave-it"})
    assert given.headers["X-Request-ID"] == "a-proxy-gave-it"
    odd = visitor.get("/log-in", headers={"X-Request-ID": "<script>"})
    assert len(odd.headers["X-Request-ID"]) == 32


def test_logs_are_lines_of_json_with_ids(visitor):
    code = """
import logging
import re
import structlog
from noema.devices.logs import begin_logs, belongs_to
begin_logs()
belongs_to(request="r-12345678")
structlog.stdlib.get_logger("noema.web").info("answered", page="today.home", status=200)
logging.getLogger("procrastinate").info("Job done", extra={"job": {"id": 7}, "action": "done"})
try:
    1 / 0
except ZeroDivisionError:
    logging.getLogger("x").exception("It broke")
"""
    told = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    answered, done, broke = (json.loads(line) for line in told.stderr.splitlines())
    assert (answered["event"], answered["page"], answered["status"]) == (
        "answered",
        "today.home",
        200,
    )
    assert {one["request"] for one in (answered, done, broke)} == {"r-12345678"}
    assert done["job"] == {"id": 7}
    assert "ZeroDivisionError" in broke["exception"]
    assert broke["level"] == "error"


def test_what_is_logged_of_a_request_names_nobody(app, school, caplog):
    with caplog.at_level(logging.INFO):
        school.teacher(app).get(f"/classes/{school.class_id}")
    assert school.email not in caplog.text
    assert school.sheets()[0].student not in caplog.text
