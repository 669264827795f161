"""Pages in the language their reader chose, and what people wrote left as it is."""

from dataclasses import replace
from gettext import GNUTranslations

import pytest

from noema.assemble_pages import web_application_of
from noema.core.language import gettext, ngettext, say_by
from noema.core.progress.states import PhotoState
from noema.store.classes import students_of_class
from noema.store.photographs import set_photo_state
from noema.web.language.catalogues import PSEUDO
from tools import catalogue


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
    assert "/language" not in client.get("/plan").text
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
    with catalogue.PSEUDO.open("rb") as file:
        say_by(GNUTranslations(file))
    one, many = (ngettext("%(count)s cell", "%(count)s cells", count) for count in (1, 2))
    say_by(None)
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
