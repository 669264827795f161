"""A student's own device without a link: what it shows, what goes later, nothing left behind."""

import time

import pytest
from playwright.sync_api import expect
from sqlalchemy import select

from noema.core.joining.card import card_words
from noema.store.students import join_of_class, student_by_id
from noema.store.tables import Photograph
from tests.trade import SECRET, found_school

PATIENCE_S = 20.0
KEPT_NAMES = "caches.keys().then((names) => names.includes('noema-own'))"
KEPT_SCRIPT = """caches.open("noema-own").then((kept) =>
  kept.match("/static/js/own_photo.js", { ignoreSearch: true })).then(Boolean)"""
KEPT_PHOTOGRAPHS = """new Promise((done) => {
  const asked = indexedDB.open("noema-own");
  asked.onsuccess = () => {
    const base = asked.result;
    if (!base.objectStoreNames.contains("photographs")) { base.close(); done(0); return; }
    const count = base.transaction("photographs").objectStore("photographs").count();
    count.onsuccess = () => { base.close(); done(count.result); };
  };
})"""


def comes_in(phone, school, *, device):
    with school.sessions() as session:
        join = join_of_class(session, school.class_id)
        holder = student_by_id(session, school.sheets()[0].student_id)
    phone.goto("/join")
    phone.locator("input[name=code]").fill(join.join_code)
    phone.locator("input[name=card]").fill(
        " ".join(card_words(SECRET, holder.id, holder.card_serial))
    )
    phone.locator(f"input[name=device][value={device}]").check()
    phone.locator("main form button").first.click()
    phone.wait_for_url("**/me")


def until(phone, promised):
    """Wait until what a promise gives is true."""
    end = time.monotonic() + PATIENCE_S
    while not phone.evaluate(promised):
        assert time.monotonic() < end, promised
        phone.wait_for_timeout(50)


@pytest.fixture
def school(sessions, files):
    return found_school(sessions, files)


@pytest.fixture
def at_home(phone, school):
    """A student who looked at their list on their own phone, and then lost the link."""
    comes_in(phone, school, device="own")
    phone.evaluate("navigator.serviceWorker.ready.then(() => true)")
    until(phone, KEPT_SCRIPT)
    phone.context.set_offline(True)
    return phone


def hands_in(phone, school, photo):
    phone.goto(f"/me/exercises/{school.assignment_id}/photograph")
    phone.locator("input[name=photo]").set_input_files(
        {"name": "mine.jpg", "mimeType": "image/jpeg", "buffer": photo}
    )
    phone.locator("#send").click()
    expect(phone.locator("#kept-photographs")).to_contain_text("kept on this device")


def test_list_and_exercise_are_there_without_a_link(at_home, school):
    at_home.goto("/me")
    expect(at_home.get_by_role("heading", name="To paint")).to_be_visible()
    at_home.locator("ol.tasks a").first.click()
    expect(at_home.get_by_role("heading", name="How to")).to_be_visible()
    expect(at_home.locator(".asked-sheet")).to_be_visible()


def test_a_photograph_taken_without_a_link_goes_when_it_is_back(at_home, school):
    hands_in(at_home, school, school.photo_of(school.sheets()[0]))
    at_home.goto("/me")
    expect(at_home.locator("#kept-photographs")).to_contain_text("kept on this device")
    at_home.context.set_offline(False)
    expect(at_home.locator("#kept-photographs")).to_contain_text("has been handed in")
    assert at_home.evaluate(KEPT_PHOTOGRAPHS) == 0
    with school.sessions() as session:
        came = session.scalars(select(Photograph).where(Photograph.school_id == school.id)).all()
    assert [one.original_name for one in came] == ["mine.jpg"]


def test_what_is_no_picture_is_refused_in_words(at_home, school):
    hands_in(at_home, school, b"no picture")
    at_home.context.set_offline(False)
    expect(at_home.locator("#kept-photographs")).not_to_contain_text("kept on this device")
    expect(at_home.locator("#kept-photographs")).to_contain_text("picture")
    assert at_home.evaluate(KEPT_PHOTOGRAPHS) == 0


def test_leaving_takes_everything_along_and_asks_first(at_home, school):
    hands_in(at_home, school, school.photo_of(school.sheets()[0]))
    asked = []
    at_home.once("dialog", lambda dialog: (asked.append(dialog.message), dialog.accept()))
    at_home.route(
        "**/photographs", lambda route: route.abort()
    )  # a link that carries no photograph
    at_home.context.set_offline(False)
    at_home.get_by_role("button", name="I am done here").click()
    at_home.wait_for_url("**/join")
    assert "hasn't been handed in" in asked[0]
    assert at_home.evaluate(KEPT_NAMES) is False
    assert at_home.evaluate(KEPT_PHOTOGRAPHS) == 0


def test_a_shared_device_keeps_nothing_and_clears_what_another_kept(at_home, school):
    at_home.context.clear_cookies()  # the session of the one before is over
    at_home.context.set_offline(False)
    comes_in(at_home, school, device="shared")
    until(at_home, "navigator.serviceWorker.getRegistrations().then((all) => all.length === 0)")
    until(at_home, f"{KEPT_NAMES}.then((kept) => !kept)")
