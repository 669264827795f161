"""A student's eye is asked in series, and what it found is theirs and their teacher's."""

import re

import pytest
from sqlalchemy import select

from noema.actions.calibrate_printer import own_printer
from noema.core.photo.knowledge import Known
from noema.core.sheet.calibration_sheet import PAPER
from noema.core.sheet.worksheet import GREYS
from noema.formats.series_json import asked_from_json
from noema.store.eye import all_series_of_student
from noema.store.eye_tables import EyePaperRow
from noema.store.printers import PrinterLook, add_look

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
    """Answer the question that waits; an order place by place."""
    asked = waiting(school)
    question = asked[-1].question
    choices = [question.right if right else (question.right + 1) % question.answers]
    if question.order:
        choices = question.order[:-1] if right else question.order[:0:-1]
    for choice in choices:
        page = client.post(
            f"/me/eye/{series_of(school)[0].id}/answer",
            data={"number": len(asked), "choice": choice, "told": told},
            headers={"HX-Request": "true"},
        ).text
    return page


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


@pytest.fixture
def printed(app, school):
    """A page of greys for a calibrated printer: its rows and its code."""
    labs = {(n, n, n): Known(lab=(10.0 + n / 3.0, 0.0, 0.0), sigma=0.5) for n in GREYS}
    with school.sessions.begin() as session:
        printer = own_printer(session, school.id, "Office")
        add_look(
            session,
            school.id,
            printer,
            PrinterLook(how="measured", source="meter", labs=labs | {PAPER: labs[224, 224, 224]}),
        )
    client = school.teacher(app)
    page = client.post(f"/classes/{school.class_id}/bench/eye-paper", data={"printer": printer})
    assert page.data.startswith(b"%PDF")
    assert "Office" in client.get(f"/classes/{school.class_id}/bench").text
    with school.sessions() as session:
        (row,) = session.scalars(select(EyePaperRow).where(EyePaperRow.school_id == school.id))
        return row.code, [one.question for one in asked_from_json(row.rows)]


def test_a_page_of_greys_is_answered_on_a_phone(me, school, printed):
    code, rows = printed
    assert me.get(f"/me/eye/paper?code={code}").text.count("<fieldset") == len(rows)
    answers = {f"row{n}": row.right for n, row in enumerate(rows, start=1)}
    lacking = me.post("/me/eye/paper", data={"code": code} | {"row1": "0"})
    assert lacking.status_code == 422
    kept = me.post("/me/eye/paper", data={"code": f" {code.lower()} "} | answers)
    page = me.get(kept.location).text
    assert f"{len(rows)} of {len(rows)} right." in page
    assert "On paper." in page
    assert me.get("/me/eye/paper?code=BBBBBB").status_code == 404


def test_a_printer_nobody_calibrated_prints_no_greys(app, school):
    with school.sessions.begin() as session:
        printer = own_printer(session, school.id, "Cellar")
    answer = school.teacher(app).post(
        f"/classes/{school.class_id}/bench/eye-paper", data={"printer": printer}
    )
    assert answer.status_code == 422
    assert "Calibrate this printer first" in answer.text


def test_seven_are_put_in_order_one_by_one(me, school):
    me.post("/me/eye/screen", data=SCREEN | {"kind": "places"})
    (asked,) = waiting(school)
    first, second = asked.question.order[:2]
    here = f"/me/eye/{series_of(school)[0].id}/answer"
    me.post(here, data={"number": 1, "choice": first})
    (asked,) = waiting(school)
    assert asked.placed == (first,)
    page = me.get(f"/me/eye/{series_of(school)[0].id}").text
    assert "Placed so far, from dark" in page
    assert f'name="choice" value="{first}"' not in page
    assert me.post(here, data={"number": 1, "choice": first}).status_code == 409
    me.post(here, data={"number": 1, "choice": second})
    assert waiting(school)[0].placed == (first, second)
    for place in asked.question.order[2:6]:
        said = me.post(here, data={"number": 1, "choice": place}, headers={"HX-Request": "true"})
    assert "Right." in said.text
    assert len(waiting(school)) == 2
