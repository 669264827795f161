"""The pages of units in time, of a school with six classes, each with a year of lessons."""

import statistics
import time
from collections.abc import Sequence
from dataclasses import replace
from datetime import UTC, datetime, timedelta

from flask.testing import FlaskClient
from sqlalchemy.orm import Session

from bench.opened import opened
from noema.actions.change_unit import change_unit, keep_days
from noema.actions.create_school import create_school
from noema.actions.cupboard import put_in
from noema.actions.make_class import enrol_students, make_class
from noema.actions.plan_unit import plan_unit
from noema.assemble_pages import web_application_of
from noema.core.exercises.catalogue import KINDS, kind_of
from noema.core.exercises.media import Medium
from noema.core.planning.frame import ClassFrame, Wish
from noema.core.planning.timetable import weekly_of
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.settings import Settings
from noema.store.engine import Sessions
from noema.store.units import CalendarRow, unit_of_class

_CLASSES, _STUDENTS, _WEEKS, _PAST_WEEKS = 6, 24, 44, 20
_DAYS = ("mon", "tue", "wed", "thu", "fri", "mon")
_LIMIT_S, _TIMES = 0.150, 15
_PASSWORD = "a password of some length"


def fill_year(session: Session, school_id: int) -> tuple[int, str]:
    """Give a school six classes and a year of theirs; gives one and the address of a lesson."""
    begins = datetime.now(UTC).date() - timedelta(weeks=_PAST_WEEKS)
    ends = begins + timedelta(weeks=_WEEKS)
    keep_days(
        session,
        school_id,
        CalendarRow(begins_on=begins, ends_on=ends, holidays=(), rooms=({"rack": 60},)),
    )
    classes = [_class(session, school_id, number) for number in range(_CLASSES)]
    for tube in ("titanium-white", "lemon-yellow", "ultramarine", "rose", "scarlet"):
        put_in(session, school_id, tube, Medium.ACRYLIC, 500.0, 2)
    row = unit_of_class(session, classes[0])
    assert row is not None
    assert row.plan is not None
    times = sorted(at for some in kept_plan_from_json(row.plan).times.values() for at in some)
    coming = next(at for at in times if at > datetime.now(UTC).replace(tzinfo=None))
    return classes[0], f"{coming:%Y-%m-%dT%H%M}"


def _class(session: Session, school_id: int, number: int) -> int:
    begins = datetime.now(UTC).date() - timedelta(weeks=_PAST_WEEKS)
    class_id = make_class(session, school_id, f"Year {number + 5}", begins, _WEEKS)
    names = "\n".join(f"Student {number} {n}" for n in range(_STUDENTS))
    enrol_students(session, school_id, class_id, names)
    lessons = weekly_of(f"{_DAYS[number]} {8 + number}:40 50")

    def change(one: ClassFrame) -> ClassFrame:
        return replace(one, lessons=lessons, unit=_year())

    change_unit(session, school_id, class_id, change)
    plan_unit(session, class_id, datetime.combine(begins, datetime.min.time(), UTC))
    plan_unit(session, class_id, datetime.now(UTC))
    return class_id


def _year() -> tuple[Wish, ...]:
    usual = sorted(KINDS, key=lambda kind: kind_of(kind).teaching.place)
    return tuple(
        Wish(
            id=f"{again}-{kind}",
            kind=kind,
            medium=Medium.ACRYLIC,
            set_ref="split-six+black",
            redo=again == 0,
        )
        for again in range(2)
        for kind in usual[:7]
    )


def bench_plan_pages(client: FlaskClient, class_id: int, lesson: str) -> None:
    """Time each page; prints the middle of its times, of what is asked."""
    for words, address in _addresses(class_id, lesson):
        assert client.get(address).status_code == 200, address
        took = [_timed(client, address) for _ in range(_TIMES)]
        middle = statistics.median(took)
        print(
            f"{words}, six classes with a year / {1000 * _LIMIT_S:.0f} ms:"
            f" {middle / _LIMIT_S:.2f} (at most 1)"
        )


def _timed(client: FlaskClient, address: str) -> float:
    begun = time.perf_counter()
    client.get(address)
    return time.perf_counter() - begun


def _addresses(class_id: int, lesson: str) -> Sequence[tuple[str, str]]:
    unit, page = f"/classes/{class_id}/unit", f"/classes/{class_id}/lessons/{lesson}"
    return (
        ("a unit in time", unit),
        ("Plan", "/plan"),
        ("Today", "/"),
        ("a lesson", page),
        ("what is laid out", f"{page}/lay-out"),
        ("the wall", f"{page}/wall?step=2"),
        ("a unit's paint", f"{unit}/paint"),
        ("the cupboard", "/school/cupboard"),
        ("the school", "/school"),
        ("an exercise of a unit", f"{unit}/wishes/0-value-scale"),
    )


def bench_year(sessions: Sessions, settings: Settings) -> None:
    """Fill a school with its year and time its pages."""
    serial = time.time_ns()
    email = f"year{serial}@school.example"
    with sessions.begin() as session:
        school_id = create_school(session, f"Year {serial}", email, "Bench", _PASSWORD)
        class_id, lesson = fill_year(session, school_id)
    app = web_application_of(settings, sessions)
    client = app.test_client()
    app.config["WTF_CSRF_ENABLED"] = False
    client.post("/log-in", data={"email": email, "password": _PASSWORD})
    bench_plan_pages(client, class_id, lesson)


if __name__ == "__main__":
    with opened() as (bench_sessions, bench_settings):
        bench_year(bench_sessions, bench_settings)
