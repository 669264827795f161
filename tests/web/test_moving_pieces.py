"""What is painted in a lesson is moved, pinned and split; a unit's choices, tests, kept units."""

from datetime import UTC, datetime, timedelta

import pytest

from noema.store.units import unit_of_class
from tests.web.planning import DAYS, add, kept, page, plan_now

WHEEL = "colour-wheel"


def act(client, school, wish, number, act, **rest):
    form = {"wish": wish, "number": number, "act": act, **rest}
    return client.post(f"/classes/{school.class_id}/unit/pieces", data=form)


def times(school, wish):
    return kept(school)[1].times[wish]


def test_a_piece_is_moved_to_the_next_lesson_and_stays_there(planner, school):
    add(planner, school, "value-scale")
    plan_now(school)
    first = times(school, "value-scale")[0]
    assert act(planner, school, "value-scale", 0, "later").status_code == 303
    plan_now(school)
    assert times(school, "value-scale")[0] == first + timedelta(weeks=1)
    assert "pinned" in page(planner, school)
    assert act(planner, school, "value-scale", 0, "pin").status_code == 303
    plan_now(school)
    with school.sessions() as session:
        (wish,) = unit_of_class(session, school.class_id).frame["unit"]
    assert "pinned" not in wish or wish["pinned"] is None


def test_a_piece_goes_to_a_lesson_of_the_drawing_and_no_other(planner, school):
    add(planner, school, "value-scale")
    plan_now(school)
    to = datetime(2027, 2, 2, 9, 40).isoformat()
    assert act(planner, school, "value-scale", 0, "move", to=to).status_code == 303
    plan_now(school)
    assert times(school, "value-scale")[0].isoformat() == to
    nowhere = act(planner, school, "value-scale", 0, "move", to="2027-02-03T09:40")
    assert nowhere.status_code == 422
    assert "lesson to come" in nowhere.text
    assert act(planner, school, "value-scale", 99, "later").status_code == 404
    assert act(planner, school, "nothing", 0, "later").status_code == 404
    assert act(planner, school, "value-scale", 0, "dance").status_code == 404


def test_a_piece_stays_behind_what_is_painted_before_it(planner, school):
    add(planner, school, WHEEL)
    planner.post(f"/classes/{school.class_id}/unit/wishes/{WHEEL}/choices",
                 data={"set": "split-six+black", "medium": "acrylic", "goes": "3"})  # fmt: skip
    plan_now(school)
    before = times(school, WHEEL)
    assert len(before) == 4  # three goes and the photograph
    refused = act(planner, school, WHEEL, 1, "move", to="2027-01-01T09:40")
    assert refused.status_code == 422
    later = (before[0] + timedelta(weeks=2)).isoformat()
    assert act(planner, school, WHEEL, 2, "move", to=later).status_code == 303
    plan_now(school)
    after = times(school, WHEEL)
    assert after[2].isoformat() == later
    assert after[0] == before[0]


def test_a_wheel_is_split_and_a_row_isnt(planner, school):
    planner.post(f"/classes/{school.class_id}/unit/timetable", data={"lessons": "Tue 9:40 100"})
    add(planner, school, WHEEL)
    add(planner, school, "value-scale")
    plan_now(school)
    whole = times(school, WHEEL)
    assert len(set(whole[:-1])) == 1
    assert act(planner, school, WHEEL, 0, "split").status_code == 303
    plan_now(school)
    cut = times(school, WHEEL)
    assert cut[1] == cut[0] + timedelta(weeks=1)
    row = act(planner, school, "value-scale", 0, "split")
    if len(times(school, "value-scale")) == 2:  # one row and its photograph
        assert row.status_code == 422
        assert "in one go" in row.text


def test_a_pin_that_finds_no_place_says_so_and_is_let_go_by_one_click(planner, school):
    for kind in ("value-scale", "tint-ladder"):
        add(planner, school, kind)
    wish = f"/classes/{school.class_id}/unit/wishes/tint-ladder"
    planner.post(wish, data={"act": "pin", "day": "2027-01-13"})  # a Wednesday
    plan_now(school)
    (unmet,) = kept(school)[1].unmet
    assert "pinned to a day" in unmet.lack.words
    assert unmet.ways[0].fact.words == "unpin it"
    way = {"wish": unmet.wish, "way": 0}
    planner.post(f"/classes/{school.class_id}/unit/ways", data=way)
    plan_now(school)
    assert kept(school)[1].unmet == ()


def test_nothing_past_is_moved(planner, school):
    planner.post("/school/days", data={**DAYS, "begins": "2026-01-12", "ends": "2026-03-20"})
    add(planner, school, "value-scale")
    plan_now(school)
    assert times(school, "value-scale")[0] < datetime.now(UTC).replace(tzinfo=None)
    refused = act(planner, school, "value-scale", 0, "later")
    assert refused.status_code == 422
    assert "past" in refused.text
    assert 'class="piece"' not in page(planner, school)


def test_choices_of_an_exercise_are_kept_and_planned(planner, school):
    add(planner, school, WHEEL)
    add(planner, school, "value-scale")
    address = f"/classes/{school.class_id}/unit/wishes/value-scale"
    assert "Steps" in planner.get(address).text
    form = {"set": "split-six+black", "medium": "gouache", "steps": "5", "redo": "redo",
            "goes": "1", "pinned": "2027-01-19", "after": []}  # fmt: skip
    assert planner.post(f"{address}/choices", data=form).status_code == 303
    plan_now(school)
    plan = kept(school)[1]
    assert "5 steps" in plan.works["value-scale"].title
    assert plan.times["value-scale"][0] == datetime(2027, 1, 19, 9, 40)
    with school.sessions() as session:
        wish = unit_of_class(session, school.class_id).frame["unit"][1]
    assert (wish["options"], wish["medium"], wish["redo"]) == ({"steps": 5}, "gouache", True)
    assert not wish.get("after")
    odd = planner.post(f"{address}/choices", data={**form, "pinned": "soon"})
    assert odd.status_code == 422
    assert "is no day" in odd.text
    assert planner.get(address.replace("value-scale", "nothing")).status_code == 404


def test_assigning_from_a_unit_takes_its_choices_and_is_shown(planner, school):
    add(planner, school, "value-scale")
    wish = f"/classes/{school.class_id}/unit/wishes/value-scale/choices"
    planner.post(wish, data={"set": "split-six+black", "medium": "acrylic", "steps": "7"})
    plan_now(school)
    shown = page(planner, school)
    query = shown.split("/assign?", 1)[1].split('"', 1)[0].replace("&amp;", "&")
    assert "steps=7" in query
    form = planner.get(f"/classes/{school.class_id}/assign?{query}").text
    assert 'name="wish" value="value-scale"' in form
    assert '<option value="split-six+black" selected>' in form
    assert '<option value="7" selected>' in form
    sent = {"kind": "value-scale", "steps": "7", "set": "split-six+black", "medium": "acrylic",
            "wish": "value-scale", "due_week": "3"}  # fmt: skip
    assert planner.post(f"/classes/{school.class_id}/assign", data=sent).status_code == 302
    assert ">assigned</a>" in page(planner, school)


def test_a_week_is_kept_for_a_test(planner, school):
    add(planner, school, "value-scale")
    address = f"/classes/{school.class_id}/unit/tests"
    assert planner.post(address, data={"day": "2027-01-14", "do": "keep"}).status_code == 303
    plan_now(school)
    assert times(school, "value-scale")[0] == datetime(2027, 1, 19, 9, 40)
    assert ">test</text>" in page(planner, school)
    planner.post(address, data={"day": "2027-01-11", "do": "paint"})
    plan_now(school)
    assert planner.post(address, data={"day": "soon", "do": "keep"}).status_code == 422
    assert ">test</text>" not in page(planner, school)


def test_a_lesson_besides_is_used(planner, school):
    add(planner, school, "value-scale")
    planner.post(f"/classes/{school.class_id}/unit/tests", data={"day": "2027-01-19", "do": "keep"})
    besides = f"/classes/{school.class_id}/unit/besides"
    at = {"at": "2027-01-13T14:00", "minutes": "60"}
    assert planner.post(besides, data=at).status_code == 303
    plan_now(school)
    assert datetime(2027, 1, 13, 14, 0) in times(school, "value-scale")
    assert planner.post(besides, data={**at, "minutes": "5"}).status_code == 422
    assert planner.post(besides, data={"at": "soon", "minutes": "50"}).status_code == 422


def test_a_kept_unit_is_given_to_another_class_without_its_days(planner, school, other_school, app):
    add(planner, school, "value-scale", redo="redo")
    wish = f"/classes/{school.class_id}/unit/wishes/value-scale"
    planner.post(wish, data={"act": "pin", "day": "2027-01-19"})
    patterns = f"/classes/{school.class_id}/unit/patterns"
    assert planner.post(patterns, data={"name": "Our first weeks"}).status_code == 303
    assert planner.post(patterns, data={"name": ""}).status_code == 422
    made = planner.post(
        "/classes/new", data={"name": "Year 9", "starts_on": "2027-01-11", "weeks": "10"}
    )
    other = int(made.headers["Location"].rsplit("/", 1)[1])
    shown = planner.get(f"/classes/{other}/unit").text
    assert "Our first weeks" in shown
    number = shown.split('value="kept-', 1)[1].split('"', 1)[0]
    ready = f"/classes/{other}/unit/ready"
    assert planner.post(ready, data={"unit": f"kept-{number}"}).status_code == 303
    with school.sessions() as session:
        (given,) = unit_of_class(session, other).frame["unit"]
    assert given["redo"]
    assert given.get("pinned") is None
    stranger = other_school.teacher(app)
    theirs = f"/classes/{other_school.class_id}/unit"
    assert stranger.post(f"{theirs}/ready", data={"unit": f"kept-{number}"}).status_code == 404
    assert stranger.post(f"{theirs}/patterns/{number}/forget").status_code == 404
    assert planner.post(f"{patterns}/{number}/forget").status_code == 303
    assert "Our first weeks" not in planner.get(f"/classes/{other}/unit").text


def test_the_order_of_the_craft_is_one_click(planner, school):
    for kind in ("mixed-darks", WHEEL):
        add(planner, school, kind)
    assert planner.post(f"/classes/{school.class_id}/unit/order").status_code == 303
    with school.sessions() as session:
        unit = unit_of_class(session, school.class_id).frame["unit"]
    assert [one["kind"] for one in unit] == [WHEEL, "mixed-darks"]


@pytest.mark.parametrize("gone", ["before", "after"])
def test_a_set_taken_off_the_shelf_doesnt_stop_the_plan(planner, school, gone):
    ref = school.puts_together("Ours", "rose", "cyan", "lemon-yellow", "titanium-white")
    add(planner, school, "tint-ladder", set=ref)
    add(planner, school, "value-scale")
    if gone == "after":
        plan_now(school)
    assert planner.post(f"/paints/sets/{ref}/remove").status_code in (302, 303)
    plan_now(school)
    row, plan = kept(school)
    assert row.is_planned
    if gone == "after":
        assert "tint-ladder" in plan.times
    else:
        (unmet,) = plan.unmet
        assert "choose its paints again" in unmet.lack.words
        assert "value-scale" in plan.times
    shown = page(planner, school)
    assert "being planned" not in shown
    at = plan.times["value-scale"][0]
    lesson = f"/classes/{school.class_id}/lessons/{at:%Y-%m-%dT%H%M}"
    assert planner.get(lesson).status_code == 200
    assert planner.get(f"/classes/{school.class_id}/unit/wishes/tint-ladder").status_code == 200
