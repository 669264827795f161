"""The unit in time, as a teacher plans it: lessons, wishes, a missed lesson, ways out, undo."""

import re
import subprocess
import sys
from datetime import UTC, datetime, timedelta

import pytest
from icalendar import Calendar

from noema.actions.plan_unit import plan_unit
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.store.units import calendar_of_school, unit_of_class

LONG_AGO = datetime(2020, 1, 1, tzinfo=UTC)
DAYS = {"begins": "2027-01-11", "ends": "2027-03-26", "rack": "50", "holidays": ""}


@pytest.fixture
def planner(app, school):
    """A teacher whose school has said its days and whose class has lessons."""
    client = school.teacher(app)
    client.post("/school/days", data={**DAYS, "holidays": "2027-02-08 2027-02-12 half term"})
    client.post(f"/classes/{school.class_id}/unit/timetable", data={"lessons": "Tue 9:40 50"})
    return client


def plan_now(school, now=LONG_AGO):
    with school.sessions.begin() as session:
        plan_unit(session, school.class_id, now)


def kept(school):
    with school.sessions() as session:
        row = unit_of_class(session, school.class_id)
    return row, kept_plan_from_json(row.plan)


def add(client, school, kind, **rest):
    form = {"kind": kind, "set": "split-six+black", "medium": "acrylic", **rest}
    return client.post(f"/classes/{school.class_id}/unit/wishes", data=form)


def page(client, school):
    return client.get(f"/classes/{school.class_id}/unit").text


def test_a_unit_is_planned_and_shown(planner, school):
    assert add(planner, school, "value-scale", redo="redo").status_code == 303
    assert add(planner, school, "tint-ladder").status_code == 303
    assert "being planned" in page(planner, school)
    plan_now(school)
    shown = page(planner, school)
    assert "being planned" not in shown
    assert shown.count('<g role="img"') == 10  # eleven Tuesdays but for a holiday
    assert "12 Jan" in re.sub(r"\s+", " ", shown)
    row, plan = kept(school)
    assert row.is_planned
    assert plan.times["value-scale"][0] == datetime(2027, 1, 12, 9, 40)
    assert plan.unmet == ()


def test_a_lesson_stands_on_one_page(planner, school):
    add(planner, school, "colour-wheel")
    plan_now(school)
    address = f"/classes/{school.class_id}/lessons/2027-01-12T0940"
    assert f'href="{address}"' in page(planner, school)
    shown = planner.get(address).text
    words = re.sub(r"\s+", " ", shown)
    assert "09:40" in words
    assert "09:45" in words  # five minutes to arrive
    assert "Equal parts are mixed" in words
    assert "two jars of water" in words
    assert "4 printed worksheets" in words  # three students and one to spare
    assert "Read the label" in words
    assert re.search(r"lemon yellow</td><td>[^<]+</td>", shown)
    paper = planner.get(f"{address}.pdf")
    assert paper.data.startswith(b"%PDF")
    assert planner.get(f"/classes/{school.class_id}/lessons/2027-01-13T0940").status_code == 404


def test_what_a_lesson_took_moves_the_next_plan(planner, school):
    add(planner, school, "value-scale")
    add(planner, school, "value-scale")
    plan_now(school)
    usual = kept(school)[1].works["value-scale-2"].work.minutes
    address = f"/classes/{school.class_id}/lessons/2027-01-12T0940"
    assert planner.post(f"{address}/went", data={"over": "10"}).status_code == 303
    plan_now(school)
    slower = kept(school)[1].works["value-scale-2"]
    assert slower.pace > 1.2
    assert slower.work.minutes == pytest.approx(usual * slower.pace)
    planner.post(f"{address}/went", data={"over": "0"})
    plan_now(school)
    assert kept(school)[1].works["value-scale-2"].pace < 1.05
    planner.post(f"{address}/went", data={"unfinished": "3"})
    plan_now(school)
    assert kept(school)[1].works["value-scale-2"].pace > 1.1
    refused = planner.post(f"{address}/went", data={"unfinished": "40"})
    assert refused.status_code == 422
    assert "as many sheets as there are students" in refused.text


def test_lessons_leave_as_a_calendar(planner, school):
    add(planner, school, "value-scale")
    plan_now(school)
    answer = planner.get(f"/classes/{school.class_id}/lessons.ics")
    assert answer.mimetype == "text/calendar"
    events = Calendar.from_ical(answer.data).walk("VEVENT")
    lessons = [one for one in events if str(one["uid"]).startswith("lesson")]
    assert len(lessons) == 10
    assert lessons[0]["dtstart"].dt == datetime(2027, 1, 12, 9, 40, tzinfo=UTC)
    assert lessons[0]["dtend"].dt - lessons[0]["dtstart"].dt == timedelta(minutes=50)
    (rack,) = [one for one in events if str(one["uid"]).startswith("rack")]
    assert rack["dtstart"].dt == datetime(2027, 1, 12, 11, 30, tzinfo=UTC)
    assert rack.walk("VALARM")


def test_a_units_paint_and_its_order(planner, school):
    add(planner, school, "value-scale")
    add(planner, school, "colour-wheel")
    plan_now(school)
    shown = planner.get(f"/classes/{school.class_id}/unit/paint").text
    assert "titanium white" in shown
    assert "hazelnut" in shown
    lines = planner.get(f"/classes/{school.class_id}/unit/order.csv").text.splitlines()
    assert lines[0] == "tube,needed_ml,ordered_ml,containers"
    rows = [line.split(",", 3) for line in lines[1:]]
    assert all(float(ordered) >= float(needed) for _, needed, ordered, _ in rows)
    amounts = [float(needed) for _, needed, _, _ in rows]
    assert amounts == sorted(amounts, reverse=True)


def test_a_holiday_has_no_lesson(planner, school):
    add(planner, school, "value-scale")
    plan_now(school)
    assert "2027-02-09" not in page(planner, school)


def test_a_missed_lesson_moves_what_was_in_it_and_undo_brings_it_back(planner, school):
    for kind in ("value-scale", "tint-ladder", "colour-wheel"):
        add(planner, school, kind)
    plan_now(school)
    before = kept(school)[1].times
    second = before["value-scale"][1]
    lesson = f"/classes/{school.class_id}/unit/lessons"
    assert planner.post(lesson, data={"at": second.isoformat()}).status_code == 303
    plan_now(school, (second - timedelta(days=1)).replace(tzinfo=UTC))
    after = kept(school)[1].times
    assert after["value-scale"][0] == before["value-scale"][0]
    assert all(second not in some for some in after.values())
    assert "isn’t held" in page(planner, school)
    assert "moved" in page(planner, school)
    assert planner.post(f"/classes/{school.class_id}/unit/undo").status_code == 303
    plan_now(school, (second - timedelta(days=1)).replace(tzinfo=UTC))
    assert kept(school)[1].times["value-scale"] == before["value-scale"]


def test_a_way_out_is_one_click(planner, school):
    planner.post("/school/days", data={**DAYS, "ends": "2027-01-27"})
    add(planner, school, "colour-wheel", redo="redo")
    plan_now(school)
    (unmet,) = kept(school)[1].unmet
    shown = page(planner, school)
    for way in unmet.ways:
        assert way.fact.words in shown
    number = next(n for n, way in enumerate(unmet.ways) if "later" in way.fact.words)
    taken = planner.post(
        f"/classes/{school.class_id}/unit/ways", data={"wish": unmet.wish, "way": number}
    )
    assert taken.status_code == 303
    plan_now(school)
    assert kept(school)[1].unmet == ()
    with school.sessions() as session:
        assert calendar_of_school(session, school.id).ends_on > datetime(2027, 1, 27).date()


def test_wishes_are_moved_pinned_and_left_out(planner, school):
    for kind in ("value-scale", "tint-ladder"):
        add(planner, school, kind)
    wish = f"/classes/{school.class_id}/unit/wishes/tint-ladder"
    planner.post(wish, data={"act": "up"})
    planner.post(wish, data={"act": "pin", "day": "2027-01-19"})
    plan_now(school)
    times = kept(school)[1].times
    assert times["tint-ladder"][0] == datetime(2027, 1, 19, 9, 40)
    assert times["value-scale"][0] >= times["tint-ladder"][0]
    planner.post(wish, data={"act": "leave-out"})
    plan_now(school)
    assert set(kept(school)[1].times) == {"value-scale"}


@pytest.mark.parametrize("name", ["six-weeks-acrylic", "first-term-gouache", "evening-watercolour"])
def test_each_ready_unit_fits_what_it_says(planner, school, name):
    planner.post(f"/classes/{school.class_id}/unit/timetable", data={"lessons": "Tue 9:40 100"})
    begun = planner.post(f"/classes/{school.class_id}/unit/ready", data={"unit": name})
    assert begun.status_code == 303
    plan_now(school)
    plan = kept(school)[1]
    assert plan.unmet == ()
    assert len(plan.times) >= 5


@pytest.mark.parametrize(
    ("path", "form", "words"),
    [
        ("timetable", {"lessons": "Someday 25:00 50"}, "is no lesson"),
        ("timetable", {"lessons": "Tue 9:40 5"}, "20 to 300 minutes"),
        ("wishes", {"kind": "nothing", "medium": "acrylic"}, "There is no exercise"),
        ("wishes/none", {"act": "pin", "day": "soon"}, "is no day"),
    ],
)
def test_what_cant_be_planned_is_said_and_changes_nothing(planner, school, path, form, words):
    add(planner, school, "value-scale")
    with school.sessions() as session:
        before = unit_of_class(session, school.class_id).frame
    answer = planner.post(f"/classes/{school.class_id}/unit/{path}", data=form)
    assert answer.status_code == 422
    assert words in answer.text
    with school.sessions() as session:
        assert unit_of_class(session, school.class_id).frame == before


def test_bad_days_are_said(planner):
    answer = planner.post("/school/days", data={**DAYS, "ends": "2026-01-01"})
    assert answer.status_code == 422
    assert "later one" in answer.text
    answer = planner.post("/school/days", data={**DAYS, "holidays": "2027-02-12 2027-02-08"})
    assert "ends before it begins" in answer.text


def test_pages_dont_load_the_solver():
    """It is large, and only the job needs it."""
    code = "import noema.web.application, sys; sys.exit('ortools' in sys.modules)"
    assert subprocess.run([sys.executable, "-c", code], check=False).returncode == 0
