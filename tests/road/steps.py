"""The road from a class to a reviewed pile, step by step in a browser."""

import pypdfium2
from playwright.sync_api import Page, expect
from sqlalchemy import text

from noema.stand_ins.painter import Hand
from tests.trade import School

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


def settled(page: Page) -> None:
    """Wait until what came in can be used: for some milliseconds it only stands there."""
    expect(
        page.locator(".htmx-request, .htmx-swapping, .htmx-settling, .htmx-added")
    ).to_have_count(0)


def assign_six_steps(page: Page) -> None:
    cells = page.locator("svg.asked-sheet polygon")
    page.get_by_role("link", name="Assign an exercise").click()
    expect(cells).to_have_count(9)
    page.wait_for_load_state()
    settled(page)
    page.get_by_label("Exercise").select_option("colour-match")
    expect(cells).to_have_count(6)
    settled(page)
    file = {"name": "mine.csv", "mimeType": "text/csv", "buffer": FOUR_COLOURS}
    page.get_by_label("Read it from a file").set_input_files(file)
    expect(cells).to_have_count(4)
    settled(page)
    page.get_by_label("Exercise").select_option("value-scale")
    expect(page.locator("#field-hue")).to_be_visible()
    settled(page)
    page.locator("#field-set").select_option("")
    expect(page.locator("#field-medium option").first).to_have_text("acrylic")
    settled(page)
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
