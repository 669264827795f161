"""Takes the pictures in docs/screenshots, and small ones for the guide: `make screenshots`."""

from pathlib import Path
from tempfile import TemporaryDirectory

import numpy as np
from PIL import Image
from playwright.sync_api import Browser, Page, sync_playwright

from noema.formats.photo_file import jpeg_bytes, open_photo
from noema.stand_ins.saltmarsh import PASSWORD, TEACHERS
from noema.stand_ins.studio import take_picture
from tools.local import address
from tools.photographs import any_sheet_of

FOLDER = Path(__file__).parents[1] / "docs/screenshots"
GUIDE = Path(__file__).parents[1] / "noema/web/help/guide/pictures"
GUIDE_WIDTH = 640
FIRST_CLASS = "Year 8 Colour"
FILM = "--use-file-for-fake-video-capture"
FLAGS = (
    "--no-sandbox",
    "--disable-gpu",
    "--use-fake-ui-for-media-stream",
    "--use-fake-device-for-media-stream",
)
DESK, PHONE = {"width": 1280, "height": 800}, {"width": 390, "height": 844}


PAGES = {
    "reach": "/paints/sets/split-six/reach",
    "cupboard": "/school/cupboard",
}


def filmed(folder: Path) -> Path:
    """Give a film of the stand-in camera held over a sheet; browsers stretch its range."""
    layout, pdf = any_sheet_of(8)
    jpeg = take_picture(layout, pdf, seed=6, preset="easy", size_px=(1280, 960)).jpeg
    darker = (open_photo(jpeg).rgb * 0.85).astype(np.uint8)
    film = folder / "film.mjpeg"
    film.write_bytes(jpeg_bytes(darker) * 3)
    return film


def class_page(page: Page) -> str:
    """Give the address of the class that is shown."""
    page.goto("/plan")
    link = page.get_by_role("heading", name=FIRST_CLASS).get_by_role("link")
    return str(link.get_attribute("href"))


def shrink() -> None:
    """Make the guide's pictures out of the others."""
    for path in FOLDER.glob("*.png"):
        picture = Image.open(path).convert("RGB")
        width = min(GUIDE_WIDTH, picture.width)
        size = (width, round(picture.height * width / picture.width))
        small = picture.resize(size, Image.Resampling.LANCZOS)
        small.save(GUIDE / f"{path.stem}.webp", quality=72, method=6)


def shoot(page: Page, name: str) -> None:
    page.wait_for_load_state("networkidle")
    page.screenshot(path=FOLDER / f"{name}.png")


def come_in(browser: Browser, door: str) -> Page:
    """Come in as a student, on a phone."""
    phone = browser.new_context(base_url=address(), viewport=PHONE).new_page()
    phone.goto(door)
    phone.get_by_role("button", name="Come in").click()
    phone.wait_for_url(lambda url: "/join" not in url)
    return phone


def shoot_phones(browser: Browser, doors: list[str]) -> None:
    """Look at a sheet that was read, and at the eye of the first who trained it."""
    phone = come_in(browser, doors[0])
    phone.get_by_role("link", name="Value scale, 7 steps").click()
    rather_not = phone.get_by_role("button", name="I’d rather not say")
    if rather_not.count():
        rather_not.click()
    shoot(phone, "painting")
    for door in doors:
        phone = come_in(browser, door)
        phone.goto("/me/eye")
        if phone.get_by_text("You tell values apart").count():
            phone.screenshot(path=FOLDER / "eye.png", full_page=True)
            return


def doors_of(page: Page) -> list[str]:
    """Read the cards of a class, from its eleventh on."""
    page.goto(f"{class_page(page)}/cards")
    codes = page.locator(".student-card .soft").all_inner_texts()[10:]
    words = page.locator(".student-card .words").all_inner_texts()[10:]
    return [
        f"/join#code={code.split('·')[1].strip()}&card={card.replace(' ', '-')}"
        for code, card in zip(codes, words, strict=True)
    ]


def shoot_plan(page: Page) -> None:
    """Look at a class's unit in time and at its next lesson."""
    page.locator("nav.stages").get_by_role("link", name="Plan").click()
    first = page.locator("section.panel").filter(has_text=FIRST_CLASS)
    first.get_by_role("link", name="Unit in time", exact=True).click()
    shoot(page, "unit")
    following = page.locator("svg.minutes a").filter(has_text="next")
    page.goto(str(following.get_attribute("href")))  # its middle takes hold of a piece instead
    shoot(page, "lesson")


def shoot_bench(page: Page) -> None:
    """Mix a little on a class's bench, and look for a colour in its logbook."""
    of_class = class_page(page)
    page.goto(f"{of_class}/bench")
    page.get_by_role("button", name="The cleanest violet").click()
    page.wait_for_load_state("networkidle")  # keys are heard once the scripts are there
    for key in ("5", "h", "Enter", "w", "4", "p", "Enter", "w", "1", "h", "Enter", "l", "y"):
        page.keyboard.press(key)
    page.get_by_text("Look at the").wait_for()
    shoot(page, "bench")
    page.goto(f"{of_class}/logbook?lightness=45&a=2&b=-2")
    shoot(page, "logbook")


def shoot_picture(page: Page) -> None:
    """Look at a picture's spots, and at which few tubes would do for it."""
    page.goto(f"{class_page(page)}/pictures")
    page.get_by_role("link", name="Harbour").click()
    page.get_by_role("link", name="1 the red boat").click()
    shoot(page, "picture")
    page.get_by_role("link", name="Which few tubes").click()
    shoot(page, "few-tubes")


def main() -> None:
    FOLDER.mkdir(parents=True, exist_ok=True)
    with TemporaryDirectory() as folder, sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=[*FLAGS, f"{FILM}={filmed(Path(folder))}"]
        )
        page = browser.new_page(base_url=address(), viewport=DESK)
        page.goto("/log-in")
        page.get_by_label("E-mail").fill(TEACHERS[0][0])
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Log in").click()
        shoot(page, "today")
        shoot_plan(page)
        for name in ("Photograph", "Review"):
            page.locator("nav.stages").get_by_role("link", name=name).click()
            shoot(page, name.lower())
        page.locator("nav.stages").get_by_role("link", name="Review").click()
        page.get_by_role("link", name="Begin with the first").click()
        shoot(page, "desk")
        page.locator("nav.stages").get_by_role("link", name="Review").click()
        chart = page.locator("section.panel").filter(has_text="Intensity chart")
        chart.get_by_role("link").nth(1).click()
        shoot(page, "desk-colour")
        page.locator("nav.stages").get_by_role("link", name="Review").click()
        page.get_by_role("link", name="Plan", exact=True).click()
        page.get_by_role("link", name="Intensity chart, 7 steps", exact=True).click()
        page.get_by_role("link", name="Give it again").click()
        shoot(page, "assign")
        for name, url in PAGES.items():
            page.goto(url)
            shoot(page, name)
        page.locator("nav.stages").get_by_role("link", name="Progress").click()
        page.get_by_role("link", name=FIRST_CLASS).click()
        shoot(page, "class")
        page.get_by_role("link", name="Skills", exact=True).click()
        page.get_by_role("link", name="Kaya Minton").click()
        shoot(page, "student")
        shoot_bench(page)
        shoot_picture(page)
        doors = doors_of(page)
        page.set_viewport_size(PHONE)
        page.goto("/photograph/camera")
        page.locator(".ready").wait_for()
        page.screenshot(path=FOLDER / "camera.png")
        shoot_phones(browser, doors)
        browser.close()
    shrink()


if __name__ == "__main__":
    main()
