"""The unit in time, as a teacher plans it: lessons, wishes, a missed lesson, ways out, undo."""

import re
import subprocess
import sys
from datetime import UTC, datetime, timedelta

import pytest
from icalendar import Calendar

from noema.store.units import calendar_of_school, unit_of_class
from tests.web.planning import DAYS, add, kept, page, plan_now


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
    assert lines[0] == "tube,medium,needed_ml,there_ml,ordered_ml,containers,order_by"
    rows = [line.split(",") for line in lines[1:]]
    assert all(float(row[4]) >= float(row[2]) for row in rows)
    amounts = [float(row[2]) for row in rows]
    assert amounts == sorted(amounts, reverse=True)


def test_a_lesson_goes_on_the_wall_part_by_part(planner, school):
    add(planner, school, "value-scale")
    plan_now(school)
    address = f"/classes/{school.class_id}/lessons/2027-01-12T0940/wall"
    said = []
    while address:
        shown = planner.get(address).text
        said.append(re.search(r"<h1>(.*?)</h1>", shown, re.DOTALL).group(1))
        following = re.search(r'data-key="ArrowRight n Enter" href="([^"]+)"', shown)
        address = following.group(1) if following else None
        if said[-1].startswith("Paint"):
            assert "until 10:09" in shown
            assert shown.count("<rect") == 9
            assert "<li>" in shown
    assert [words.split(":")[0].strip() for words in said] == [
        "Arrive and set up",
        "Show",
        "Paint",
        "Clean up",
    ]


def test_who_was_away_is_brought_back_in(planner, school):
    add(planner, school, "value-scale")
    add(planner, school, "tint-ladder")
    plan_now(school)
    student = school.sheets()[0].student_id
    first = f"/classes/{school.class_id}/lessons/2027-01-12T0940"
    name = school.sheets()[0].student
    done = planner.post(f"{first}/students/{student}", data={"mark": "away"})
    assert done.status_code == 303
    assert f"{name} <b>away</b>" in planner.get(first).text
    after = planner.get(f"/classes/{school.class_id}/lessons/2027-01-19T0940").text
    assert "Were away last time" in after
    assert f"<b>{name}</b>" in after
    assert "Three steps of one tube." in after
    planner.post(f"{first}/students/{student}", data={"mark": ""})
    assert "<b>away</b>" not in planner.get(first).text
    assert planner.post(f"{first}/students/{student}", data={"mark": "odd"}).status_code == 422


def test_a_unit_is_given_to_another_class(planner, school, other_school):
    add(planner, school, "value-scale", redo="redo")
    add(planner, school, "tint-ladder")
    made = planner.post(
        "/classes/new", data={"name": "Year 9", "starts_on": "2027-01-11", "weeks": "10"}
    )
    other = int(made.headers["Location"].rsplit("/", 1)[1])
    assert "as Year 8 has it" in planner.get(f"/classes/{other}/unit").text
    given = {"unit": f"class-{school.class_id}"}
    assert planner.post(f"/classes/{other}/unit/ready", data=given).status_code == 303
    with school.sessions() as session:
        own, theirs = (
            unit_of_class(session, number).frame["unit"] for number in (school.class_id, other)
        )
    assert own == theirs
    foreign = {"unit": f"class-{other_school.class_id}"}
    assert planner.post(f"/classes/{other}/unit/ready", data=foreign).status_code == 404


def test_a_private_calendar_opens_until_it_is_taken_back(app, planner, school):
    add(planner, school, "value-scale")
    plan_now(school)
    feed = f"/classes/{school.class_id}/unit/feed"
    address = re.search(r"(/calendars/[\w-]+\.ics)", planner.post(feed).text).group(1)
    visitor = app.test_client()
    found = visitor.get(address)
    assert found.mimetype == "text/calendar"
    assert b"Value scale" in found.data
    assert visitor.get(address.replace("/calendars/", "/calendars/x")).status_code == 404
    again = re.search(r"(/calendars/[\w-]+\.ics)", planner.post(feed).text).group(1)
    assert visitor.get(address).status_code == 404
    assert planner.post(f"{feed}/end").status_code == 303
    assert visitor.get(again).status_code == 404


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


def test_a_set_that_isnt_there_is_refused_though_its_exercise_is_known(planner, school):
    add(planner, school, "value-scale")
    answer = add(planner, school, "value-scale", set="987654")
    assert answer.status_code == 404
    with school.sessions() as session:
        assert len(unit_of_class(session, school.class_id).frame["unit"]) == 1


def test_bad_days_are_said(planner):
    answer = planner.post("/school/days", data={**DAYS, "ends": "2026-01-01"})
    assert answer.status_code == 422
    assert "later one" in answer.text
    answer = planner.post("/school/days", data={**DAYS, "holidays": "2027-02-12 2027-02-08"})
    assert "ends before it begins" in answer.text


def test_pages_dont_load_the_solver():
    """It is large, and only the job needs it."""
    code = "import noema.assemble_pages, sys; sys.exit('ortools' in sys.modules)"
    assert subprocess.run([sys.executable, "-c", code], check=False).returncode == 0
