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

PHONE = {"width": 390, "height": 844}
THIRD_GENERATION = {
    "offline": False,
    "latency": 150,  # ms
    "downloadThroughput": 1.6e6 / 8,  # bytes a second
    "uploadThroughput": 750e3 / 8,
}
SOON_S = 3.0
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
    link.send("Network.emulateNetworkConditions", {**THIRD_GENERATION, **changed})
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
    link.send("Network.emulateNetworkConditions", {**THIRD_GENERATION, "offline": True})
    expect(phone.locator("#sending")).to_contain_text("link is gone")
    link.send(
        "Network.emulateNetworkConditions",
        {**THIRD_GENERATION, "uploadThroughput": 20e6 / 8, "latency": 20},
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
