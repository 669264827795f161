"""A class's batch cleared by keys alone, and the desk held against the rules of accessibility."""

import numpy as np
import pytest
from playwright.sync_api import Page, expect

from bench.full_class import SCALE, WHEEL, fill_class
from noema.formats.photo_file import jpeg_bytes
from noema.store.reviews import waiting_for_review
from tests.road.browser import grave_faults, log_in
from tests.trade import found_school

SHEETS = 24


def full_school(sessions, files, *, students, chosen=SCALE):
    """A school in which a class has handed in one exercise."""
    school = found_school(sessions, files)
    fill_class(
        sessions,
        school.id,
        school.teacher_id,
        students=students,
        assignments=1,
        chosen=(chosen,),
        straight_sha256=files.put(jpeg_bytes(np.full((210, 297, 3), 230, np.uint8))),
    )
    return school


def review_queue_of(sessions, school):
    with sessions() as session:
        return tuple(one.photograph_id for one in waiting_for_review(session, school.id))


def test_twenty_four_sheets_are_reviewed_by_keys_alone(page: Page, sessions, files):
    school = full_school(sessions, files, students=SHEETS)
    log_in(page, school)
    page.keyboard.press("Tab")
    page.goto("/review")
    expect(page.get_by_text(f"{SHEETS} sheets wait for you")).to_be_visible()
    page.keyboard.press("Enter")
    for left in range(SHEETS, 0, -1):
        expect(page.get_by_text(f"1 of {left}", exact=True)).to_be_visible()
        turn = left % 4
        if turn == 1:
            page.keyboard.press("ArrowRight")
            page.keyboard.press("o")
            expect(page.get_by_text("your word; measured")).to_be_visible()
        if turn == 2:
            page.wait_for_load_state()
            page.keyboard.press("s")
            page.keyboard.press("Control+a")
            page.keyboard.type(f"Look at your darks once more, {left}.")
            page.keyboard.press("Escape")
        page.keyboard.press("b" if turn in (1, 2) else "a")
    expect(page.get_by_text("No sheet waits")).to_be_visible()
    assert review_queue_of(sessions, school) == ()


def test_a_key_pressed_while_the_page_still_comes_is_not_lost(page: Page, sessions, files):
    school = full_school(sessions, files, students=2)
    log_in(page, school)
    held_back = []
    page.route("**/upload.js", lambda route: held_back.append(route))
    page.goto("/review/" + str(review_queue_of(sessions, school)[0]), wait_until="commit")
    expect(page.get_by_text("1 of 2", exact=True)).to_be_visible()
    page.evaluate("Object.defineProperty(document, 'readyState', {get: () => 'loading'})")
    page.keyboard.press("a")
    page.keyboard.press("b")
    held_back[0].continue_()
    expect(page.get_by_text("sheet is accepted")).to_be_visible()
    expect(page.get_by_text("1 of 1", exact=True)).to_be_visible()


def test_a_second_key_cannot_undo_a_decision_on_its_way(page: Page, sessions, files):
    school = full_school(sessions, files, students=2)
    log_in(page, school)
    page.goto("/review/" + str(review_queue_of(sessions, school)[0]))
    page.keyboard.press("a")
    page.keyboard.press("b")
    expect(page.get_by_text("sheet is accepted")).to_be_visible()
    expect(page.get_by_text("1 of 1", exact=True)).to_be_visible()


def test_looks_outlast_a_step_and_each_has_a_key(page: Page, sessions, files):
    school = full_school(sessions, files, students=2, chosen=WHEEL)
    log_in(page, school)
    page.goto("/review")
    page.keyboard.press("n")
    expect(page.get_by_text("1 of 2", exact=True)).to_be_visible()
    looking = page.locator("#looking")
    for key, view in (("3", "greyscale"), ("4", "squint"), ("5", "isolated"), ("6", "key")):
        page.keyboard.press(key)
        expect(looking).to_have_class(f"looking view-{view} room-2")
    page.keyboard.press("-")
    expect(looking).to_have_class("looking view-key room-1")
    page.keyboard.press("z")
    expect(page.get_by_role("link", name="Whole")).to_be_visible()
    before = page.locator(".cell-head h2").text_content()
    page.keyboard.press("ArrowRight")
    expect(page.locator(".cell-head h2")).not_to_have_text(before or "")
    expect(looking).to_have_class("looking view-key room-1")
    page.keyboard.press("7")
    expect(page.get_by_text("This is the first attempt")).to_be_visible()


@pytest.fixture
def desk_school(sessions, files):
    """A school with a batch of wheels, one photograph of its own, and something decided."""
    school = full_school(sessions, files, students=4, chosen=WHEEL)
    return school, school.reviewable()


def test_no_screen_of_the_desk_has_a_grave_fault(page: Page, desk_school, sessions):
    school, photo = desk_school
    log_in(page, school)
    with sessions() as session:
        wheel = waiting_for_review(session, school.id)[0].photograph_id
    addresses = [
        "/review",
        f"/review/{wheel}",
        f"/review/{wheel}?view=key&room=0",
        f"/review/{photo}",
        f"/review/{photo}?view=photograph&near=1&room=4",
        f"/review/{photo}?view=last",
        f"/review/{photo}/whose",
        f"/review/exercises/{school.assignment_id}/holding",
        f"/exercises/{school.assignment_id}/patterns",
        f"/exercises/{school.assignment_id}/hand-out",
        f"/return/{photo}/slip",
        "/return",
        "/rubric",
        f"/progress/classes/{school.class_id}",
        f"/progress/classes/{school.class_id}/skills",
        f"/classes/{school.class_id}",
        f"/classes/{school.class_id}/cards",
        f"/classes/{school.class_id}/records",
        "/rosters",
        "/keeping?months=3",
        "/school",
    ]
    for address in addresses:
        page.goto(address)
        assert grave_faults(page) == [], address
