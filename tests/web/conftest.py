import pytest

from tests.web.planning import DAYS


@pytest.fixture
def planner(app, school):
    """A teacher whose school has said its days and whose class has lessons."""
    client = school.teacher(app)
    client.post("/school/days", data={**DAYS, "holidays": "2027-02-08 2027-02-12 half term"})
    client.post(f"/classes/{school.class_id}/unit/timetable", data={"lessons": "Tue 9:40 50"})
    return client
