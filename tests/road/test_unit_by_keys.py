"""A teacher plans a unit, moves a piece, loses a lesson, lays out and orders, by keys alone."""

import re
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from playwright.sync_api import Page, expect

from noema.actions.change_unit import change_unit, keep_days
from noema.actions.plan_unit import plan_unit
from noema.core.planning.ready import READY
from noema.core.planning.timetable import weekly_of
from noema.store.units import CalendarRow
from tests.road.browser import grave_faults, log_in
from tests.trade import found_school

_PLANNED_MS = 30_000


@pytest.fixture
def planner(page: Page, sessions, files):
    school = found_school(sessions, files)
    log_in(page, school)
    return page, school


def press_on(page: Page, locator) -> None:
    """Press Enter on something."""
    locator.focus()
    page.keyboard.press("Enter")


def go_on(page: Page, locator) -> None:
    """Press Enter on something that leads to another page."""
    with page.expect_navigation():
        press_on(page, locator)


def written(page: Page, label: str, words: str) -> None:
    page.get_by_label(label).first.focus()
    page.keyboard.press("Control+A")
    page.keyboard.type(words)


def wait_until_planned(page: Page) -> None:
    expect(page.locator("#planned")).not_to_contain_text("being planned", timeout=_PLANNED_MS)


def test_a_unit_is_planned_by_keys_alone(planner):
    page, school = planner
    begins = (datetime.now(UTC) + timedelta(days=7)).date()
    page.goto(f"/classes/{school.class_id}/unit")
    go_on(page, page.get_by_role("link", name="Term, holidays, periods and rooms"))
    page.get_by_label("From", exact=True).fill(begins.isoformat())
    page.get_by_label("to", exact=True).fill((begins + timedelta(weeks=9)).isoformat())
    go_on(page, page.get_by_role("button", name="Keep the days"))
    page.goto(f"/classes/{school.class_id}/unit")
    written(page, "A line each", "tue 9:40 50\nthu 11:00 50")
    go_on(page, page.get_by_role("button", name="Keep the lessons"))
    page.get_by_label("Ready unit").focus()
    page.keyboard.type("Six")
    go_on(page, page.get_by_role("button", name="Start from it"))
    wait_until_planned(page)
    columns = page.locator("svg.minutes a")
    assert columns.count() >= 17
    expect(page.get_by_text("no place yet")).to_have_count(0)
    assert grave_faults(page) == []

    press_on(page, page.get_by_text("A lesson is missed, or held besides"))
    go_on(page, page.get_by_role("button", name="It isn’t held"))
    wait_until_planned(page)
    expect(page.get_by_text("moved").first).to_be_visible()
    press_on(page, page.get_by_text("A lesson is missed, or held besides"))
    expect(page.get_by_text("isn’t held", exact=False).last).to_be_visible()

    go_on(page, columns.first)
    expect(page.get_by_role("heading", name="By the clock")).to_be_visible()
    assert grave_faults(page) == []
    paper = page.get_by_role("link", name="On paper").get_attribute("href")
    assert re.search(r"\.pdf$", paper or "")
    answer = page.request.get(f"{page.url}.pdf")
    assert answer.ok
    assert answer.body().startswith(b"%PDF")
    go_on(page, page.get_by_role("link", name="After"))
    expect(page.get_by_role("link", name="Before")).to_be_visible()
    lay_out_by_keys(page)
    order_by_keys(page)


def lay_out_by_keys(page: Page) -> None:
    press_on_key(page, "l")
    expect(page.get_by_text("0 of")).to_be_visible()
    assert grave_faults(page) == []
    go_on(page, page.get_by_role("button", name="two jars of water"))
    expect(page.get_by_role("button", name="two jars of water")).to_have_attribute(
        "aria-pressed", "true"
    )
    written(page, "Also", "aprons")
    go_on(page, page.get_by_role("button", name="Add it"))
    expect(page.get_by_role("button", name="aprons")).to_be_visible()


def order_by_keys(page: Page) -> None:
    page.goto("/plan")
    go_on(page, page.get_by_role("link", name="Cupboard"))
    expect(page.get_by_text("runs out on").first).to_be_visible()
    assert grave_faults(page) == []
    page.locator("select[name=tube]").focus()
    page.keyboard.type("titanium")
    written(page, "of so many ml", "1000")
    go_on(page, page.get_by_role("button", name="Put them in"))
    expect(page.get_by_text("1 tube or bottle")).to_be_visible()
    order = page.request.get("/school/cupboard/order.pdf")
    assert order.body().startswith(b"%PDF")
    assert "lemon yellow" in page.request.get("/school/cupboard/order.csv").text()


def press_on_key(page: Page, key: str) -> None:
    """Press a key that leads to another page."""
    with page.expect_navigation():
        page.keyboard.press(key)


@pytest.fixture
def drawn(planner):
    """A planned unit of two lessons a week, drawn."""
    page, school = planner
    begins = (datetime.now(UTC) + timedelta(days=7)).date()
    calendar = CalendarRow(
        begins_on=begins, ends_on=begins + timedelta(weeks=8), holidays=(), rooms=()
    )
    lessons = weekly_of("tue 9:40 50\nthu 11:00 50")
    with school.sessions.begin() as session:
        keep_days(session, school.id, calendar)
        change_unit(
            session,
            school.id,
            school.class_id,
            lambda one: replace(one, lessons=lessons, unit=READY["six-weeks-acrylic"].wishes),
        )
        plan_unit(session, school.class_id, datetime.now(UTC))
    page.goto(f"/classes/{school.class_id}/unit")
    return page, school


def begins_of(page: Page, number: int) -> str:
    """Give the day the exercise in a row of the list begins on."""
    return page.locator("#planned table tbody tr").nth(number).locator("td").nth(1).inner_text()


def test_a_piece_is_moved_and_pinned_by_keys_and_undone(drawn):
    page, _ = drawn
    was = begins_of(page, 0)
    piece = page.locator(".piece").first
    piece.focus()
    press_on_key(page, "ArrowRight")
    wait_until_planned(page)
    assert begins_of(page, 0) != was
    assert "pinned" in begins_of(page, 0)
    expect(page.locator(".piece").first).to_be_focused()  # the keys go on where they were
    press_on_key(page, "p")
    wait_until_planned(page)
    assert "pinned" not in begins_of(page, 0)
    page.locator(".piece").first.evaluate("piece => piece.blur()")
    press_on_key(page, "u")
    wait_until_planned(page)
    assert "pinned" in begins_of(page, 0)
    assert grave_faults(page) == []


def test_a_piece_is_drawn_to_another_lesson(drawn):
    page, _ = drawn
    was = begins_of(page, 0)
    column = page.locator(".lesson-column").nth(2).bounding_box()
    piece = page.locator(".piece").first.bounding_box()
    page.mouse.move(piece["x"] + piece["width"] / 2, piece["y"] + piece["height"] / 2)
    page.mouse.down()
    page.mouse.move(column["x"] + 4, piece["y"] + 5, steps=6)
    expect(page.locator(".lesson-column.under")).to_have_count(1)
    with page.expect_navigation():
        page.mouse.up()
    wait_until_planned(page)
    assert begins_of(page, 0) != was
    assert "pinned" in begins_of(page, 0)


def test_a_click_on_a_piece_opens_its_lesson(drawn):
    page, _ = drawn
    with page.expect_navigation():
        page.locator(".piece").first.click()
    expect(page.get_by_role("heading", name="By the clock")).to_be_visible()


def test_a_piece_is_drawn_by_touch(drawn):
    page, school = drawn
    phone = page.context.browser.new_context(
        base_url=re.match(r"https?://[^/]+", page.url).group(0),
        viewport={"width": 1024, "height": 700},
        has_touch=True,
        storage_state=page.context.storage_state(),
    ).new_page()
    phone.goto(f"/classes/{school.class_id}/unit")
    was = begins_of(phone, 0)
    column = phone.locator(".lesson-column").nth(2).bounding_box()
    piece = phone.locator(".piece").first.bounding_box()
    finger = phone.context.new_cdp_session(phone)
    x, y = piece["x"] + piece["width"] / 2, piece["y"] + piece["height"] / 2
    way = [x + (column["x"] + 5 - x) * part / 5 for part in range(1, 6)]
    touch(finger, "touchStart", x, y)
    for across in way:
        touch(finger, "touchMove", across, y)
    with phone.expect_navigation():
        finger.send("Input.dispatchTouchEvent", {"type": "touchEnd", "touchPoints": []})
    wait_until_planned(phone)
    assert begins_of(phone, 0) != was
    phone.context.close()


def touch(finger, kind, x, y):
    finger.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": [{"x": x, "y": y}]})
