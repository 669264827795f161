"""The whole road in a real browser: from log-in to progress, review by keyboard alone."""

from io import BytesIO

import numpy as np
from PIL import Image
from playwright.sync_api import expect, sync_playwright

from tests.road.browser import CHROMIUM, FLAGS, log_in
from tests.road.steps import (
    assign_six_steps,
    hand_in,
    make_a_class,
    newest,
    print_for_all,
    review_by_keyboard,
)
from tests.trade import found_school


def test_from_assignment_to_progress(page, sessions, files):
    school = found_school(sessions, files)
    log_in(page, school)
    make_a_class(page)
    assign_six_steps(page)
    print_for_all(page)
    assigned = newest(school)
    hand_in(page, assigned)
    review_by_keyboard(page)
    page.goto("/return")
    expect(page.get_by_text("needs a new sheet")).to_be_visible()
    page.goto(f"/progress/classes/{assigned.class_id}")
    expect(page.get_by_text("2 accepted · 0 wait for you · 1 for students")).to_be_visible()
    page.get_by_role("link", name="Bo Fen").click()
    expect(page.get_by_role("cell", name="attempt 1")).to_be_visible()


def test_one_bad_file_doesnt_stop_the_others(page, sessions, files):
    school = found_school(sessions, files)
    log_in(page, school)
    page.goto("/photograph")
    good = school.photo_of(school.sheets()[0])
    page.get_by_label("Drop photographs here").set_input_files(
        [
            {"name": "notes.jpg", "mimeType": "image/jpeg", "buffer": b"only words"},
            {"name": "good.jpg", "mimeType": "image/jpeg", "buffer": good},
            {"name": "again.jpg", "mimeType": "image/jpeg", "buffer": good},
        ]
    )
    page.get_by_role("button", name="Hand them in").click()
    outcomes = page.locator("#outcomes")
    expect(outcomes.get_by_text("notes.jpg")).to_be_visible()
    expect(outcomes.get_by_text("The same photograph was handed in before.")).to_be_visible()
    expect(page.get_by_text("1 of 3 taken.")).to_be_visible()
    expect(page.get_by_text("1 of 1 photograph read.")).to_be_visible(timeout=30_000)


def test_without_scripts_the_road_is_the_same(address, sessions, files):
    school = found_school(sessions, files)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_context(base_url=address, java_script_enabled=False).new_page()
        log_in(page, school)
        page.goto("/photograph")
        photo = {"name": "a.jpg", "mimeType": "image/jpeg"}
        page.get_by_label("Drop photographs here").set_input_files(
            [{**photo, "buffer": school.photo_of(school.sheets()[0])}]
        )
        page.get_by_role("button", name="Hand them in").click()
        expect(page.get_by_text("photograph read")).to_be_visible()
        for _ in range(40):
            page.goto("/review")
            if page.get_by_text("1 sheet waits").count():
                break
            page.wait_for_timeout(500)
        page.get_by_role("link", name="Begin with the first").click()
        page.get_by_role("link", name="Step 2:").click()
        page.get_by_role("button", name="Leave it out").click()
        expect(page.get_by_text("left out of the count")).to_be_visible()
        page.get_by_role("button", name="Accept").click()
        expect(page.get_by_text("sheet is accepted")).to_be_visible()
        browser.close()


def test_the_photograph_page_fits_a_phone(page, sessions, files):
    school = found_school(sessions, files)
    log_in(page, school)
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto("/photograph")
    width = page.evaluate("document.documentElement.scrollWidth")
    assert width <= 390


def test_nothing_but_paint_has_a_colour(page, sessions, files):
    school = found_school(sessions, files)
    school.hands_in(school.photo_of(school.sheets()[0]))
    log_in(page, school)
    for url in (
        "/",
        "/plan",
        "/print",
        "/photograph",
        "/classes/new",
        f"/classes/{school.class_id}",
        f"/classes/{school.class_id}/assign",
    ):
        page.goto(url)
        shot = np.asarray(Image.open(BytesIO(page.screenshot())).convert("RGB")).astype(int)
        assert np.ptp(shot, axis=2).max() == 0, url


def test_paints_are_explored_without_leaving_the_page(page, sessions, files):
    school = found_school(sessions, files)
    log_in(page, school)
    page.get_by_role("link", name="Plan", exact=True).click()
    page.get_by_role("link", name="Paint shelf").click()
    page.get_by_role("link", name="Put a set together").click()
    page.get_by_label("Name").fill("Room 3")
    expect(page.locator("#chosen tbody tr")).to_have_count(7)
    page.get_by_label("burnt sienna").check()
    expect(page.locator("#chosen tbody tr")).to_have_count(8)
    page.get_by_role("button", name="Keep this set").click()
    expect(page.get_by_role("heading", name="Room 3")).to_be_visible()
    page.get_by_role("link", name="What these paints can do").click()
    expect(page.get_by_text("Darks without black")).to_be_visible()
    page.get_by_role("link", name="From one to another").click()
    for name, chosen in (("one", "ultramarine"), ("other", "burnt-sienna"), ("steps", "11")):
        page.locator(f"select[name={name}]").select_option(chosen)
        # An answer cut short by the next choice would be complained of.
        expect(page.locator(".htmx-request")).to_have_count(0)
    expect(page.locator("#found svg.bridge rect")).to_have_count(11)
    expect(page.locator("#found")).to_contain_text("eutral at")
    page.get_by_label("Wet above dry").check()
    expect(page.locator("#found svg.bridge rect")).to_have_count(22)
    page.locator("select[name=third]").select_option("phthalo-blue")
    expect(page.locator("#found svg.triangle circle")).to_have_count(28)
