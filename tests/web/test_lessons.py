"""A lesson's list, the paint it used, who was away and when theirs is due, calendars, Today."""

import re
from dataclasses import replace
from datetime import UTC, date, datetime, timedelta
from io import BytesIO

from icalendar import Calendar, Event

from bench.full_class import fill_class
from noema.store.assignments import given_wishes
from noema.store.cupboard import lesson_paint_of_class
from noema.store.units import calendar_of_school, unit_of_class
from tests.web.planning import DAYS, ROOM, add, kept, page, plan_now

FIRST = "2027-01-12T0940"


def lesson(school, rest="", at=FIRST):
    return f"/classes/{school.class_id}/lessons/{at}{rest}"


def said(answer):
    return re.sub(r"\s+", " ", answer.text)


def planned(planner, school, *kinds, **days):
    if days:
        planner.post("/school/days", data={**DAYS, **days})
    for kind in kinds:
        add(planner, school, kind)
    plan_now(school)


def assigned(planner, school, wish="value-scale"):
    """The unit's exercise is given to the class; gives the assignment's number."""
    form = {"kind": wish, "set": "split-six+black", "medium": "acrylic", "wish": wish,
            "due_week": "2"}  # fmt: skip
    assert planner.post(f"/classes/{school.class_id}/assign", data=form).status_code == 302
    with school.sessions() as session:
        return given_wishes(session, (school.class_id,))[school.class_id, wish].assignment_id


def test_things_are_ticked_added_and_left_out(planner, school):
    planned(planner, school, "colour-wheel")
    address = lesson(school, "/lay-out")
    shown = said(planner.get(address))
    assert "0 of" in shown
    assert "two jars of water" in shown
    assert "On each of 1 tables" in shown

    def change(act, thing, **rest):
        return planner.post(address, data={"act": act, "thing": thing, **rest})

    assert change("done", "water").status_code == 303
    assert change("add", "aprons", always="always").status_code == 303
    assert change("leave-out", "cards").status_code == 303
    shown = said(planner.get(address))
    assert 'aria-pressed="true">two jars of water' in shown
    assert "aprons" in shown
    assert "the students’ cards" not in shown
    assert "1 of" in shown
    other = said(planner.get(lesson(school, "/lay-out", "2027-01-19T0940")))
    if "Once" in other:  # what is added for every lesson is there, ticks and what's left out aren't
        assert "aprons" in other
        assert 'aria-pressed="true"' not in other
    assert change("not-done", "water").status_code == 303
    assert change("usual", "").status_code == 303
    shown = said(planner.get(address))
    assert 'aria-pressed="true"' not in shown
    assert "the students’ cards" in shown
    refused = change("add", "x" * 81)
    assert refused.status_code == 422
    assert "1 to 80 characters" in said(refused)
    assert change("juggle", "water").status_code == 404
    assert "aprons" in said(planner.get(lesson(school)))


def test_paint_really_used_moves_the_amounts_of_the_class(planner, school):
    planned(planner, school, "value-scale", begins="2026-01-12", ends="2026-03-20")
    at = "2026-01-13T0940"
    before = said(planner.get(f"/classes/{school.class_id}/unit/paint"))
    with school.sessions() as session:
        assert lesson_paint_of_class(session, school.class_id) == ()
    plan_now(school, datetime(2026, 3, 1, tzinfo=UTC))  # what is past is kept
    with school.sessions() as session:
        rows = {row.tube: row for row in lesson_paint_of_class(session, school.class_id)}
    white = rows["titanium-white"]
    assert white.used_ml is None
    field = "used titanium-white acrylic"
    sent = planner.post(lesson(school, "/paint", at), data={field: f"{2 * white.expected_ml:.1f}"})
    assert sent.status_code == 303
    assert (
        f'value="{2 * white.expected_ml:.1f}'.rstrip("0") in planner.get(lesson(school, at=at)).text
    )
    after = said(planner.get(f"/classes/{school.class_id}/unit/paint"))
    assert after != before
    assert re.search(r"Learned from 1 amount .*: \d+ in 100 more than usual", after)
    for wrong in ({field: "much"}, {field: "-1"}):
        assert planner.post(lesson(school, "/paint", at), data=wrong).status_code == 422
    assert planner.post(lesson(school, "/paint", at), data={}).status_code == 404
    odd = {"used snake-oil acrylic": "3"}
    assert planner.post(lesson(school, "/paint", at), data=odd).status_code == 404


def test_a_cupboard_is_filled_taken_down_and_counted(planner, school):
    planned(planner, school, "value-scale")
    put = {"tube": "titanium-white", "medium": "acrylic", "size": "75", "count": "2"}
    assert planner.post("/school/cupboard", data=put).status_code == 303
    shown = said(planner.get("/school/cupboard"))
    assert "2 tubes and bottles" in shown
    assert '<td class="number">150</td>' in shown
    number = re.search(r"/school/cupboard/(\d+)\"", shown).group(1)
    assert planner.post(f"/school/cupboard/{number}", data={"left": "20"}).status_code == 303
    assert '<td class="number">95</td>' in said(planner.get("/school/cupboard"))
    assert planner.post(f"/school/cupboard/{number}", data={"left": "90"}).status_code == 422
    assert planner.post("/school/cupboard/lead", data={"days": "10"}).status_code == 303
    assert planner.post("/school/cupboard/lead", data={"days": "1000"}).status_code == 422
    assert planner.post(f"/school/cupboard/{number}/gone").status_code == 303
    assert '<td class="number">75</td>' in said(planner.get("/school/cupboard"))
    for wrong in ({"count": "0"}, {"size": "-5"}, {"count": "900"}):
        assert planner.post("/school/cupboard", data={**put, **wrong}).status_code == 422
    assert planner.post("/school/cupboard", data={**put, "tube": "snake-oil"}).status_code == 404


def test_what_runs_out_is_ordered_in_time(planner, school):
    planned(planner, school, "tint-ladder", "value-scale")
    put = {"tube": "titanium-white", "medium": "acrylic", "size": "1", "count": "1"}
    planner.post("/school/cupboard", data=put)
    planner.post("/school/cupboard/lead", data={"days": "7"})
    shown = said(planner.get("/school/cupboard"))
    assert "runs out on 12 January 2027, with Year 8" in shown
    assert "5 January 2027" in shown
    lines = planner.get("/school/cupboard/order.csv").text.splitlines()
    white = next(line.split(",") for line in lines if line.startswith("titanium white"))
    assert float(white[4]) + float(white[3]) >= float(white[2])
    assert white[6] == "2027-01-05"
    assert planner.get("/school/cupboard/order.pdf").data.startswith(b"%PDF")


def test_a_neighbour_stands_in(planner, school):
    planned(planner, school, "colour-wheel")
    nothing = said(planner.get("/school/cupboard/instead/acrylic/rose"))
    assert "No other tube" in nothing
    for tube in ("magenta", "yellow-ochre"):
        put = {"tube": tube, "medium": "acrylic", "size": "75", "count": "1"}
        planner.post("/school/cupboard", data=put)
    shown = said(planner.get("/school/cupboard/instead/acrylic/rose"))
    assert re.search(r"magenta: \d+ of \d+ mixes come out nearly the same", shown)
    assert "yellow ochre" not in shown
    assert planner.get("/school/cupboard/instead/pencil/rose").status_code == 404


def test_who_was_away_has_longer(app, planner, school):
    planned(planner, school, "value-scale")
    assigned(planner, school)
    due = kept(school)[1].times["value-scale"]
    student = school.sheets()[0]
    phone = school.student(app, student.student_id)
    photographed = due[-1].date()
    assert f"due on {photographed.day} January 2027" in said(phone.get("/me"))
    planner.post(lesson(school, f"/students/{student.student_id}"), data={"mark": "away"})
    later = photographed + timedelta(weeks=1)
    assert f"due on {later.day} " in said(phone.get("/me"))
    after = said(planner.get(lesson(school, at="2027-01-19T0940")))
    assert f"hands in on {later.day} " in after
    other = school.student(app, school.sheets()[1].student_id)
    assert f"due on {photographed.day} January 2027" in said(other.get("/me"))


def test_hand_ins_tell_the_pace_where_nobody_said_it(planner, school):
    long_ago = {"begins": "2026-01-12", "ends": "2026-03-20"}
    planned(planner, school, "value-scale", **long_ago)
    number = assigned(planner, school)
    planner.post(f"/assignments/{number}/sheets")
    assert kept(school)[1].works["value-scale"].pace == 1.0
    own = replace(school, assignment_id=number)
    sheets = own.sheets()
    for sheet in sheets[:2]:
        own.hands_in(own.photo_of(sheet))
    plan_now(school, datetime(2026, 3, 1, tzinfo=UTC))
    late = kept(school)[1].works["value-scale"].pace
    assert 1.05 < late < 1.5  # all were handed in long after the lesson


def calendar(*events):
    found = Calendar()
    found.add("prodid", "-//x//x//EN")
    found.add("version", "2.0")
    for number, fields in enumerate(events):
        event = Event()
        for name, value in {"uid": str(number), **fields}.items():
            event.add(name, value)
        found.add_component(event)
    return found.to_ical()


def sent(planner, address, content, **rest):
    form = {"calendar": (BytesIO(content), "school.ics"), **rest}
    return planner.post(address, data=form, content_type="multipart/form-data")


def test_lessons_come_in_from_a_calendar(planner, school):
    at = datetime(2027, 1, 13, 11, 0)
    weekly = {"summary": "Year 8 Art", "dtstart": at, "duration": timedelta(minutes=75),
              "rrule": {"freq": "weekly", "count": 8}}  # fmt: skip
    other = {**weekly, "summary": "9B Maths", "dtstart": at + timedelta(days=1)}
    address = f"/classes/{school.class_id}/unit/lessons.ics"
    assert sent(planner, address, calendar(weekly, other), named="year 8").status_code == 303
    with school.sessions() as session:
        frame = unit_of_class(session, school.class_id).frame
    assert frame["lessons"] == [{"day": "wed", "start": "11:00", "minutes": 75}]
    refused = sent(planner, address, calendar(weekly, other), named="Year 7")
    assert refused.status_code == 422
    assert "9B Maths, Year 8 Art" in said(refused)
    assert sent(planner, address, b"no calendar", named="").status_code == 422


def test_holidays_come_in_and_all_go_out_again(app, planner, school):
    off = {"summary": "Spring days", "dtstart": date(2027, 3, 1), "dtend": date(2027, 3, 3)}
    assert sent(planner, "/school/holidays.ics", calendar(off)).status_code == 303
    with school.sessions() as session:
        holidays = calendar_of_school(session, school.id).holidays
    assert {"first": "2027-03-01", "last": "2027-03-02", "name": "Spring days"} in holidays
    assert len(holidays) == 2
    lesson_only = {**off, "dtstart": datetime(2027, 3, 1, 9), "dtend": datetime(2027, 3, 1, 10)}
    assert sent(planner, "/school/holidays.ics", calendar(lesson_only)).status_code == 422
    planned(planner, school, "value-scale")
    out = Calendar.from_ical(planner.get("/school/lessons.ics").data).walk("VEVENT")
    assert "Spring days" in {str(one["summary"]) for one in out}
    address = re.search(r"(/calendars/[\w-]+\.ics)", planner.post("/school/feed").text).group(1)
    visitor = app.test_client()
    assert b"Value scale" in visitor.get(address).data
    assert planner.post("/school/feed/end").status_code == 303
    assert visitor.get(address).status_code == 404


def test_rooms_periods_and_clashes(planner, school):
    made = planner.post(
        "/classes/new", data={"name": "Year 9", "starts_on": "2027-01-11", "weeks": "10"}
    )
    other = int(made.headers["Location"].rsplit("/", 1)[1])
    rooms = {name: [value, value] for name, value in ROOM.items()} | {"room": ["12", "14"]}
    days = {**DAYS, **rooms, "periods": "2 09:40 10:30\n3 11:00 11:50"}
    assert planner.post("/school/days", data=days).status_code == 303
    shown = said(planner.get("/school"))
    assert 'value="14"' in shown
    assert "2 09:40 10:30" in shown
    unit = f"/classes/{other}/unit"
    assert planner.post(f"{unit}/timetable", data={"lessons": "tue 2"}).status_code == 303
    assert "Year 8 has a lesson in the same room on Tuesday" in said(planner.get(unit))
    planner.post(f"{unit}/timetable", data={"lessons": "tue 2", "room": "14"})
    assert "in the same room" not in said(planner.get(unit))
    odd = planner.post("/school/days", data={**DAYS, "rack": "many"})
    assert odd.status_code == 422
    assert "whole number" in said(odd)
    assert planner.post("/school/days", data={**DAYS, "periods": "lunch"}).status_code == 422


def test_planning_of_a_school_says_how_far_it_is(planner, school):
    add(planner, school, "value-scale")
    assert "0 of 1 are done" in said(planner.get("/school/planned"))
    plan_now(school)
    assert "All units are planned" in said(planner.get("/school/planned"))


def test_today_says_what_the_next_lesson_needs(planner, school):
    begins = datetime.now(UTC).date()
    planned(planner, school, "value-scale", begins=begins.isoformat(),
            ends=(begins + timedelta(weeks=9)).isoformat())  # fmt: skip
    shown = said(planner.get("/"))
    assert "assign and print Value scale" in shown
    assert "3 of 50 places on the rack" in shown
    assigned(planner, school)
    shown = said(planner.get("/"))
    assert "assign and print" not in shown
    assert "print Value scale" in shown
    first = kept(school)[1].times["value-scale"][0]
    address = lesson(school, "/lay-out", f"{first:%Y-%m-%dT%H%M}")
    planner.post(address, data={"act": "done", "thing": "water"})
    assert "Lay out (1 done)" in said(planner.get("/"))
    assert page(planner, school)


def test_a_mistake_this_school_made_is_expected(planner, school):
    """Most of a class painted it too light or too dark: that is said, not the usual mistake."""
    planned(planner, school, "value-scale")
    usual = said(planner.get(lesson(school)))
    assert "seen in" not in usual
    fill_class(school.sessions, school.id, school.teacher_id, students=9, assignments=1)
    seen = said(planner.get(lesson(school)))
    assert "seen in" in seen
    assert re.search(r"\d+ of 9", seen)
