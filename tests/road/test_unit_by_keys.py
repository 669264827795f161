"""A teacher plans a unit, loses a lesson and gets a lesson's paper, by keys alone."""

import re
from datetime import UTC, datetime, timedelta

import pytest
from playwright.sync_api import Page, expect

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
    go_on(page, page.get_by_role("link", name="Term, holidays and the drying rack"))
    page.get_by_label("From").fill(begins.isoformat())
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

    press_on(page, page.get_by_text("A lesson is missed"))
    go_on(page, page.get_by_role("button", name="It isn’t held"))
    wait_until_planned(page)
    expect(page.get_by_text("moved").first).to_be_visible()
    press_on(page, page.get_by_text("A lesson is missed"))
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
