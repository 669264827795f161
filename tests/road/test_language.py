"""Every screen in the pseudo-language: nothing untranslated shows, and nothing is cut off.

What people wrote, and the names of paints and hues, stand as they are kept; everything else must
come between the pseudo-language's brackets. The guide has no pseudo-language, and says so. Then the
screens again in each language, where nothing may be left in English.
"""

import re
from collections.abc import Callable
from contextlib import contextmanager
from dataclasses import replace
from gettext import GNUTranslations
from threading import Thread
from urllib.parse import parse_qsl, urljoin, urlsplit

import pytest
from playwright.sync_api import Page
from werkzeug.serving import make_server

from noema.actions.work_out_exercise import Chosen
from noema.assemble_pages import web_application_of
from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.catalogue import kind_of
from noema.core.judging.review import Decision, Verb
from noema.core.language import LANGUAGES, speaking
from noema.core.pigments.shelf import SETS, TUBES, builtin_set
from noema.stand_ins.mishap import Mishap
from noema.stand_ins.painter import Hand
from noema.web.language.catalogues import PSEUDO as PSEUDO_CODE
from tests.road.browser import hold_out_card, log_in, opened
from tests.trade import NAMES, found_school
from tools.catalogue import CLOSES, OPENS, OTHERS, spoken_by

LEFT_ALONE = re.compile(
    r"\.(pdf|zip|csv|json|txt|ics|jpg|png|svg|gpl)$"
    r"|/(log-out|original|straight|file|archive|roster|grades|results|due)$"
)
_CODES = re.compile(
    r"[A-Z0-9]{4}-\d\d|\b[A-Z]{6}\b|\d[\d.]*(R|YR|Y|GY|G|BG|B|PB|P|RP)\b|\bP[A-Za-z]{1,2}\d+[:\d]*"
)
"""Codes of sheets and classes, notations of hue, pigments."""

_UNITS = {"mm", "ml", "px", "CIEDE2000", "CIELAB", "Lab", "JPEG", "PDF", "CSV", "JSON", "CGATS"}
_OWN = {"Noema", "School", "Year", "Ms", "Teal", "en", "photo", "jpg", "http", "example", "join"}
TEXTS = """() => {
  const said = [];
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  while (walk.nextNode()) {
    const at = walk.currentNode.parentElement;
    const known = at.closest("script, style, noscript, [translate=no], [lang=en]");
    if (!known) said.push(walk.currentNode.data);
  }
  for (const one of document.querySelectorAll("[aria-label], [placeholder], [title], [alt]"))
    for (const name of ["aria-label", "placeholder", "title", "alt"])
      if (one.hasAttribute(name) && !one.closest("[lang=en]")) said.push(one.getAttribute(name));
  said.push(document.title);
  return said.join("\\n");
}"""
LINKS = "all => all.map((one) => new URL(one.getAttribute('href'), document.baseURI).href)"
CUT = """() => {
  const found = [];
  const wide = document.documentElement;
  if (wide.scrollWidth > wide.clientWidth + 1) found.push(`the page is ${wide.scrollWidth} wide`);
  for (const one of document.querySelectorAll("main *, header *")) {
    const style = getComputedStyle(one);
    const hides = ["overflowX", "overflowY"].some((way) => /hidden|clip/.test(style[way]));
    const own = [...one.childNodes].some((node) => node.nodeType === 3 && node.data.trim());
    if (hides && own && !one.closest(".clip") && one.clientWidth > 1 &&
        (one.scrollWidth > one.clientWidth + 1 || one.scrollHeight > one.clientHeight + 2))
      found.push(`${one.tagName} ${one.className}: ${one.textContent.trim().slice(0, 60)}`);
  }
  return found;
}"""


def school_at_work(sessions, files):
    """Found a school with one sheet read, one sent back and one nobody knows."""
    wheel = kind_of("colour-wheel")
    paints = builtin_set("split-six")
    chosen = Chosen(
        kind=wheel.name,
        options=wheel.chosen({"hues": 6}),
        paints=paints,
        set_ref=paints.name,
    )
    school = found_school(sessions, files, chosen=chosen)
    sheets = school.sheets()
    read = school.hands_in(school.photo_of(sheets[0])).photo.id
    back = school.hands_in(school.photo_of(sheets[1], hand=Hand(step_noise=1.5))).photo.id
    school.decides(back, Decision(verb=Verb.LEAVE_OUT, cell=school.attempt(back).tally["ids"][0]))
    school.decides(back, Decision(verb=Verb.SEND_BACK, sentence="School"))
    school.hands_in(school.photo_of(sheets[2], mishap=Mishap(hide_code=True)), name="photo.jpg")
    return school, read, back


@pytest.fixture(scope="module")
def spoken(settings, sessions, files):
    """A school whose work was given in the pseudo-language, and the address of its Noema."""
    with speaking(PSEUDO_CODE):
        school, read, back = school_at_work(sessions, files)
    app = web_application_of(replace(settings, pseudo_language=1), sessions)
    with serving(app) as address:
        yield school, address, (read, back)


@contextmanager
def serving(app):
    server = make_server("127.0.0.1", 0, app, threaded=True)
    Thread(target=server.serve_forever, daemon=True).start()
    yield f"http://127.0.0.1:{server.server_port}"
    server.shutdown()
    server.server_close()


def words_left(said: str) -> list[str]:
    """Give the words that stand outside all brackets and are nobody's own."""
    known = {word for text in _data() for word in re.findall(r"[A-Za-z']+", text.lower())}
    depth, outside = 0, []
    for letter in said:
        depth += (letter == OPENS) - (letter == CLOSES)
        outside.append(letter if depth == 0 and letter != CLOSES else " ")
    left = re.findall(r"[A-Za-zÀ-ž']{2,}", _CODES.sub(" ", "".join(outside)))
    return [word for word in left if word.lower() not in known]


def _data() -> set[str]:
    return {
        *NAMES,
        *_UNITS,
        *_OWN,
        *(hue.name for hue in USUAL_HUES.hues(12)),
        *(tube.label for tube in TUBES.values()),
        *(part for one in SETS.values() for part in (one.label, one.says)),
    }


def shape_of(address: str) -> str:
    """Give what addresses of one screen have in common."""
    parts = urlsplit(address)
    path = re.sub(r"\d+", "N", parts.path)
    path = re.sub(r"^/paints/sets/[^/]+", "/paints/sets/X", path)
    return f"{path}?{','.join(sorted(name for name, _ in parse_qsl(parts.query)))}"


def path_of(address: str) -> str:
    """Give what addresses of one page have in common, however it is looked at."""
    return shape_of(address).partition("?")[0]


def walk(
    page: Page,
    start: str,
    left: Callable[[str], list[str]] = words_left,
    alike: Callable[[str], str] = shape_of,
) -> tuple[int, dict[str, list[str]]]:
    """Look at a screen of every shape that links lead to; give how many, and their faults."""
    seen: set[str] = set()
    faults = {}
    todo = [start]
    while todo:
        address = todo.pop(0)
        shape = alike(address)
        if shape in seen or LEFT_ALONE.search(urlsplit(address).path):
            continue
        seen.add(shape)
        page.goto(address)
        if found := [*left(page.evaluate(TEXTS)), *page.evaluate(CUT)]:
            faults[shape] = found
        links = page.eval_on_selector_all("a[href]", LINKS)
        home = urljoin(page.url, "/")
        todo += [one.split("#")[0] for one in links if one.startswith(home)]
    return len(seen), faults


def speak(page: Page) -> None:
    page.locator(f"button[name=language][value={PSEUDO_CODE}]").click()


def test_a_teachers_screens_are_all_translated_and_whole(spoken):
    school, address, _ = spoken
    with opened(address) as page:
        log_in(page, school)
        speak(page)
        screens, faults = walk(page, f"{address}/")
    assert "\n".join(f"{s}: {f}" for s, f in faults.items()) == ""
    assert screens > 45


def test_a_students_screens_are_all_translated_and_whole(spoken):
    school, address, _ = spoken
    with opened(address) as page:
        page.set_viewport_size({"width": 390, "height": 844})
        page.goto(f"{address}/join")
        speak(page)
        hold_out_card(page, school)
        screens, faults = walk(page, f"{address}/me")
    assert "\n".join(f"{s}: {f}" for s, f in faults.items()) == ""
    assert screens > 2


def still_english(code: str) -> Callable[[str], list[str]]:
    """Find what is said on a page just as in English, though the language says it otherwise."""
    with spoken_by(code).open("rb") as file:
        catalogue = GNUTranslations(file)._catalog
    otherwise = {message for message, said in catalogue.items() if message not in ("", said)}
    alike = set(catalogue.values())
    return lambda said: [
        line
        for line in map(str.strip, said.split("\n"))
        if line in otherwise and line not in alike and line.lower() not in _own_words()
    ]


CALLED_IN_ENGLISH = ("Our printer",)
"""Names that things were given when the school was founded."""


def _own_words() -> set[str]:
    return {word.lower() for word in (*NAMES, *_OWN, *CALLED_IN_ENGLISH)}


@pytest.mark.parametrize("code", OTHERS)
def test_a_school_is_at_home_in_its_language(settings, sessions, files, code):
    """Its work was given in English; a teacher and a student of it hear everything in theirs."""
    school, *_ = school_at_work(sessions, files)
    with serving(web_application_of(settings, sessions)) as address, opened(address) as page:
        log_in(page, school)
        page.goto(f"{address}/school")
        page.locator("select[name=language]").select_option(code)
        page.locator("form[action$='/school/language'] button").click()
        assert page.locator("html").get_attribute("lang") == code
        screens, faults = walk(page, f"{address}/", still_english(code), path_of)
        assert "\n".join(f"{s}: {f}" for s, f in faults.items()) == ""
        assert screens > 45
    with serving(web_application_of(settings, sessions)) as address, opened(address) as phone:
        phone.set_viewport_size({"width": 390, "height": 844})
        hold_out_card(phone, school)
        assert phone.locator("html").get_attribute("lang") == code
        screens, faults = walk(phone, f"{address}/me", still_english(code))
        assert "\n".join(f"{s}: {f}" for s, f in faults.items()) == ""
        assert screens > 2
        phone.goto(f"{address}/me")
        phone.get_by_role("button", name=LANGUAGES["en"].name).click()
        assert phone.locator("html").get_attribute("lang") == "en"
