"""Every screen, wide, narrow and at 200%: nothing serious by axe-core, and nothing sticks out.

By keys alone, in forced colours, without motion, and on paper, too.
"""

from playwright.sync_api import Page

from noema.actions.work_out_exercise import Chosen
from noema.core.exercises.catalogue import kind_of
from noema.core.pigments.shelf import builtin_set
from tests.road.browser import fits, grave_faults, hold_out_card, log_in
from tests.trade import found_school

_TEACHERS = (
    "/", "/plan", "/classes/new", "/classes/{c}", "/classes/{c}/settings", "/classes/{c}/assign",
    "/classes/{c}/cards", "/classes/{c}/unit", "/classes/{c}/bench", "/classes/{c}/logbook",
    "/classes/{c}/pictures", "/classes/{c}/records", "/classes/{c}/grades",
    "/assignments/{a}/key", "/assignments/{a}/change", "/assignments/{a}/sheets", "/print",
    "/printers", "/photograph", "/photograph/advice", "/photograph/again", "/photograph/camera",
    "/review", "/review/{p}", "/review/{p}/whose", "/exercises/{a}/patterns",
    "/exercises/{a}/hand-out", "/return", "/return/{p}/slip", "/progress", "/progress/classes/{c}",
    "/progress/classes/{c}/skills", "/progress/classes/{c}/students/{s}",
    "/progress/classes/{c}/students/{s}/parents", "/paints", "/paints/new", "/paints/hues",
    "/paints/sets/split-six", "/paints/sets/split-six/reach", "/paints/sets/split-six/explore",
    "/paints/sets/split-six/pairs", "/paints/sets/split-six/exercises",
    "/rubric", "/rosters", "/keeping", "/school", "/school/cupboard",
    "/school/people", "/school/record", "/account", "/outbox", "/find?words=a", "/help", "/trial",
    "/classes/{c}/students/{s}/record", "/paints/tubes/new", "/photographs/{p}/outline",
    "/photographs/{p}/whose", "/return/assignments/{a}/slips",
)  # fmt: skip
_VISITORS = ("/log-in", "/join", "/forgotten")
_STUDENTS = (
    "/me", "/me/progress", "/me/exercises/{a}", "/me/exercises/{a}/photograph",
    "/me/photographs/{p}", "/me/bench", "/me/eye", "/me/logbook", "/me/pictures", "/me/help",
    "/me/eye/paper",
)  # fmt: skip
_LISTS = (
    "/plan", "/classes/{c}", "/classes/{c}/records", "/classes/{c}/grades", "/print", "/review",
    "/return", "/progress", "/progress/classes/{c}", "/progress/classes/{c}/skills",
    "/progress/classes/{c}/students/{s}", "/paints/sets/split-six", "/school/cupboard",
    "/school/people", "/school/record", "/rosters", "/classes/{c}/logbook",
)  # fmt: skip
_SIZES = {
    "wide": {"width": 1280, "height": 800},
    "narrow": {"width": 390, "height": 844},
    "at 200%": {"width": 640, "height": 400},  # 1280 by 800
}
_A4 = {"width": 718, "height": 1000}  # what margins leave of a page, in CSS pixels
_REACHED = """() => [...document.querySelectorAll(
  "main a[href], main button, main select, main textarea, main input:not([type=hidden])"
)].filter((one) => one.checkVisibility() && !one.disabled && one.tabIndex >= 0
  && !(one.type === "radio" && !one.checked)).length"""
_FOCUSED = """() => {
  const one = document.activeElement;
  window.reached ??= new Set();
  if (one.closest("main")) window.reached.add(one);
  if (!one.closest("main") || one.type === "date") return null;  // whose parts are the browser's
  const style = getComputedStyle(one);
  const drawn = one.querySelector(".ring, .edge, .reach, .spot-over");  // has a line of its own
  return drawn !== null || style.outlineStyle !== "none" || style.boxShadow !== "none";
}"""


def _school(sessions, files):
    wheel = Chosen(
        kind="colour-wheel",
        options=kind_of("colour-wheel").chosen({}),
        paints=builtin_set("split-six"),
        set_ref="split-six",
    )
    school = found_school(sessions, files, chosen=wheel)
    photo = school.reviewable()
    about = {
        "c": school.class_id,
        "a": school.assignment_id,
        "p": photo,
        "s": school.sheets()[0].student_id,
    }
    return school, about


def _looks_at(page: Page, addresses, about, sizes=(None,)) -> dict[str, object]:
    """What is wrong, by address."""
    wrong: dict[str, object] = {}
    for address in addresses:
        answer = page.goto(address.format(**about))
        if answer is None or answer.status != 200:
            wrong[address] = answer and answer.status
            continue
        for size in sizes:
            if size is not None:
                page.set_viewport_size(_SIZES[size])
            faults: list[object] = [*grave_faults(page)]
            if not fits(page):
                faults.append("sticks out")
            if faults:
                wrong[f"{address} {size or ''}"] = faults
    return wrong


def test_no_screen_of_a_teacher_has_a_grave_fault_or_sticks_out(page, sessions, files):
    school, about = _school(sessions, files)
    log_in(page, school)
    assert _looks_at(page, _TEACHERS, about, _SIZES) == {}


def test_no_door_has_a_grave_fault_or_sticks_out(page, sessions, files):
    _school(sessions, files)  # without one there is nothing to come in to
    assert _looks_at(page, _VISITORS, {}, _SIZES) == {}


def test_every_screen_is_gone_through_by_keys_alone(page, sessions, files):
    """Tab reaches all that can be used, shows where it is, and leads out again."""
    school, about = _school(sessions, files)
    log_in(page, school)
    wrong = {}
    for address in _TEACHERS:
        page.goto(address.format(**about))
        there = page.evaluate(_REACHED)
        shown = []
        for _ in range(there + 40):  # what is before the page's own matter, and radio buttons
            page.keyboard.press("Tab")
            shown.append(page.evaluate(_FOCUSED))
        reached = page.evaluate("() => window.reached?.size ?? 0")
        if reached < there or False in shown:
            wrong[address] = f"{reached} of {there}, {shown.count(False)} unseen"
    assert wrong == {}


def test_lists_are_printed_whole_and_without_what_is_only_for_screens(page, sessions, files):
    school, about = _school(sessions, files)
    log_in(page, school)
    page.set_viewport_size(_A4)
    page.emulate_media(media="print")
    wrong = {}
    for address in _LISTS:
        page.goto(address.format(**about))
        shown = [
            name
            for name in ("header.band", "body > footer", "main button", "main .button")
            if page.locator(name).locator("visible=true").count()
        ]
        if not page.locator("h1").first.is_visible():
            shown.append("no heading")
        if not fits(page):
            shown.append("sticks out")
        if shown:
            wrong[address] = shown
    assert wrong == {}


def test_in_forced_colours_and_without_motion_pages_still_say_what_they_say(page, sessions, files):
    school, about = _school(sessions, files)
    log_in(page, school)
    page.emulate_media(forced_colors="active", reduced_motion="reduce")
    for address in ("/", "/review/{p}", "/classes/{c}/assign"):
        page.goto(address.format(**about))
        moving = page.evaluate(
            "[...document.querySelectorAll('*')].filter((e) => {"
            " const s = getComputedStyle(e); return parseFloat(s.transitionDuration) > 0"
            " || (s.animationName !== 'none' && parseFloat(s.animationDuration) > 0) }).length"
        )
        assert moving == 0, address
    page.goto(f"/review/{about['p']}")
    fills = page.evaluate(
        "[...document.querySelectorAll('.joint .swatch rect')]"
        ".map((e) => [getComputedStyle(e).fill, e.getAttribute('fill')])"
    )
    assert fills
    for shown, given in fills:  # paint keeps its own colour: it is what is looked at
        red, green, blue = (int(given[n : n + 2], 16) for n in (1, 3, 5))
        assert shown == f"rgb({red}, {green}, {blue})"


def test_no_screen_of_a_student_has_a_grave_fault(phone, sessions, files):
    school, about = _school(sessions, files)
    hold_out_card(phone, school)
    phone.wait_for_url("**/me")
    assert _looks_at(phone, _STUDENTS, about) == {}
