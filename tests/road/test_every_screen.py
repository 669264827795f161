"""Every screen: nothing serious by axe-core, nothing sticks out at 200%, whatever the colours."""

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
)  # fmt: skip
_STUDENTS = (
    "/me", "/me/progress", "/me/exercises/{a}", "/me/exercises/{a}/photograph",
    "/me/photographs/{p}", "/me/bench", "/me/eye", "/me/logbook", "/me/pictures", "/me/help",
)  # fmt: skip
_ZOOMED = {"width": 640, "height": 400}  # 1280 by 800 at 200%


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


def _looks_at(page: Page, addresses, about) -> dict[str, object]:
    """What is wrong, by address."""
    wrong: dict[str, object] = {}
    for address in addresses:
        answer = page.goto(address.format(**about))
        if answer is None or answer.status != 200:
            wrong[address] = answer and answer.status
            continue
        faults = grave_faults(page)
        if faults:
            wrong[address] = faults
    return wrong


def test_no_screen_of_a_teacher_has_a_grave_fault(page, sessions, files):
    school, about = _school(sessions, files)
    log_in(page, school)
    assert _looks_at(page, _TEACHERS, about) == {}


def test_at_twice_the_size_nothing_sticks_out(page, sessions, files):
    school, about = _school(sessions, files)
    log_in(page, school)
    page.set_viewport_size(_ZOOMED)
    sticks = []
    for address in _TEACHERS:
        page.goto(address.format(**about))
        if not fits(page):
            sticks.append(address)
    assert sticks == []


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
    for address in _STUDENTS:
        phone.goto(address.format(**about))
        assert fits(phone), address
