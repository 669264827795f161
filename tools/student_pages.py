"""Measures students' pages on a slow phone against the running demo: how soon, steady, heavy.

Largest contentful paint and layout shift as browsers report them (W3C Largest Contentful Paint,
Layout Instability), on a link of 150 ms and 1.6 Mbit/s and a processor four times slower; with an
empty cache, and once more with what the first page left in it. Times are shares of a second.
"""

import re

from playwright.sync_api import Browser, Page, sync_playwright

from tools.local import DEMO, address

SLOW_LINK = {
    "offline": False,
    "latency": 150,  # ms
    "downloadThroughput": 1.6e6 / 8,  # bytes a second
    "uploadThroughput": 750e3 / 8,
}
_SLOWER = 4
_PAGES = ("/me", "/me/progress", "/me/bench", "/me/eye", "/me/logbook", "/me/pictures", "/me/help")
_WATCH = """
window.painted = 0; window.shifted = 0;
new PerformanceObserver((list) => { for (const one of list.getEntries()) painted = one.startTime })
  .observe({ type: 'largest-contentful-paint', buffered: true });
new PerformanceObserver((list) => {
  for (const one of list.getEntries()) if (!one.hadRecentInput) shifted += one.value })
  .observe({ type: 'layout-shift', buffered: true });
"""


def main() -> None:
    """Print a line for each page."""
    told = (DEMO / "demo.log").read_text(encoding="utf-8")
    code, card = re.findall(r"class code (\w+), card “([^”]+)”", told)[-1]
    door = f"/join#code={code}&card={card.replace(' ', '-')}"
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"]
        )
        print("page: paint / 1 s with an empty cache, with a filled one; shift; KB of scripts")
        for path in (*_PAGES, *_exercises(browser, door)):
            cold, shift, scripts = _measured(browser, door, path, warm=False)
            warm, _, _ = _measured(browser, door, path, warm=True)
            print(f"{path}: {cold:.2f}, {warm:.2f}; {shift:.3f}; {scripts / 1000:.0f}")
        browser.close()


def _exercises(browser: Browser, door: str) -> list[str]:
    page = _come_in(browser, door)
    links = page.locator(".tasks a")
    paths = [str(links.nth(n).get_attribute("href")) for n in range(min(links.count(), 2))]
    page.context.close()
    return paths


def _come_in(browser: Browser, door: str) -> Page:
    context = browser.new_context(
        base_url=address(), viewport={"width": 390, "height": 844}, has_touch=True
    )
    page = context.new_page()
    page.goto(door)
    page.locator("main form button").first.click()
    page.wait_for_url("**/me")
    return page


def _measured(browser: Browser, door: str, path: str, *, warm: bool) -> tuple[float, float, int]:
    page = _come_in(browser, door)
    link = page.context.new_cdp_session(page)
    link.send("Network.enable")
    if not warm:
        link.send("Network.clearBrowserCache")
    link.send("Network.emulateNetworkConditions", SLOW_LINK)
    link.send("Emulation.setCPUThrottlingRate", {"rate": _SLOWER})
    page.add_init_script(_WATCH)
    scripts = 0

    def count(answer: object) -> None:
        nonlocal scripts
        if getattr(answer, "url", "").split("?")[0].endswith(".js"):
            scripts += len(answer.body())  # type: ignore[attr-defined]

    page.on("response", count)
    page.goto(path)
    page.wait_for_load_state("networkidle")
    paint, shift = page.evaluate("[painted, shifted]")
    page.context.close()
    return float(paint) / 1000.0, float(shift), scripts


if __name__ == "__main__":
    main()
