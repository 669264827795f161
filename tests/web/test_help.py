"""Help on every screen: three sentences and a picture, and the guide they are from."""

import re

import pytest

from noema.core.language import LANGUAGES, speaking
from noema.web.help.guides import PICTURES, chapter_of, guides
from noema.web.help.views import _BY_FEATURE, _OF_ADMINISTRATOR, _OF_STUDENT


def test_every_chapter_has_three_sentences_a_picture_and_a_name_of_its_own():
    for chapters in guides().values():
        names = [one.name for one in chapters]
        assert len(names) == len(set(names))
        for one in chapters:
            sentences = re.findall(r"[.:?](?=\s|<|$)", re.sub("<[^>]+>", "", one.short))
            assert 3 <= len(sentences) <= 5, one.title
            assert (PICTURES / f"{one.picture}.webp").exists(), one.title


def test_every_page_that_names_a_chapter_finds_it():
    for name in set(_BY_FEATURE.values()):
        assert chapter_of("teacher", name) is not None, name
    for name in set(_OF_ADMINISTRATOR.values()):
        assert chapter_of("administrator", name) is not None, name
    for name in set(_OF_STUDENT.values()):
        assert chapter_of("student", name) is not None, name


@pytest.mark.parametrize(
    ("path", "title"),
    [
        ("/plan", "Plan"),
        ("/review", "Review"),
        ("/", "The first week"),
        ("/school/people", "People"),
    ],
)
def test_the_question_mark_opens_what_helps_here(app, school, path, title):
    client = school.teacher(app)
    page = client.get(path)
    assert page.status_code == 200
    address = re.search(r'href="(/help[^"]*)" data-key="[?]"', page.text)[1].replace("&amp;", "&")
    short = client.get(address, headers={"HX-Request": "true"}).text
    assert f'<h2 lang="en">{title}</h2>' in short
    assert "<html" not in short
    assert "More in the guide" in short
    picture = re.search(r'src="([^"]+)"', short)[1]
    with client.get(picture) as answer:
        assert (answer.status_code, answer.mimetype) == (200, "image/webp")
    whole = client.get(address).text
    assert "<html" in whole


def test_guides_are_read_whole_and_found_by_words(app, school):
    client = school.teacher(app)
    for guide in guides():
        page = client.get(f"/help?guide={guide}").text
        for chapter in guides()[guide]:
            assert f'id="{chapter.name}"' in page
    assert client.get("/help?guide=nonsense").status_code == 404
    assert client.get("/help/pictures/nonsense.webp").status_code == 404
    assert "guide=teacher#photograph" in client.get("/find?words=tray").text


def test_a_student_has_a_guide_of_their_own(app, school):
    client = school.student(app)
    page = client.get("/me").text
    address = re.search(r'href="(/me/help[^"]*)"', page)[1].replace("&amp;", "&")
    short = client.get(address, headers={"HX-Request": "true"}).text
    assert "What to do" in short
    assert client.get("/me/help").status_code == 200
    with client.get("/me/help/pictures/painting.webp") as answer:
        assert answer.status_code == 200
    assert client.get("/me/help/pictures/desk.webp").status_code == 404
    assert client.get("/help").status_code == 403


@pytest.mark.parametrize("code", [code for code in LANGUAGES if code != "en"])
def test_a_guide_says_the_same_in_every_language(code):
    """As many chapters and points, the same pictures, keys and commands, and no English title."""
    english = guides()
    with speaking(code):
        spoken = guides()
    assert spoken.keys() == english.keys()
    for guide, chapters in english.items():
        for here, there in zip(chapters, spoken[guide], strict=True):
            assert (here.name, here.picture) == (there.name, there.picture)
            assert here.title != there.title
            assert here.words.count("\n- ") == there.words.count("\n- "), there.title
            keys = [re.findall(r"`([^` ]+)`", one.words) for one in (here, there)]
            assert keys[0] == keys[1]


def test_help_comes_in_the_readers_language(app, school):
    client = school.teacher(app)
    client.post("/language", data={"language": "de", "back": "/"})
    said = client.get("/help?of=reviewing.queue", headers={"HX-Request": "true"}).text
    assert "Prüfen" in said
    assert "In jeder Übung kommt zuerst" in said
    assert 'lang="de"' in said
