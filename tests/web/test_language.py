"""Pages in the language their reader chose, and what people wrote left as it is."""

from dataclasses import replace
from datetime import date

import pytest

from noema.assemble_pages import web_application_of
from noema.core.judging.judgement import Finding, FindingKind
from noema.core.language import Term, gettext, ngettext, said_again, source_of, speaking, written
from noema.core.progress.states import PhotoState
from noema.formats import days
from noema.formats.facts_json import facts_from_json, facts_to_json
from noema.store.assignments import set_title
from noema.store.classes import students_of_class
from noema.store.photographs import set_photo_state
from noema.web.language.catalogues import PSEUDO


@pytest.fixture
def offering(settings, sessions):
    """The application as developers start it."""
    app = web_application_of(replace(settings, pseudo_language=1), sessions)
    app.config["WTF_CSRF_ENABLED"] = False
    return app


def chosen(client, name: str = PSEUDO, back: str = "/plan"):
    return client.post("/language", data={"language": name, "back": back})


def test_a_language_is_chosen_and_the_page_shown_again(offering, school):
    client = school.teacher(offering)
    assert 'lang="en"' in client.get("/plan").text
    answer = chosen(client)
    assert (answer.status_code, answer.location) == (303, "/plan")
    page = client.get("/plan").text
    assert 'lang="en-x-pseudo"' in page
    assert "⟦Plàñ~⟧" in page
    chosen(client, "en")
    assert "⟦" not in client.get("/plan").text


def test_it_leads_nowhere_else(offering, school):
    client = school.teacher(offering)
    assert chosen(client, back="//elsewhere.example").location == "/"


def test_where_it_isnt_offered_it_cant_be_chosen(app, school):
    client = school.teacher(app)
    assert PSEUDO not in client.get("/plan").text
    chosen(client)
    assert "⟦" not in client.get("/plan").text


def test_a_refusal_is_said_in_the_readers_language(offering, school):
    client = school.teacher(offering)
    chosen(client)
    said = client.post("/school", data={"time_zone": "Nowhere/Land"}).text
    assert "⟦" in said.split("<main")[1].replace("⟦Gö bàçk", "")


def test_a_languages_end_is_the_requests(offering, school):
    client = school.teacher(offering)
    chosen(client)
    client.get("/plan")
    assert gettext("Plan") == "Plan"


def test_what_was_kept_is_said_in_the_readers_language_and_its_markup_is_inert(offering, school):
    photograph = school.hands_in(school.photo_of(school.sheets()[0]), read=False).photo.id
    with school.sessions.begin() as session:
        reason = "The sheet is there but its code can't be read.\n<b>bold</b>"
        set_photo_state(session, photograph, PhotoState.UNMATCHED, reason=reason)
    client = school.teacher(offering)
    chosen(client)
    tray = client.get("/photograph").text.split('id="tray"')[1]
    assert "⟦Thé šhéét îš théré bût îtš çödé" in tray
    assert "&lt;b&gt;bold&lt;/b&gt;" in tray


def test_counts_have_their_forms():
    with speaking(PSEUDO):
        one, many = (ngettext("%(count)s cell", "%(count)s cells", count) for count in (1, 2))
    assert (one, many) == ("⟦1 çéll~⟧", "⟦2 çéllš~~⟧")
    assert ngettext("%(count)s cell", "%(count)s cells", 2) == "2 cells"


def test_markup_in_a_name_is_inert_inside_a_message(offering, school):
    client = school.teacher(offering)
    client.post(f"/classes/{school.class_id}/roster", data={"text": "Eve <b>Bold</b>"})
    with school.sessions() as session:
        student = next(
            one for one in students_of_class(session, school.class_id) if "Bold" in one.display_name
        )
    page = f"/classes/{school.class_id}/students/{student.id}/record"
    for language, word in (("en", "goes"), (PSEUDO, "göéš")):
        chosen(client, language)
        said = client.get(page).text
        assert f"Eve &lt;b&gt;Bold&lt;/b&gt; {word}" in said
        assert "<b>Bold" not in said


def lang_of(client, address: str = "/plan") -> str:
    return client.get(address).text.split('<html lang="')[1].split('"')[0]


def test_a_person_keeps_a_language_wherever_they_come_in(app, school):
    chosen(school.teacher(app), "fr")
    elsewhere = school.teacher(app)
    assert lang_of(elsewhere) == "fr"
    assert "Prévoir" in elsewhere.get("/plan").text


def test_a_school_speaks_its_language_to_whoever_chose_none(app, school):
    client, student = school.teacher(app), school.student(app)
    client.post("/school/language", data={"language": "de"})
    assert (lang_of(client), lang_of(student, "/me")) == ("de", "de")
    student.post("/language", data={"language": "es", "back": "/me"})
    assert (lang_of(client), lang_of(student, "/me")) == ("de", "es")


def test_a_language_that_isnt_there_is_refused(app, school):
    client = school.teacher(app)
    answer = client.post("/school/language", data={"language": "tlh"})
    assert answer.status_code == 422
    assert lang_of(client) == "en"


def test_a_visitor_is_answered_as_their_browser_asks(app, school):
    client = app.test_client()
    said = client.get("/log-in", headers={"Accept-Language": "de-AT,de;q=0.9,en;q=0.5"}).text
    assert '<html lang="de"' in said
    assert "Anmelden" in said
    chosen(client, "es", back="/log-in")
    assert '<html lang="es"' in client.get("/log-in", headers={"Accept-Language": "de"}).text


def test_what_one_student_chose_on_a_shared_device_isnt_the_nexts(app, school):
    client = school.student(app)
    client.post("/language", data={"language": "fr", "back": "/me"})
    client.post("/leave")
    assert lang_of(client, "/join") == "en"


@pytest.mark.parametrize(
    ("code", "day", "number"),
    [
        ("en", "5 October 2026", "2.5"),
        ("de", "5. Oktober 2026", "2,5"),
        ("es", "5 de octubre de 2026", "2,5"),
        ("fr", "5 octobre 2026", "2,5"),
    ],
)
def test_days_and_numbers_are_written_as_there(code, day, number):
    with speaking(code):
        assert (days.day(date(2026, 10, 5)), written(2.5)) == (day, number)


def test_a_sentence_is_said_again_in_another_language():
    said = gettext("%(label)s as it comes.", label=Term("rose"))
    assert said == "rose as it comes."
    with speaking("de"):
        assert said_again(source_of(said)) == "Rosa, wie es aus der Tube kommt."


def test_a_sheet_speaks_its_students_language_whoever_prints_it(app, school):
    teacher, student = school.teacher(app), school.student(app)
    student.post("/language", data={"language": "de", "back": "/me"})
    sheets = {sheet.student_id: sheet for sheet in school.sheets()}
    own = sheets[school.sheets()[0].student_id]
    other = next(sheet for sheet in sheets.values() if sheet is not own)
    said = [teacher.get(f"/sheets/{sheet.id}.svg").text for sheet in (own, other)]
    assert ["Bis " in one for one in said] == [True, False]
    assert ["Due by" in one for one in said] == [False, True]


def test_a_title_is_said_in_the_readers_language_until_somebody_calls_it_otherwise(app, school):
    client = school.teacher(app)
    assert "Value scale, 5 steps" in client.get("/plan").text
    client.post("/language", data={"language": "de", "back": "/plan"})
    page = client.get("/plan").text
    assert "Tonwertskala, 5 Stufen" in page
    assert "Value scale" not in page
    with school.sessions.begin() as session:
        set_title(session, school.assignment_id, "Our greys")
    assert "Our greys" in client.get("/plan").text


def test_a_findings_names_are_said_in_the_readers_language():
    finding = Finding(kind=FindingKind.NOT_NEUTRAL, cells=("c1",), amount=1.0, each=("yellow",))
    kept = facts_to_json(finding)
    with speaking("es"):
        assert gettext("%(to)s", to=facts_from_json(Finding, kept).each[0]) == "amarillo"
