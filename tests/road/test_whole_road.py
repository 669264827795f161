"""The whole road in a real browser: from log-in to progress, review by keyboard alone."""

from io import BytesIO

import numpy as np
import pypdfium2
from PIL import Image
from playwright.sync_api import Page, expect, sync_playwright
from sqlalchemy import text

from noema.stand_ins.painter import Hand
from tests.road.browser import CHROMIUM, FLAGS, log_in
from tests.trade import School, found_school

FOUR_COLOURS = b"name,L,a,b\none,60,30,40\ntwo,45,-20,10\nthree,70,5,50\nfour,35,10,-20\n"


def newest(school: School) -> School:
    """The same school, looking at the assignment made last."""
    with school.sessions() as session:
        found = session.execute(
            text(
                "SELECT a.id, c.id AS class_id FROM assignment a JOIN school_class c"
                " ON c.id = a.class_id WHERE c.school_id = :s ORDER BY a.id DESC LIMIT 1"
            ),
            {"s": school.id},
        ).one()
    return type(school)(**{**vars(school), "assignment_id": found.id, "class_id": found.class_id})


def make_a_class(page: Page) -> None:
    page.get_by_role("link", name="Plan", exact=True).click()
    page.get_by_role("link", name="Make a class").click()
    page.get_by_label("Name").fill("Tuesday painters")
    page.get_by_role("button", name="Make the class").click()
    page.get_by_label("One name a line").fill("Ada Moss\nBo Fen\n\nAda Moss\nCy Rill")
    page.get_by_role("button", name="Look at the list").click()
    expect(page.get_by_text("3 new names")).to_be_visible()
    expect(page.get_by_text("stands here twice")).to_be_visible()
    page.get_by_role("button", name="Bring them into the class").click()


def assign_six_steps(page: Page) -> None:
    cells = page.locator("svg.asked-sheet polygon")
    page.get_by_role("link", name="Assign an exercise").click()
    expect(cells).to_have_count(9)
    page.get_by_label("Exercise").select_option("colour-match")
    expect(cells).to_have_count(6)
    file = {"name": "mine.csv", "mimeType": "text/csv", "buffer": FOUR_COLOURS}
    page.get_by_label("Read it from a file").set_input_files(file)
    expect(cells).to_have_count(4)
    page.get_by_label("Exercise").select_option("value-scale")
    expect(page.locator("#field-hue")).to_be_visible()
    page.locator("#field-set").select_option("")
    expect(page.locator("#field-medium option").first).to_have_text("acrylic")
    page.locator("#field-steps").select_option("6")
    expect(cells).to_have_count(6)
    page.get_by_role("button", name="Assign to Tuesday painters").click()


def print_for_all(page: Page) -> None:
    row = page.get_by_role("row", name="Tuesday painters")
    row.get_by_role("button", name="Make 3 and open the PDF").click()
    page.wait_for_url("**/sheets.pdf")
    pdf = page.request.get(page.url).body()
    assert len(pypdfium2.PdfDocument(pdf)) == 3


def hand_in(page: Page, school: School) -> None:
    hands = [Hand(step_noise=0.05, missed=0.0), Hand(step_noise=0.1, dark_end=2.5), Hand()]
    pictures = [
        school.photo_of(sheet, seed=n, hand=hands[n]) for n, sheet in enumerate(school.sheets())
    ]
    page.goto("/photograph")
    page.get_by_label("Drop photographs here").set_input_files(
        [
            {"name": f"IMG_{n}.jpg", "mimeType": "image/jpeg", "buffer": picture}
            for n, picture in enumerate(pictures)
        ]
    )
    page.get_by_role("button", name="Hand them in").click()
    expect(page.get_by_text("3 of 3 photographs read.")).to_be_visible(timeout=30_000)


def review_by_keyboard(page: Page) -> None:
    """Three sheets: cells left out and overruled, undone, accepted, sent back, all by keys."""
    page.goto("/review")
    expect(page.get_by_text("3 sheets wait for you")).to_be_visible()
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 of 3")).to_be_visible()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("x")
    expect(page.get_by_text("left out of the count")).to_be_visible()
    page.keyboard.press("u")
    expect(page.get_by_text("left out of the count")).to_have_count(0)
    page.keyboard.press("o")
    expect(page.get_by_text("your word; measured")).to_be_visible()
    page.keyboard.press("a")
    decided = page.get_by_text("sheet is accepted")
    asked = page.get_by_text("Most cells of this sheet stray")
    expect(decided.or_(asked)).to_be_visible()
    if asked.count():
        page.keyboard.press("a")
    expect(decided).to_be_visible()
    expect(page.get_by_text("1 of 2")).to_be_visible()
    page.wait_for_load_state()
    page.keyboard.press("s")
    page.keyboard.press("Control+a")
    page.keyboard.type("Find a darker dark, then even out the steps.")
    page.keyboard.press("Escape")
    page.keyboard.press("b")
    expect(page.get_by_text("goes back with your sentence")).to_be_visible()
    page.keyboard.press("u")
    expect(page.get_by_text("1 of 2")).to_be_visible()
    page.keyboard.press("n")
    expect(page.get_by_text("2 of 2")).to_be_visible()
    page.keyboard.press("p")
    expect(page.get_by_text("1 of 2")).to_be_visible()
    page.keyboard.press("b")
    expect(page.get_by_text("1 of 1")).to_be_visible()
    page.keyboard.press("a")
    expect(page.get_by_text("No sheet waits")).to_be_visible()


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
    page.get_by_role("link", name="Explore two tubes").click()
    page.locator("select[name=one]").select_option("ultramarine")
    page.locator("select[name=other]").select_option("burnt-sienna")
    page.locator("select[name=steps]").select_option("11")
    expect(page.locator("#found svg.bridge rect")).to_have_count(11)
    expect(page.locator("#found")).to_contain_text("eutral at")
    page.get_by_label("Wet above dry").check()
    expect(page.locator("#found svg.bridge rect")).to_have_count(22)
    page.locator("select[name=third]").select_option("phthalo-blue")
    expect(page.locator("#found svg.triangle circle")).to_have_count(28)
