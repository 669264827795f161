"""The bench by touch on a phone, by keys alone at a desk, and as a screen reader hears it."""

import re

import pytest
from playwright.sync_api import expect

from noema.store.bench import practices_of_student
from noema.store.eye import all_series_of_student
from tests.road.browser import fits, grave_faults, hold_out_card, log_in, tapped
from tests.trade import found_school


@pytest.fixture
def school(sessions, files):
    return found_school(sessions, files)


def goes(school):
    with school.sessions() as session:
        return practices_of_student(session, school.sheets()[0].student_id)


def answered(page, act):
    with page.expect_response(lambda answer: answer.url.endswith("/do")) as answer:
        act()
    assert answer.value.ok
    expect(page.locator(".htmx-request, .htmx-settling")).to_have_count(0)


def test_a_student_mixes_by_touch(phone, school):
    hold_out_card(phone, school)
    tapped(phone, phone.get_by_role("link", name="Practise mixing"))
    expect(phone.get_by_role("heading", name="The bench")).to_be_visible()
    assert fits(phone)
    assert grave_faults(phone) == []
    tapped(phone, phone.get_by_role("button", name="A dark without black"))
    expect(phone.locator("#bench")).to_be_visible()
    tapped(phone, phone.locator("label", has_text="ultramarine"))
    tapped(phone, phone.locator("label", has_text="a pea"))
    bring = phone.locator("button.button", has_text="Bring it in")
    answered(phone, lambda: tapped(phone, bring))
    expect(phone.locator("svg.palette polygon")).to_have_count(1)
    nearer = phone.get_by_role("button", name="Am I nearer?")
    answered(phone, lambda: tapped(phone, nearer))
    expect(phone.locator(".bench-says")).to_contain_text("first touch")
    assert fits(phone)
    assert grave_faults(phone) == []
    tapped(phone, phone.get_by_role("button", name="Finish and see how it went"))
    expect(phone.get_by_role("heading", name="A practised hand")).to_be_visible()
    assert fits(phone)
    assert grave_faults(phone) == []
    assert goes(school)[0].touches == 1


def test_a_series_is_answered_by_touch(phone, school):
    hold_out_card(phone, school)
    tapped(phone, phone.get_by_role("link", name="Train your eye"))
    expect(phone.get_by_role("heading", name="How I see")).to_be_visible()
    assert fits(phone)
    tapped(phone, phone.get_by_role("button", name="Even rows"))
    expect(phone.get_by_role("heading", name="Your screen first")).to_be_visible()
    assert grave_faults(phone) == []
    for name in ("dark", "light"):
        phone.locator(f"input[name={name}][value='5']").check()
    phone.get_by_label("no", exact=True).check()
    tapped(phone, phone.get_by_role("button", name="Begin"))
    expect(phone.get_by_text("1 of 16")).to_be_visible()
    assert fits(phone)
    assert grave_faults(phone) == []
    tapped(phone, phone.get_by_role("button", name="1 and 2"))
    expect(phone.get_by_text("2 of 16")).to_be_visible()
    tapped(phone, phone.get_by_role("button", name="2", exact=True))
    expect(phone.get_by_text("3 of 16")).to_be_visible()
    with school.sessions() as session:
        (series,) = all_series_of_student(session, school.sheets()[0].student_id)
    assert len(series.asked) == 3


def test_a_logbook_is_pointed_at_by_touch(phone, school):
    hold_out_card(phone, school)
    tapped(phone, phone.get_by_role("link", name="My logbook"))
    expect(phone.get_by_role("heading", name="My logbook")).to_be_visible()
    assert fits(phone)
    assert grave_faults(phone) == []
    tapped(phone, phone.get_by_role("link", name="red (5.0R), value 6, chroma 10"))
    expect(phone.get_by_text("With these tubes now:")).to_be_visible()
    assert grave_faults(phone) == []


def test_a_teacher_shows_by_keys_alone_and_hears_every_colour(page, school):
    log_in(page, school)
    page.goto(f"/classes/{school.class_id}/bench")
    assert grave_faults(page) == []
    violet = page.get_by_role("button", name="The cleanest violet")
    violet.focus()
    with page.expect_navigation():
        page.keyboard.press("Enter")
    for key in ("5", "p", "Enter", "w", "4", "Enter"):  # a pea of ultramarine, then one of rose
        page.keyboard.press(key)  # faster than answers come: each means what is shown by then
    expect(page.get_by_text("pile a 0.94 ml")).to_be_visible()
    answered(page, lambda: page.keyboard.press("y"))
    expect(page.locator(".bench-says")).to_contain_text("Look at the")
    # What a screen reader is given: the palette, what can be taken, and colours once asked for.
    tree = page.locator("main").aria_snapshot()
    assert "A palette: pile a: " in tree
    assert 'radio "ultramarine' in tree
    assert 'group "How much"' in tree
    assert "once dry" not in tree
    page.keyboard.press("k")
    expect(page.get_by_text("Pile a, once dry:")).to_be_visible()
    assert re.search(r"violet.*: \d\.\dP \d\.\d/\d", page.locator("main").aria_snapshot())
    page.keyboard.press("v")
    expect(page.locator("#bench.view-greyscale")).to_be_visible()
    answered(page, lambda: page.keyboard.press("u"))
    assert grave_faults(page) == []
