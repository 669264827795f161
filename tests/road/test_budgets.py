"""What an evening's tasks cost: each within so many clicks, or so many keys."""

from math import ceil

import pytest
from playwright.sync_api import Locator, Page, expect

from noema.core.judging.review import Decision, Verb
from noema.stand_ins.painter import Hand
from tests.road.browser import log_in
from tests.road.steps import newest
from tests.trade import NAMES, found_school

NAMES_24 = "\n".join(f"Student {n:02}" for n in range(24))
_STRAYS = Hand(step_noise=0.9, missed=0.0, ragged_mm=0.3)


class Counted:
    """A hand whose clicks, or keys that do something, are counted; typing words isn't."""

    def __init__(self, page: Page, *, by_keys: bool) -> None:
        self.page, self.by_keys, self.count = page, by_keys, 0

    def does(self, locator: Locator) -> None:
        """Click it, or go to it and press Enter."""
        self.count += 1
        if self.by_keys:
            locator.focus()
            self.page.keyboard.press("Enter")
        else:
            locator.click()

    def presses(self, key: str) -> None:
        self.count += 1
        self.page.keyboard.press(key)

    def begins_to_find(self) -> None:
        self.page.wait_for_load_state("networkidle")
        if self.by_keys:
            self.presses("/")
        else:
            self.does(self.page.locator('[data-key="/"]'))

    def goes(self, stage: str) -> None:
        self.does(self.page.locator("nav.stages").get_by_role("link", name=stage))
        self.page.wait_for_load_state("networkidle")


@pytest.fixture(params=[False, True], ids=["clicks", "keys"])
def hand(request, page):
    return Counted(page, by_keys=request.param)


def test_a_new_class_with_24_names_takes_6(hand, page, sessions, files):
    log_in(page, found_school(sessions, files))
    hand.goes("Plan")
    hand.does(page.get_by_role("link", name="Make a class"))
    page.get_by_label("Name").fill("Tuesday painters")
    hand.does(page.get_by_role("button", name="Make the class"))
    page.get_by_label("One name a line").fill(NAMES_24)
    hand.does(page.get_by_role("button", name="Look at the list"))
    hand.does(page.get_by_role("button", name="Bring them into the class"))
    expect(page.get_by_text("24 students")).to_be_visible()
    assert hand.count <= 6


def test_assigning_and_printing_takes_8(hand, page, sessions, files):
    school = found_school(sessions, files)
    log_in(page, school)
    hand.goes("Plan")
    hand.does(page.get_by_role("link", name="Assign an exercise"))
    page.wait_for_load_state("networkidle")
    hand.does(page.get_by_role("button", name="Assign to Year 8"))
    hand.does(page.get_by_role("button", name="Make 3 and open the PDF"))
    page.wait_for_url("**/sheets.pdf")
    assert len(newest(school).sheets()) == 3
    assert hand.count <= 8


def test_handing_in_takes_3_and_reviewing_2_keys_a_sheet(hand, page, sessions, files):
    school = found_school(sessions, files)
    log_in(page, school)
    hand.goes("Photograph")
    pictures = [school.photo_of(sheet, seed=n) for n, sheet in enumerate(school.sheets())]
    hand.count += 1  # the files are chosen in the system's own window
    page.get_by_label("Drop photographs here").set_input_files(
        [
            {"name": f"{n}.jpg", "mimeType": "image/jpeg", "buffer": picture}
            for n, picture in enumerate(pictures)
        ]
    )
    hand.does(page.get_by_role("button", name="Hand them in"))
    expect(page.get_by_text("3 of 3 photographs read.")).to_be_visible(timeout=60_000)
    assert hand.count <= 3
    hand.count = 0
    page.goto("/review")
    hand.does(page.get_by_role("link", name="Begin with the first"))
    page.wait_for_load_state("networkidle")
    while page.locator(".desk").count():
        before = page.url
        hand.presses("a")
        page.wait_for_url(lambda url, before=before: url != before)
        page.wait_for_load_state("networkidle")
    assert hand.count <= ceil(60 / 28 * len(NAMES))


def test_sending_back_and_printing_the_redo_takes_4(hand, page, sessions, files):
    school = found_school(sessions, files)
    photo = school.reviewable(hand=_STRAYS, seed=3)
    log_in(page, school)
    page.goto(f"/review/{photo}")
    page.wait_for_load_state("networkidle")
    hand.does(page.get_by_role("button", name="Send back"))
    page.wait_for_load_state("networkidle")
    hand.goes("Return")
    with page.expect_response(lambda answer: "pdf" in answer.headers.get("content-type", "")):
        hand.does(page.get_by_role("button", name="only the cells that need it"))
    assert len(school.sheets()) == 4
    assert hand.count <= 4


def test_last_months_grey_and_what_to_do_next_are_found(hand, page, sessions, files):
    school = found_school(sessions, files)
    photo = school.reviewable()
    school.decides(photo, Decision(verb=Verb.ACCEPT))
    log_in(page, school)
    hand.begins_to_find()
    words = page.get_by_label("A name, a sheet’s code")
    words.fill("value scale 3")
    mixes = page.locator("#found section").filter(has_text="Mixes")
    hand.does(mixes.get_by_role("link").first)
    page.wait_for_url("**/review/**")
    assert hand.count <= 3
    hand.count = 0
    page.goto("/")
    hand.begins_to_find()
    page.get_by_label("A name, a sheet’s code").fill(school.sheets()[0].student)
    hand.does(page.locator("#found").get_by_role("link", name=school.sheets()[0].student).first)
    expect(page.get_by_text("Next:").first).to_be_visible()
    assert hand.count <= 2
