"""A student's eye is asked in series, and what it found is theirs and their teacher's."""

import re

import pytest

from noema.formats.series_json import asked_from_json
from noema.store.eye import all_series_of_student

SCREEN = {"kind": "value", "dark": "5", "light": "5", "on_it": "no"}


@pytest.fixture
def me(app, school):
    return school.student(app)


def series_of(school):
    with school.sessions() as session:
        return all_series_of_student(session, school.sheets()[0].student_id)


def waiting(school):
    return asked_from_json(series_of(school)[0].asked)


def answers(client, school, *, right=True, told=""):
    """Answer the question that waits."""
    asked = waiting(school)
    question = asked[-1].question
    choice = question.right if right else (question.right + 1) % question.answers
    return client.post(
        f"/me/eye/{series_of(school)[0].id}/answer",
        data={"number": len(asked), "choice": choice, "told": told},
        headers={"HX-Request": "true"},
    ).text


def test_a_series_begins_with_the_screen_once_a_day(me, school):
    first = me.post("/me/eye/begin", data={"kind": "hue"})
    assert first.location == "/me/eye/screen?kind=hue"
    assert "How many squares" in me.get(first.location).text
    begun = me.post("/me/eye/screen", data=SCREEN | {"kind": "hue"})
    assert re.fullmatch(r"/me/eye/\d+", begun.location)
    again = me.post("/me/eye/begin", data={"kind": "value"})
    assert re.fullmatch(r"/me/eye/\d+", again.location)


@pytest.mark.parametrize("lacks", [{"dark": ""}, {"light": "9"}, {"kind": "smell"}])
def test_a_screen_that_wasnt_looked_at_is_refused(me, lacks):
    assert me.post("/me/eye/screen", data=SCREEN | lacks).status_code == 422


def test_answers_are_kept_told_and_counted_once(me, school):
    me.post("/me/eye/screen", data=SCREEN)
    assert "Right." in answers(me, school)
    assert "It was" in answers(me, school, right=False)
    number = series_of(school)[0].id
    stale = me.post(f"/me/eye/{number}/answer", data={"number": 1, "choice": 0})
    assert stale.status_code == 409
    assert me.post(f"/me/eye/{number}/answer", data={"number": 3, "choice": 9}).status_code == 422
    assert [one.chosen is None for one in waiting(school)] == [False, False, True]


@pytest.mark.parametrize("kind", ["value", "hue", "chroma", "rows", "places"])
def test_a_series_ends_with_what_it_found(me, school, kind):
    me.post("/me/eye/screen", data=SCREEN | {"kind": kind})
    page = ""
    for n in range(30):
        if series_of(school)[0].ended_at is not None:
            break
        page = answers(me, school, right=n % 4 != 0)
    assert "What it found" in page
    assert "right." in page
    if kind != "places":
        assert re.search("You tell (values|hues|intensities) apart", page)
        assert "Nineteen times in twenty" in page
    else:
        assert "places of twelve" in page
    assert "deficien" not in page.lower()
    assert "blind" not in page.lower()


def test_harder_questions_follow_right_answers(me, school):
    me.post("/me/eye/screen", data=SCREEN)
    for _ in range(8):
        answers(me, school)
    levels = [one.question.level for one in waiting(school)]
    assert levels[-1] < levels[0] / 2


def test_colours_said_in_words_arent_counted_for_the_eye(me, school):
    me.post("/me/eye/screen", data=SCREEN)
    number = series_of(school)[0].id
    page = me.get(f"/me/eye/{number}?say=1").text
    assert 'name="told" value="1"' in page
    assert page.count("<li>") >= 4
    while series_of(school)[0].ended_at is None:
        answers(me, school, told="1")
    assert series_of(school)[0].found is None
    assert "You tell" not in me.get("/me/eye").text


def test_what_was_found_is_shown_to_their_teacher_too(app, me, school):
    me.post("/me/eye/screen", data=SCREEN)
    while series_of(school)[0].ended_at is None:
        answers(me, school, right=len(waiting(school)) % 3 != 0)
    assert "You tell values apart" in me.get("/me/eye").text
    student = school.sheets()[0].student_id
    page = school.teacher(app).get(f"/progress/classes/{school.class_id}/students/{student}").text
    assert "How they see" in page
    assert "You tell values apart" in page
