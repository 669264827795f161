"""In a real browser: an outline placed by hand, and the camera with its hints."""

import numpy as np
import pytest
from playwright.sync_api import expect

from noema.formats.photo_file import jpeg_bytes, open_photo
from noema.stand_ins.studio import take_picture
from tests.road.browser import log_in, opened
from tests.trade import CAREFUL, found_school

SIZE = (1280, 960)


@pytest.fixture
def school(sessions, files):
    return found_school(sessions, files)


def test_an_outline_is_placed_by_mouse_and_keys(page, school):
    photo = school.reviewable()
    log_in(page, school)
    page.goto(f"/review/{photo}")
    page.keyboard.press("m")
    expect(page.get_by_role("heading", name="Outline by hand")).to_be_visible()
    page.locator("summary").click()
    corners, nudges, paper = (
        page.locator(f"[name={name}]") for name in ("corners", "nudges", "paper")
    )
    found = corners.input_value()
    corner = page.get_by_role("button", name="Top left corner")
    box = corner.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 30, y + 20)
    page.mouse.up()
    assert corners.input_value() != found
    page.mouse.move(x + 30, y + 20)
    page.mouse.down()
    page.mouse.move(x, y)
    page.mouse.up()
    near = [
        abs(float(now) - float(then))
        for now, then in zip(
            corners.input_value().replace(",", " ").split(),
            found.replace(",", " ").split(),
            strict=True,
        )
    ]
    assert max(near) < 0.002
    page.get_by_role("button", name="Cell 2").focus()
    page.keyboard.press("Shift+ArrowRight")
    assert nudges.input_value().startswith("c2:")
    page.get_by_role("button", name="Add bare paper").click()
    assert len(paper.input_value().split()) == 1
    page.keyboard.press("Delete")
    assert paper.input_value() == ""
    picture = page.locator("#placing").bounding_box()
    page.mouse.click(picture["x"] + picture["width"] / 2, picture["y"] + 6)
    expect(page.get_by_text("1 place of bare paper.")).to_be_visible()
    page.mouse.click(picture["x"] + picture["width"] / 2, picture["y"] + 6)
    expect(page.get_by_text("0 places of bare paper.")).to_be_visible()
    page.get_by_role("button", name="Read it like this").click()
    expect(page.get_by_text("The outline was placed by hand.")).to_be_visible()


def test_the_camera_gives_hints_and_takes_the_photograph(address, school, tmp_path):
    layout, pdf = school.printed(school.sheets()[0])
    jpeg = take_picture(layout, pdf, seed=6, preset="easy", hand=CAREFUL, size_px=SIZE).jpeg
    film = tmp_path / "stand-in.mjpeg"
    # The browser stretches a film's range, so some is left free at its top.
    darker = (open_photo(jpeg).rgb * 0.85).astype(np.uint8)
    film.write_bytes(jpeg_bytes(darker) * 3)
    flags = (
        "--use-fake-ui-for-media-stream",
        "--use-fake-device-for-media-stream",
        f"--use-file-for-fake-video-capture={film}",
    )
    with opened(address, *flags) as page:
        page.set_viewport_size({"width": 390, "height": 844})
        log_in(page, school)
        page.goto("/photograph/camera")
        expect(page.get_by_text("Good: take it now.")).to_be_visible(timeout=30_000)
        assert len(page.locator(".finder .edge").get_attribute("points").split()) == 4
        page.get_by_role("button", name="Take the photograph").click()
        expect(page.get_by_text("Taken; aim at the next sheet.")).to_be_visible()
        page.get_by_role("link", name="See the photograph being read").click()
        expect(page.get_by_text("1 of 1 photograph read.")).to_be_visible(timeout=30_000)
        expect(page.get_by_role("link", name="read", exact=True)).to_be_visible()


def test_without_a_camera_one_chooses_a_file(page, school):
    page.add_init_script("delete Navigator.prototype.mediaDevices")
    log_in(page, school)
    page.goto("/photograph/camera")
    expect(page.get_by_text("The camera can't be used here")).to_be_visible()
    photo = {"name": "a.jpg", "mimeType": "image/jpeg"}
    buffer = school.photo_of(school.sheets()[0], seed=9)
    page.get_by_label("Photographs").set_input_files([{**photo, "buffer": buffer}])
    page.get_by_role("button", name="Hand them in").click()
    expect(page.get_by_text("1 of 1 photograph read.")).to_be_visible(timeout=30_000)
