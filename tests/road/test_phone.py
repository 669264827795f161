"""A student's phone on a slow link: due list soon there, a photograph cut off and sent again."""

import re
import time
from io import BytesIO

import numpy as np
import pytest
from PIL import Image
from playwright.sync_api import expect, sync_playwright

from noema.actions.show_readings import show_readings
from noema.store.photographs import photo_of_school
from tests.road.browser import CHROMIUM, FLAGS, grave_faults, hold_out_card
from tests.trade import found_school
from tools.student_pages import SLOW_LINK

PHONE = {"width": 390, "height": 844}
SOON_S = 3.0
FRAMES = 120  # of a film, that a browser plays at thirty a second
LARGE_BYTES = 6_000_000


@pytest.fixture
def phone(address):
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(base_url=address, viewport=PHONE)
        yield page
        browser.close()


def slowed(page, **changed):
    link = page.context.new_cdp_session(page)
    link.send("Network.enable")
    link.send("Network.emulateNetworkConditions", {**SLOW_LINK, **changed})
    return link


def comes_in(page, school):
    hold_out_card(page, school)
    expect(page.get_by_role("heading", name="To paint")).to_be_visible()


def large_photo(school):
    """A photograph of six megabytes, as phones make them."""
    picture = Image.open(BytesIO(school.photo_of(school.sheets()[0])))
    whole = picture.resize((picture.width * 3, picture.height * 3))
    noise = np.random.default_rng(3).normal(0.0, 5.0, (whole.height, whole.width, 1))
    grainy = np.clip(np.asarray(whole, float) + noise, 0, 255).astype(np.uint8)
    out = BytesIO()
    Image.fromarray(grainy).save(out, "JPEG", quality=97)
    data = out.getvalue()
    assert len(data) >= LARGE_BYTES
    return data


def test_the_due_list_is_there_soon_on_a_slow_link(phone, sessions, files):
    school = found_school(sessions, files)
    comes_in(phone, school)
    link = slowed(phone)
    link.send("Network.clearBrowserCache")
    before = time.monotonic()
    phone.goto("/me")
    expect(phone.get_by_role("link", name="Value scale")).to_be_visible()
    assert time.monotonic() - before <= SOON_S
    assert phone.evaluate("document.documentElement.scrollWidth") <= PHONE["width"]


def test_a_photograph_cut_off_goes_on_where_it_stopped(phone, sessions, files):
    school = found_school(sessions, files)
    with sessions.begin() as session:
        show_readings(session, school.id, school.class_id, at_once=True)
    comes_in(phone, school)
    data = large_photo(school)
    sent = []
    phone.on("request", lambda request: sent.append(request) if "?from=" in request.url else None)
    phone.goto(f"/me/exercises/{school.assignment_id}/photograph")
    chooser = phone.get_by_label("Take or choose the photograph")
    file = {"name": "sheet.jpg", "mimeType": "image/jpeg", "buffer": data}
    chooser.set_input_files(file)
    expect(phone.locator("#look")).to_contain_text("hand it in")
    link = slowed(phone, uploadThroughput=20e6 / 8, latency=20)
    phone.get_by_role("button", name="Hand it in").click()
    expect(phone.locator("#sending")).to_have_text(re.compile("^[3-9][0-9] of 100"), timeout=30_000)
    link.send("Network.emulateNetworkConditions", {**SLOW_LINK, "offline": True})
    expect(phone.locator("#sending")).to_contain_text("link is gone")
    link.send(
        "Network.emulateNetworkConditions",
        {**SLOW_LINK, "uploadThroughput": 20e6 / 8, "latency": 20},
    )
    phone.wait_for_url("**/me/photographs/*", timeout=60_000)
    number = int(phone.url.rsplit("/", 1)[1])
    with sessions() as session:
        kept = photo_of_school(session, school.id, number)
    assert files.get(kept.sha256) == data
    starts = [int(request.url.rsplit("=", 1)[1]) for request in sent]
    assert len(starts) - len(set(starts)) <= 4  # only the piece that was cut off goes twice
    expect(phone.get_by_text("Which steps do you think hold?")).to_be_visible(timeout=60_000)
    phone.get_by_label("1", exact=True).check()
    phone.get_by_role("button", name="These hold; now show me").click()
    expect(phone.get_by_role("heading", name="How you saw it")).to_be_visible()
    link.detach()
    for url in (phone.url, "/me", f"/me/exercises/{school.assignment_id}", "/me/progress"):
        phone.goto(url)
        assert phone.evaluate("document.documentElement.scrollWidth") <= PHONE["width"], url
        assert grave_faults(phone) == [], url


def turned_film(school, path) -> str:
    """A sheet seen with a lamp's shine on it, then turned a quarter and without; over and over."""
    jpeg = school.photo_of(school.sheets()[0])
    seen = (np.asarray(Image.open(BytesIO(jpeg)).convert("RGB")) * 0.8).astype(np.uint8)
    side = seen.shape[1]
    upright = np.full((side, side, 3), 60, np.uint8)
    top = (side - seen.shape[0]) // 2
    upright[top : top + seen.shape[0]] = seen
    away = np.rot90(upright)
    shining = upright.copy()
    middle = side // 2
    shining[middle - 60 : middle + 60, middle - 60 : middle + 60] = 255
    frames = b""
    for picture in (shining, away):
        out = BytesIO()
        Image.fromarray(np.ascontiguousarray(picture)).save(out, "JPEG", quality=85)
        frames += out.getvalue() * FRAMES
    path.write_bytes(frames)
    return f"--use-file-for-fake-video-capture={path}"


def test_where_light_lies_on_the_paint_a_second_picture_is_taken_by_itself(
    address, sessions, files, tmp_path
):
    school = found_school(sessions, files)
    flags = [
        *FLAGS,
        "--use-fake-ui-for-media-stream",
        "--use-fake-device-for-media-stream",
        turned_film(school, tmp_path / "turned.mjpeg"),
    ]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=flags)
        page = browser.new_page(base_url=address, viewport=PHONE)
        comes_in(page, school)
        page.goto(f"/me/exercises/{school.assignment_id}/photograph")
        page.get_by_role("button", name="Or look through the camera here").click()
        expect(page.get_by_text("Something shines")).to_be_visible(timeout=30_000)
        page.get_by_role("button", name="Take the photograph").click()
        expect(page.get_by_role("button", name="One picture is enough")).to_be_visible(
            timeout=20_000
        )
        expect(page.get_by_role("heading", name="Value scale")).to_be_visible(timeout=40_000)
        assert re.search(r"/me/photographs/\d+", page.url)
        assert grave_faults(page) == []
        browser.close()
    with sessions() as session:
        number = int(page.url.rsplit("/", 1)[1])
        first = photo_of_school(session, school.id, number)
        second = photo_of_school(session, school.id, number + 1)
    assert first.original_name.startswith("camera-")
    assert second.original_name.startswith("camera-")
    assert (second.received_at - first.received_at).total_seconds() < 60
