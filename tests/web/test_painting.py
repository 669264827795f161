"""A student's own pages: coming in, handing in, thinking first, seeing what was read."""

from datetime import date, timedelta
from io import BytesIO

import pytest
from sqlalchemy import text

from noema.actions.make_class import make_class
from noema.actions.move_student import move_student
from noema.actions.read_photograph import read_photograph
from noema.actions.replace_card import replace_card
from noema.actions.show_readings import show_readings
from noema.core.joining.card import card_words
from noema.core.judging.review import Decision, Verb
from noema.core.progress.states import PhotoState
from noema.store.photographs import photo_of_school
from noema.store.student_work import check_of
from noema.store.students import join_of_class, student_by_id
from tests.trade import SECRET

GLOSSY = 8  # a seed by which hard light shines on the paint


@pytest.fixture
def photo(school):
    return school.photo_of(school.sheets()[0])


def paints(school, *, at_once):
    with school.sessions.begin() as session:
        show_readings(session, school.id, school.class_id, at_once=at_once)


def hands_in(client, school, data, name="sheet.jpg"):
    """A student sends a whole photograph; gives the answer."""
    url = f"/me/exercises/{school.assignment_id}/photographs"
    return client.post(url, data={"photo": (BytesIO(data), name)})


def number_of(answer):
    return int(answer.headers["Location"].partition("?")[0].rsplit("/", 1)[1])


def read(school, number):
    with school.sessions.begin() as session:
        read_photograph(session, school.files, number)


def text_of(answer):
    assert answer.status_code == 200
    return answer.get_data(as_text=True)


def test_a_card_opens_the_door_and_a_lost_one_doesnt(app, school):
    student_id = school.sheets()[0].student_id
    client = school.student(app)
    assert "To paint" in text_of(client.get("/me"))
    with school.sessions.begin() as session:
        replace_card(session, school.id, school.class_id, student_id)
    assert client.get("/me").status_code == 302  # the session ended with the card
    assert "To paint" in text_of(school.student(app).get("/me"))


@pytest.mark.parametrize(
    ("code", "words"),
    [("own", "acorn acorn acorn"), ("BBBBBB", "own"), ("", ""), ("own", "a" * 500)],
)
def test_wrong_words_are_refused_alike(app, school, code, words):
    with school.sessions() as session:
        join = join_of_class(session, school.class_id)
        holder = student_by_id(session, school.sheets()[0].student_id)
    right = " ".join(card_words(SECRET, holder.id, holder.card_serial))
    sent = {
        "code": join.join_code if code == "own" else code,
        "card": right if words == "own" else words,
    }
    answer = app.test_client().post("/join", data=sent)
    assert answer.status_code == 403
    assert "don’t belong together" in answer.get_data(as_text=True).replace("&#39;", "’")


def test_words_may_be_typed_carelessly(app, school):
    with school.sessions() as session:
        join = join_of_class(session, school.class_id)
        holder = student_by_id(session, school.sheets()[0].student_id)
    words = "-".join(card_words(SECRET, holder.id, holder.card_serial)).upper()
    code = f" {join.join_code[:3].lower()} {join.join_code[3:]}"
    answer = app.test_client().post("/join", data={"code": code, "card": words})
    assert answer.status_code == 302


def test_a_shared_device_is_left_soon_and_one_that_is_used_is_not(app, school):
    def minutes_later(minutes):
        with school.sessions.begin() as session:
            session.execute(
                text(
                    "UPDATE log_in SET made_at = made_at - :m, seen_at = seen_at - :m, "
                    "ends_at = ends_at - :m"
                ),
                {"m": timedelta(minutes=minutes)},
            )

    client = school.student(app)
    for _ in range(3):
        minutes_later(14)
        assert client.get("/me").status_code == 200
    minutes_later(16)
    assert client.get("/me").status_code == 302


def test_a_sheet_is_handed_in_thought_about_and_seen(app, school, photo):
    paints(school, at_once=True)
    client = school.student(app)
    number = number_of(hands_in(client, school, photo))
    page = f"/me/photographs/{number}"
    assert "being read" in text_of(client.get(page))
    read(school, number)
    before = text_of(client.get(page))
    assert "Which steps do you think hold?" in before
    assert "Yours above" not in before
    client.post(f"{page}/check", data={"holds": ["c1", "c2"], "say": "holds"})
    after = text_of(client.get(page))
    assert "Yours above" in after
    assert "How you saw it" in after
    with school.sessions() as session:
        assert check_of(session, number).thinks == ("c1", "c2")
    client.post(f"{page}/check", data={"holds": ["c5"]})
    with school.sessions() as session:
        assert check_of(session, number).thinks == ("c1", "c2")  # what was said first stands
    assert "all together" in text_of(client.get("/me/progress")).lower()


def test_a_teacher_may_look_first(app, school, photo):
    client = school.student(app)
    number = number_of(hands_in(client, school, photo))
    read(school, number)
    page = f"/me/photographs/{number}"
    client.post(f"{page}/check", data={"say": "nothing"})
    assert "Your teacher looks at it first" in text_of(client.get(page))
    school.decides(number, Decision(verb=Verb.SEND_BACK, sentence="Once more, darker."))
    seen = text_of(client.get(page))
    assert "Once more, darker." in seen
    assert "How you saw it" not in seen
    answer = client.post(f"/me/exercises/{school.assignment_id}/again", data={"cells": "all"})
    again = client.post(f"/me/exercises/{school.assignment_id}/again", data={"cells": "all"})
    assert answer.headers["Location"] == again.headers["Location"]  # one new sheet, not two
    pdf = client.get(answer.headers["Location"])
    assert pdf.mimetype == "application/pdf"
    assert len(school.sheets()) == 4


def test_who_moved_still_sees_what_they_painted(app, school, photo):
    client = school.student(app)
    number = number_of(hands_in(client, school, photo))
    read(school, number)
    school.decides(number, Decision(verb=Verb.ACCEPT))
    with school.sessions.begin() as session:
        to_class = make_class(session, school.id, "Year 9", date(2026, 9, 7), 12)
        student_id = school.sheets()[0].student_id
        move_student(session, school.id, student_id, school.class_id, to_class)
    client.post(f"/me/photographs/{number}/check", data={"say": "nothing"})
    assert "it holds" in text_of(client.get(f"/me/photographs/{number}"))
    assert "over" in text_of(client.get(f"/me/exercises/{school.assignment_id}"))
    assert "Nothing waits" in text_of(client.get("/me"))


def test_somebody_elses_sheet_waits_for_the_teacher(app, school):
    client = school.student(app)
    theirs = school.photo_of(school.sheets()[1])
    number = number_of(hands_in(client, school, theirs))
    read(school, number)
    assert "belongs to somebody else" in text_of(client.get(f"/me/photographs/{number}"))
    with school.sessions() as session:
        assert photo_of_school(session, school.id, number).state is PhotoState.UNMATCHED
    data = school.photo_of(school.sheets()[2])
    school.hands_in(data)
    assert hands_in(client, school, data).status_code == 422


def test_a_photograph_sent_twice_is_one(app, school, photo):
    client = school.student(app)
    one, two = (number_of(hands_in(client, school, photo)) for _ in range(2))
    assert one == two


def test_what_is_no_photograph_is_refused(app, school):
    client = school.student(app)
    answer = hands_in(client, school, b"no picture", "notes.txt")
    assert answer.status_code == 422
    assert hands_in(client, school, b"").status_code == 422


def sends(client, upload, at, data):
    return client.post(
        f"/me/uploads/{upload}?from={at}", data=data, content_type="application/octet-stream"
    )


def begins(client, school, size):
    url = f"/me/exercises/{school.assignment_id}/uploads"
    return client.post(url, data={"size": size, "name": "a.jpg"})


def test_pieces_come_in_any_number_of_tries_and_make_one_photograph(app, school, photo):
    client = school.student(app)
    upload = begins(client, school, len(photo)).json["upload"]
    third = len(photo) // 3
    assert sends(client, upload, 0, photo[:third]).json["from"] == third
    assert sends(client, upload, 0, photo[:third]).json["from"] == third  # the answer was lost
    assert sends(client, upload, third + 5, photo[third + 5 :]).status_code == 409  # a gap
    assert client.get(f"/me/uploads/{upload}").json["from"] == third
    overlapping = sends(client, upload, third - 7, photo[third - 7 :]).json
    assert overlapping["done"]
    number = int(overlapping["done"].rsplit("/", 1)[1])
    assert sends(client, upload, 0, photo).json["done"] == overlapping["done"]
    with school.sessions() as session:
        kept = photo_of_school(session, school.id, number)
    assert school.files.get(kept.sha256) == photo


@pytest.mark.parametrize("size", [0, -4, 40 * 2**20])
def test_an_upload_of_no_sensible_size_isnt_begun(app, school, size):
    assert begins(school.student(app), school, size).status_code == 422


def test_more_than_was_said_is_refused(app, school):
    client = school.student(app)
    upload = begins(client, school, 10).json["upload"]
    assert sends(client, upload, 0, b"x" * 11).status_code == 409
    assert sends(client, upload, -1, b"x").status_code == 409
    bad = sends(client, upload, 0, b"x" * 10)
    assert bad.status_code == 422  # whole, and no picture


def test_a_fifth_unfinished_upload_ends_the_first(app, school):
    client = school.student(app)
    uploads = [begins(client, school, 100).json["upload"] for _ in range(5)]
    assert client.get(f"/me/uploads/{uploads[0]}").status_code == 404
    assert client.get(f"/me/uploads/{uploads[-1]}").status_code == 200


def test_the_cards_show_words_and_a_code_for_everybody(app, school):
    client = school.teacher(app)
    page = text_of(client.get(f"/classes/{school.class_id}/cards"))
    with school.sessions() as session:
        holder = student_by_id(session, school.sheets()[0].student_id)
    assert " ".join(card_words(SECRET, holder.id, holder.card_serial)) in page
    assert page.count('class="qr"') == 3


def glossy(school):
    """A sheet that shines all over one side."""
    return school.photo_of(school.sheets()[0], preset="hard", seed=GLOSSY)


def test_where_light_hides_cells_another_picture_is_asked_for_and_both_are_read(app, school):
    client = school.student(app)
    first = number_of(hands_in(client, school, glossy(school)))
    read(school, first)
    page = text_of(client.get(f"/me/photographs/{first}"))
    assert "photograph it once more" in page
    asked = f"/me/exercises/{school.assignment_id}/photograph?of={first}"
    assert asked in page
    form = text_of(client.get(asked))
    assert "Another picture of this sheet" in form
    assert f'name="of" value="{first}"' in form
    url = f"/me/exercises/{school.assignment_id}/photographs"
    again = school.photo_of(school.sheets()[0], preset="hard", seed=GLOSSY, again=1)
    second = number_of(client.post(url, data={"photo": (BytesIO(again), "b.jpg"), "of": first}))
    with school.sessions() as session:
        assert photo_of_school(session, school.id, second).another_of == first


def test_a_clear_picture_asks_for_no_other(app, school, photo):
    client = school.student(app)
    first = number_of(hands_in(client, school, photo))
    read(school, first)
    assert "once more" not in text_of(client.get(f"/me/photographs/{first}"))


def test_nobody_adds_to_somebody_elses_photograph(app, school, photo):
    mine, theirs = school.student(app), school.student(app, school.sheets()[1].student_id)
    first = number_of(hands_in(mine, school, photo))
    read(school, first)
    url = f"/me/exercises/{school.assignment_id}"
    assert theirs.get(f"{url}/photograph?of={first}").status_code == 404
    other = school.photo_of(school.sheets()[1])
    sent = theirs.post(f"{url}/photographs", data={"photo": (BytesIO(other), "b.jpg"), "of": first})
    assert sent.status_code == 404
    begun = theirs.post(f"{url}/uploads", data={"size": "10", "name": "b.jpg", "of": first})
    assert begun.status_code == 404


def test_one_student_hands_in_no_more_than_a_lesson_asks_for(app, school, photo, monkeypatch):
    monkeypatch.setattr("noema.actions.hand_in_own.MOST_IN_A_WHILE", 1)
    client = school.student(app)
    assert hands_in(client, school, photo).status_code == 303
    again = hands_in(client, school, school.photo_of(school.sheets()[0], seed=8))
    assert again.status_code == 429
    assert "within an hour" in again.text


def test_what_is_due_is_said_with_its_day(app, school):
    """The class began on 7 September; its sixth week ends on Friday, 16 October."""
    assert "by 16 Oct" in school.student(app).get("/me").text


def test_a_new_sheet_is_to_be_painted_until_it_is_photographed(app, school, photo):
    paints(school, at_once=True)
    client = school.student(app)
    number = number_of(hands_in(client, school, photo))
    read(school, number)
    assert "Nothing waits for you" in text_of(client.get("/me"))
    client.post(f"/me/exercises/{school.assignment_id}/again", data={"cells": "all"})
    todo, _, _ = text_of(client.get("/me")).partition("Practise mixing")
    assert "paint your new sheet, then photograph it" in todo
    again = [s for s in school.sheets() if s.attempt == 2][0]
    hands_in(client, school, school.photo_of(again, seed=5))
    assert "your new sheet" not in text_of(client.get("/me"))
