"""No page asks the database more because it shows more."""

from contextlib import contextmanager

import pytest
from sqlalchemy import event
from sqlalchemy.engine import Engine

from bench.full_class import fill_class
from noema.store.assignments import assignments_of_class

PAGES = (
    "/progress/classes/{class_id}",
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


@pytest.mark.parametrize("page", PAGES)
def test_queries_dont_grow(app, school, other_school, page):
    few = fill_class(school.sessions, school.id, school.teacher_id, students=2, assignments=1)
    many = fill_class(
        other_school.sessions, other_school.id, other_school.teacher_id, students=9, assignments=4
    )
    numbers = []
    with school.sessions() as session:
        given = {one: assignments_of_class(session, one)[0].id for one in (few, many)}
    sets = {}
    for where, size in ((school, 1), (other_school, 5)):
        own = [where.swatches(f"Red {number}") for number in range(size)]
        sets[where] = [where.puts_together(f"Set {number}", *own) for number in range(size)][-1]
    for where, class_id in ((school, few), (other_school, many)):
        client = where.teacher(app)
        with counted() as asked:
            url = page.format(class_id=class_id, set_ref=sets[where], assignment_id=given[class_id])
            assert client.get(url).status_code == 200
        numbers.append(len(asked))
    assert numbers[0] == numbers[1]
