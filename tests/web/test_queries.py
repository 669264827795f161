"""No page asks the database more because it shows more."""

from contextlib import contextmanager
from dataclasses import replace

import pytest
from sqlalchemy import event
from sqlalchemy.engine import Engine

from bench.full_class import fill_class
from noema.store.assignments import assignments_of_class
from noema.store.classes import students_of_class
from noema.store.reviews import waiting_for_review
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
        _filled(found_school(sessions, files), students=2, assignments=1, sets=1),
        _filled(found_school(sessions, files), students=9, assignments=4, sets=5),
    ]


def _filled(school, *, students, assignments, sets):
    class_id = fill_class(
        school.sessions, school.id, school.teacher_id, students=students, assignments=assignments
    )
    own = [school.swatches(f"Red {number}") for number in range(sets)]
    refs = [school.puts_together(f"Set {number}", *own) for number in range(sets)]
    with school.sessions() as session:
        assignment_id = assignments_of_class(session, class_id)[0].id
    return school, {"class_id": class_id, "set_ref": refs[-1], "assignment_id": assignment_id}


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
