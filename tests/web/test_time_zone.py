"""Days, times and weeks are the school's own."""

from datetime import UTC, datetime
from zoneinfo import ZoneInfo

EAST, WEST = "Pacific/Kiritimati", "Pacific/Pago_Pago"  # never on the same day


def test_the_week_is_that_of_the_school(app, school):
    client = school.teacher(app)
    in_the_east = datetime.now(UTC).astimezone(ZoneInfo(EAST)).date()
    made = client.post(
        "/classes/new", data={"name": "Year 9", "starts_on": f"{in_the_east}", "weeks": "12"}
    )
    assert client.post("/school", data={"time_zone": EAST}).status_code == 303
    assert "week 1 of 12" in client.get(made.location).text
    client.post("/school", data={"time_zone": WEST})
    assert "unit of 12 weeks, not begun" in client.get(made.location).text


def test_a_new_class_begins_on_the_monday_of_the_schools_own_week(app, school):
    client = school.teacher(app)
    for zone in (EAST, WEST):
        client.post("/school", data={"time_zone": zone})
        week = f"{datetime.now(UTC).astimezone(ZoneInfo(zone)):%G-W%V-1}"
        monday = datetime.strptime(week, "%G-W%V-%u").date()
        assert f'value="{monday}"' in client.get("/classes/new").text


def test_what_is_no_time_zone_is_refused_and_the_old_one_stays(app, school):
    client = school.teacher(app)
    client.post("/school", data={"time_zone": EAST})
    for wrong in ("", "Saltmarsh", "../../etc/passwd"):
        answer = client.post("/school", data={"time_zone": wrong})
        assert answer.status_code == 422
        assert "is no time zone" in answer.text
    assert f"<b>{EAST}</b>" in client.get("/school").text
