"""A picture is painted from by touch on a phone, by keys alone at a desk, and beside the easel."""

import re

import pytest
from playwright.sync_api import expect

from noema.store.pictures import pictures_of_class, spots_of
from tests.pictured import dab
from tests.road.browser import fits, grave_faults, hold_out_card, log_in, tapped
from tests.trade import found_school


@pytest.fixture
def school(sessions, files):
    return found_school(sessions, files)


def spots(school):
    with school.sessions() as session:
        return spots_of(session, pictures_of_class(session, school.class_id)[0].id)


def tapped_at(page, across, down):
    """Tap the picture at shares of its width and height."""
    image = page.locator("#picture image")
    image.scroll_into_view_if_needed()
    box = image.bounding_box()
    page.touchscreen.tap(box["x"] + across * box["width"], box["y"] + down * box["height"])


def test_a_student_points_by_touch_and_looks_at_values_and_tubes(phone, school):
    hold_out_card(phone, school)
    tapped(phone, phone.get_by_role("link", name="Paint from a picture"))
    expect(phone.get_by_role("heading", name="Paint from a picture")).to_be_visible()
    assert fits(phone)
    assert grave_faults(phone) == []
    tapped(phone, phone.get_by_role("button", name="Harbour"))
    expect(phone.get_by_role("heading", name="Harbour")).to_be_visible()
    tapped_at(phone, 0.3, 0.8)
    assert abs(float(phone.locator("#spot-form [name=x]").input_value()) - 30.0) < 3.0
    phone.locator("#spot-form [name=name]").fill("the red boat")
    tapped(phone, phone.get_by_role("button", name="Take this spot"))
    expect(phone.get_by_role("heading", name="the red boat")).to_be_visible()
    expect(phone.get_by_text("red, leans to").first).to_be_visible()
    assert fits(phone)
    assert grave_faults(phone) == []
    (spot,) = spots(school)
    assert abs(spot.x - 0.3) < 0.03
    tapped(phone, phone.get_by_role("link", name="Dark and light"))
    expect(phone.get_by_text("From dark to light")).to_be_visible()
    assert fits(phone)
    assert grave_faults(phone) == []
    tapped(phone, phone.get_by_role("link", name="Which few tubes"))
    tapped(phone, phone.get_by_role("button", name="Look through my tubes"))
    expect(phone.get_by_text("as these tubes would give it")).to_be_visible()
    expect(phone.get_by_text("worked out")).to_have_count(0)  # the page asks until all is there
    assert fits(phone)
    assert grave_faults(phone) == []
    tapped(phone, phone.get_by_role("link", name="Schemes"))
    expect(phone.get_by_text("How close this picture is already")).to_be_visible()
    assert fits(phone)
    assert grave_faults(phone) == []


def test_a_teacher_points_by_keys_alone_and_hears_it(page, school):
    log_in(page, school)
    page.goto(f"/classes/{school.class_id}/pictures")
    assert grave_faults(page) == []
    scene = page.get_by_role("button", name="Still life on a table")
    scene.focus()
    page.keyboard.press("Enter")
    cross = page.get_by_role("button", name=re.compile("Cross at 50 across, 50 down"))
    cross.focus()
    for _ in range(15):
        page.keyboard.press("Shift+ArrowLeft")
    for _ in range(13):
        page.keyboard.press("Shift+ArrowDown")
    expect(
        page.get_by_role("button", name=re.compile("Cross at 20 across, 76 down"))
    ).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Spot 1")).to_be_visible()
    tree = page.locator("main").aria_snapshot()
    assert "orange" in tree
    assert "Start from" in tree
    assert 'link "1, Spot 1"' in tree
    assert grave_faults(page) == []
    page.keyboard.press("g")
    expect(page.locator("a[aria-current]", has_text="greyscale")).to_be_visible()
    assert "look=grey" in page.url


def test_paint_is_held_against_a_spot_and_read_while_one_waits(page, school, tmp_path):
    log_in(page, school)
    page.goto(f"/classes/{school.class_id}/pictures")
    page.get_by_role("button", name="Rooftops").click()
    page.get_by_role("button", name="Take this spot").click()
    page.get_by_role("link", name="Hold paint against it").click()
    jpeg, _ = dab((58.0, 12.0, 30.0))
    photo = tmp_path / "dab.jpg"
    photo.write_bytes(jpeg)
    page.get_by_label("A dab of your paint").set_input_files(photo)
    page.get_by_role("button", name="Read it").click()
    expect(page.get_by_text("Your paint:")).to_be_visible()
    assert grave_faults(page) == []
    page.get_by_role("link", name="Outline the paint by hand").click()
    expect(page.get_by_role("button", name="Top left corner: arrow keys move it")).to_be_visible()
    assert grave_faults(page) == []
