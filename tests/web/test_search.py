"""Finding anything by words, and the likeliest sheet for a photograph."""

import re
from io import BytesIO
from time import sleep

import pytest

from noema.actions.create_school import add_colleague
from noema.core.joining.role import StaffRole
from noema.stand_ins.mishap import Mishap
from noema.store.class_teachers import share_class
from tests.trade import PASSWORD


def finds(client, words):
    answer = client.get("/find", query_string={"words": words})
    assert answer.status_code == 200
    return answer.text.split('id="found"')[1]


@pytest.mark.parametrize(
    ("words", "address"),
    [
        ("vogel", "/progress/classes/{class_id}/students/{student_id}"),
        ("YEAR 8", "/classes/{class_id}"),
        ("value scale", "/assignments/{assignment_id}/key"),
        ("{code}", "/assignments/{assignment_id}/sheets"),
        ("ultramarine", "/paints/sets/"),
        ("split", "/paints/sets/split-six"),
        ("printers", "/printers"),
    ],
)
def test_everything_is_found_by_its_words(app, school, words, address):
    sheet = school.sheets()[0]
    about = {
        "class_id": school.class_id,
        "student_id": sheet.student_id,
        "assignment_id": school.assignment_id,
        "code": sheet.code.lower(),
    }
    found = finds(school.teacher(app), words.format(**about))
    assert f'href="{address.format(**about)}' in found
    client = school.teacher(app)
    for link in re.findall(r'href="(/[^"]+)"', found):
        assert client.get(link.replace("&amp;", "&")).status_code == 200, link


def test_a_sheet_that_was_read_leads_to_the_desk_and_its_cells_are_mixes(app, school):
    photo = school.reviewable()
    client = school.teacher(app)
    assert f'href="/review/{photo}"' in finds(client, school.sheets()[0].code)
    assert "Mixes" in finds(client, "value scale")


def test_nothing_of_another_school_or_class_is_found(app, school, other_school):
    client = other_school.teacher(app)
    for words in (school.sheets()[0].code, school.sheets()[0].student):
        assert "Try fewer letters" in finds(client, words)
    with school.sessions.begin() as session:
        email = f"alone{school.id}@school.example"
        add_colleague(session, school.id, email, "Mr Ochre", PASSWORD, StaffRole.TEACHER)
    assert "Try fewer letters" in finds(school.teacher(app, email), school.sheets()[0].student)


def test_an_assistant_finds_sheets_and_no_students_page(app, school):
    email = f"helps{school.id}@school.example"
    with school.sessions.begin() as session:
        helper = add_colleague(
            session, school.id, email, "Mx Sienna", PASSWORD, StaffRole.ASSISTANT
        )
        share_class(session, school.class_id, helper)
    found = finds(school.teacher(app, email), school.sheets()[0].student)
    assert "/sheets" in found
    assert "/students/" not in found


def test_the_likeliest_sheet_comes_first_without_a_word(app, school):
    client = school.teacher(app)
    sheet = school.sheets()[1]
    school.hands_in(school.photo_of(school.sheets()[0]))
    jpeg = school.photo_of(sheet, mishap=Mishap(hide_code=True))
    student = school.student(app, sheet.student_id)
    address = f"/me/exercises/{school.assignment_id}/photographs"
    answer = student.post(address, data={"photo": (BytesIO(jpeg), "mine.jpg")})
    photo = int(answer.headers["Location"].split("/")[3].split("?")[0])
    found = client.get(f"/photographs/{photo}/whose").text
    assert "The likeliest first" in found
    assert found.index(sheet.code) == min(
        found.index(one.code) for one in school.sheets() if one.code in found
    )


def test_somebody_elses_sheet_is_told_before_it_is_sent(app, school):
    theirs = school.photo_of(school.sheets()[1])
    for whose, words in ((0, ["This is not your sheet: photograph your own one."]), (1, [])):
        client = school.student(app, school.sheets()[whose].student_id)
        begun = client.post("/me/look", data={"look": (BytesIO(theirs), "look.jpg")})
        while (seen := client.get(begun.json["answer"])).status_code == 202:
            sleep(0.05)
        assert seen.json["words"] == words
        assert seen.json["ready"] is (not words)
