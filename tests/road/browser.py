"""A real browser, and a teacher who logs in with it."""

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from playwright.sync_api import Locator, Page, expect, sync_playwright

from noema.core.joining.card import card_words
from noema.store.students import join_of_class, student_by_id
from tests.trade import PASSWORD, SECRET, School

AXE = (Path(__file__).parent / "axe.min.js").read_text(encoding="utf-8")
GRAVE = ("serious", "critical")
CHROMIUM = "/usr/bin/chromium"
PHONE = {"width": 390, "height": 844}
expect.set_options(timeout=20_000)  # ms; a busy machine may be slow, and nothing waits in vain
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


@contextmanager
def opened(address: str, *more_flags: str, refused: str = "") -> Iterator[Page]:
    """A page of a browser; whatever it complains of fails the test, but for a status expected."""
    with sync_playwright() as playwright:
        flags = [*FLAGS, *more_flags]
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=flags)
        page = browser.new_page(base_url=address, viewport={"width": 1280, "height": 800})
        complaints: list[str] = []
        page.on("pageerror", lambda wrong: complaints.append(str(wrong)))
        page.on(
            "console",
            lambda said: complaints.append(said.text) if said.type == "error" else None,
        )
        yield page
        browser.close()
        kept = [said for said in complaints if not refused or refused not in said]
        assert kept == [], kept


@contextmanager
def touched(address: str) -> Iterator[Page]:
    """A phone that is touched; whatever it complains of fails the test."""
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_page(base_url=address, viewport=PHONE, has_touch=True)
        complaints: list[str] = []
        page.on("pageerror", lambda wrong: complaints.append(str(wrong)))
        yield page
        browser.close()
        assert complaints == []


def fits(page: Page) -> bool:
    """Nothing sticks out of a phone's side."""
    return bool(page.evaluate("document.documentElement.scrollWidth <= window.innerWidth"))


def tapped(page: Page, locator: Locator) -> None:
    locator.scroll_into_view_if_needed()
    locator.tap()


def grave_faults(page: Page) -> list[tuple[str, str]]:
    """What axe-core finds serious or critical on a page: the rule and where.

    Its script comes in beside the page's own policy, which would refuse it.
    """
    page.evaluate(AXE)
    found = page.evaluate("async () => (await axe.run()).violations")
    return [(one["id"], one["nodes"][0]["html"]) for one in found if one["impact"] in GRAVE]


def hold_out_card(page: Page, school: School) -> None:
    """Come in as the first student of a class, by the address on their card."""
    with school.sessions() as session:
        join = join_of_class(session, school.class_id)
        holder = student_by_id(session, school.sheets()[0].student_id or 0)
    assert holder is not None
    words = "-".join(card_words(SECRET, holder.id, holder.card_serial))
    page.goto(f"/join#code={join.join_code}&card={words}")
    expect(page.locator("input[name=code]")).to_have_value(join.join_code)
    assert "#" not in page.url
    page.locator("main form button").first.click()


def log_in(page: Page, school: School) -> None:
    page.goto("/")
    page.get_by_label("E-mail").fill(school.email)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Log in").click()
    expect(page.get_by_role("heading", name="What waits")).to_be_visible()
