"""No page asks the database more because it shows more."""

from contextlib import contextmanager
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy import event
from sqlalchemy.engine import Engine

from bench.full_class import fill_class
from noema.actions.change_unit import change_unit, keep_days
from noema.actions.make_class import make_class
from noema.actions.mark_student import mark_student
from noema.actions.plan_unit import plan_unit
from noema.core.exercises.media import Medium
from noema.core.planning.frame import Wish
from noema.core.planning.register import RegisterMark
from noema.core.planning.timetable import weekly_of
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.store.assignments import assignments_of_class
from noema.store.classes import students_of_class
from noema.store.cupboard import add_containers
from noema.store.reviews import waiting_for_review
from noema.store.units import CalendarRow, unit_of_class
from tests.trade import found_school

PAGES = (
    "/progress/classes/{class_id}",
    "/progress/classes/{class_id}/skills",
    "/progress/classes/{class_id}/report.pdf",
    "/classes/{class_id}",
    "/classes/{class_id}/cards",
    "/classes/{class_id}/unit",
    "/classes/{class_id}/grades.csv",
    "/classes/{class_id}/measurements.csv",
    "/rosters",
    "/keeping?months=12",
    "/plan",
    "/paints",
    "/paints/sets/{set_ref}",
    "/paints/new",
    "/print",
    "/review",
    "/review/exercises/{assignment_id}/holding",
    "/exercises/{assignment_id}/patterns",
    "/return/assignments/{assignment_id}/slips",
    "/rubric",
    "/return",
    "/photograph",
    "/photograph/again",
    "/printers",
    "/",
    "/school",
    "/school/cupboard",
    "/school/cupboard/order.csv",
    "/school/lessons.ics",
    "/classes/{class_id}/unit/paint",
    "/classes/{class_id}/unit/wishes/value-scale",
    "/classes/{class_id}/lessons/{lesson}",
    "/classes/{class_id}/lessons/{lesson}/lay-out",
    "/classes/{class_id}/assign",
    "/classes/{class_id}/bench",
    "/classes/{class_id}/pictures",
    "/classes/{class_id}/logbook",
    "/classes/{class_id}/logbook?lightness=50&a=10&b=10",
)


@contextmanager
def counted():
    asked = []

    def count(_connection, _cursor, statement, *_rest):
        asked.append(statement)

    event.listen(Engine, "before_cursor_execute", count)
    yield asked
    event.remove(Engine, "before_cursor_execute", count)


@pytest.fixture(scope="module")
def few_and_many(sessions, files):
    """Two schools, one with little and one with much: each with what stands in an address."""
    return [
        _filled(found_school(sessions, files), students=3, assignments=1, sets=1, units=2),
        _filled(found_school(sessions, files), students=9, assignments=4, sets=5, units=4),
    ]


def _filled(school, *, students, assignments, sets, units):
    class_id = fill_class(
        school.sessions, school.id, school.teacher_id, students=students, assignments=assignments
    )
    own = [school.swatches(f"Red {number}") for number in range(sets)]
    refs = [school.puts_together(f"Set {number}", *own) for number in range(sets)]
    with school.sessions() as session:
        assignment_id = assignments_of_class(session, class_id)[0].id
    first = _planned(school, class_id, units)
    return school, {
        "class_id": class_id,
        "set_ref": refs[-1],
        "assignment_id": assignment_id,
        "lesson": f"{first:%Y-%m-%dT%H%M}",
    }


KINDS = ("value-scale", "colour-wheel", "tint-ladder", "shade-ladder")


def _planned(school, class_id, units):
    """Units of as many classes as exercises, and a cupboard; gives a lesson."""
    begins = datetime.now(UTC).date()
    calendar = CalendarRow(
        begins_on=begins, ends_on=begins + timedelta(weeks=20), holidays=(), rooms=()
    )
    wishes = tuple(
        Wish(id=kind, kind=kind, medium=Medium.ACRYLIC, set_ref="split-six+black")
        for kind in KINDS[:units]
    )
    lessons = weekly_of("tue 09:40 75\nthu 09:40 75")
    with school.sessions.begin() as session:
        keep_days(session, school.id, calendar)
        others = [make_class(session, school.id, f"Unit {n}", begins, 20) for n in range(1, units)]
        for one in (class_id, *others):
            change_unit(
                session, school.id, one, lambda own: replace(own, lessons=lessons, unit=wishes)
            )
            plan_unit(session, one, datetime.now(UTC))
        add_containers(session, school.id, [("rose", "acrylic", "rose", 75.0)] * units)
        plan = kept_plan_from_json(unit_of_class(session, class_id).plan)
        at = plan.times["value-scale"][0]
        for student in students_of_class(session, class_id)[:units]:
            lesson = at.isoformat(timespec="minutes")
            mark_student(session, school.id, class_id, lesson, student.id, RegisterMark.AWAY)
    return at


@pytest.mark.parametrize("page", PAGES)
def test_queries_dont_grow(app, few_and_many, page):
    numbers = []
    for school, parts in few_and_many:
        client = school.teacher(app)
        with counted() as asked:
            assert client.get(page.format(**parts)).status_code == 200
        numbers.append(len(asked))
    assert numbers[0] == numbers[1]


def test_a_students_queries_dont_grow(app, few_and_many):
    numbers = []
    for school, parts in few_and_many:
        with school.sessions() as session:
            student = students_of_class(session, parts["class_id"])[0].id
        client = replace(school, class_id=parts["class_id"]).student(app, student)
        asked_for = []
        for page in ("/me", "/me/progress"):
            with counted() as asked:
                assert client.get(page).status_code == 200
            asked_for.append(len(asked))
        numbers.append(asked_for)
    assert numbers[0] == numbers[1]


_MOST_OF_A_DESK = 10


def test_the_desk_asks_little_however_much_waits(app, few_and_many):
    for school, _ in few_and_many:
        with school.sessions() as session:
            queue = [one.photograph_id for one in waiting_for_review(session, school.id)]
        client = school.teacher(app)
        with counted() as asked:
            page = client.get(f"/review/{queue[1]}?done={queue[0]}").text
        assert f"2 of {len(queue)}" in page
        assert len(asked) <= _MOST_OF_A_DESK


def test_a_long_pile_shows_its_beginning_and_says_how_much_more_waits(app, sessions, files):
    school = found_school(sessions, files)
    fill_class(sessions, school.id, school.teacher_id, students=30, assignments=1)
    page = school.teacher(app).get("/review").text
    assert page.count('<tr><td><a href="/review/') == 24
    assert "30 sheets wait for you" in page
    assert "And 6 more" in page
