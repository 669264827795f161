"""Pages do what they say, by plain forms."""

import json
import re
from io import BytesIO

import pypdfium2
import pytest

from noema.store.reviews import attempt_of_school
from tests.trade import NAMES


def test_a_class_is_made_and_its_roster_looked_at_before_it_is_taken(app, school):
    client = school.teacher(app)
    made = client.post(
        "/classes/new", data={"name": "Year 9", "starts_on": "2026-09-07", "weeks": "12"}
    )
    url = made.location
    looked = client.post(f"{url}/roster/look", data={"text": "Ada\n\nBo\nAda"}).text
    assert "2 new names" in looked
    assert "line 2" in looked
    assert "line 4" in looked
    assert "Nobody yet" in client.get(url).text
    client.post(f"{url}/roster", data={"text": "Ada\n\nBo\nAda"})
    assert "2 students" in client.get(url).text


def test_a_roster_file_in_another_encoding_is_understood(app, school):
    client = school.teacher(app)
    file = (BytesIO("Name;Year\nZoë Ñuñez;8\n".encode("utf-16")), "list.csv")
    page = client.post(f"/classes/{school.class_id}/roster/look", data={"file": file}).text
    assert "Zoë Ñuñez" in page


@pytest.mark.parametrize(
    ("form", "reason"),
    [
        ({"name": "", "starts_on": "2026-09-07", "weeks": "12"}, "Give the class a name"),
        ({"name": "Year 8", "starts_on": "2026-09-07", "weeks": "12"}, "already a class"),
        ({"name": "Year 9", "starts_on": "soon", "weeks": "12"}, "Choose the day"),
        ({"name": "Year 9", "starts_on": "2026-09-07", "weeks": "99"}, "1 to 52 weeks"),
    ],
)
def test_a_class_that_makes_no_sense_is_refused_and_nothing_typed_is_lost(
    app, school, form, reason
):
    answer = school.teacher(app).post("/classes/new", data=form)
    assert answer.status_code == 422
    assert reason in answer.text
    assert f'value="{form["name"]}"' in answer.text


def test_the_expected_strip_follows_the_choices(app, school):
    client = school.teacher(app)
    url = f"/classes/{school.class_id}/assign/preview"
    five = client.get(url, query_string={"steps": 5, "medium": "pencil"}).text
    nine = client.get(url, query_string={"steps": 9, "medium": "acrylic", "level": "advanced"}).text
    assert five.count("<polygon") == 5
    assert nine.count("<polygon") == 9
    assert "value within 0.3" in nine
    assert "<html" not in nine
    assert "5 to 11 steps" in client.get(url, query_string={"steps": 3}).text


def test_a_refused_assignment_keeps_the_choices(app, school):
    form = {"steps": 7, "medium": "charcoal", "due_week": 40}
    answer = school.teacher(app).post(f"/classes/{school.class_id}/assign", data=form)
    assert answer.status_code == 422
    assert "weeks 1 to 12" in answer.text
    assert '<option value="charcoal" selected>' in answer.text


def test_assigning_printing_and_the_pdf(app, school):
    client = school.teacher(app)
    client.post(
        f"/classes/{school.class_id}/assign",
        data={"steps": 11, "medium": "gouache", "paper": "letter", "due_week": 7},
    )
    page = client.get("/print").text
    assert "Make 3 and open the PDF" in page
    url = re.search(r'action="(/assignments/\d+/sheets)"', page).group(1)
    pdf = client.post(url, follow_redirects=True)
    document = pypdfium2.PdfDocument(pdf.data)
    assert len(document) == len(NAMES)
    assert document[0].get_size() == pytest.approx((792, 612), abs=0.5)
    assert client.post(url, follow_redirects=True).data == pdf.data


def test_a_single_sheet_as_svg_and_layout(app, school):
    client = school.teacher(app)
    sheet = school.sheets()[0]
    assert sheet.student in client.get(f"/sheets/{sheet.id}.svg").text
    layout = json.loads(client.get(f"/sheets/{sheet.id}/layout.json").data)
    assert (layout["format"], layout["sheet"]) == ("noema-sheet/1", sheet.code)


def test_the_desk_shows_joints_stair_outlines_and_takes_decisions(app, school):
    client = school.teacher(app)
    photo = school.reviewable()
    desk = client.get(f"/review/{photo}?cell=c2").text
    assert desk.count('class="joint') == 5
    assert desk.count('class="tread"') == 5
    assert desk.count("<polygon") == 5
    assert "Step 2" in desk
    out = client.post(
        f"/review/{photo}/decide", data={"verb": "leave-out", "cell": "c2"}, follow_redirects=True
    ).text
    assert "left out of the count" in out
    overruled = client.post(
        f"/review/{photo}/decide",
        data={"verb": "overrule", "cell": "c3", "verdict": "off"},
        follow_redirects=True,
    ).text
    assert "your word; measured" in overruled
    back = client.post(
        f"/review/{photo}/decide",
        data={"verb": "send-back", "sentence": "Darken step 3 a touch."},
        follow_redirects=True,
    ).text
    assert "goes back with your sentence" in back
    assert "Darken step 3 a touch." in client.get("/return").text


@pytest.mark.parametrize("view", ["straight", "photograph", "greyscale", "squint", "isolated", "x"])
def test_every_way_of_looking(app, school, view):
    photo = school.reviewable()
    assert school.teacher(app).get(f"/review/{photo}?view={view}").status_code == 200


def test_a_sheet_sent_back_gets_a_new_sheet_once(app, school):
    client = school.teacher(app)
    photo = school.reviewable()
    client.post(f"/review/{photo}/decide", data={"verb": "send-back", "sentence": "Again, please."})
    assert "needs a new sheet" in client.get("/return").text
    again = f"/assignments/{school.assignment_id}/again"
    pdf = client.post(again, follow_redirects=True)
    assert len(pypdfium2.PdfDocument(pdf.data)) == 1
    assert client.post(again).status_code == 422
    newest = max(school.sheets(), key=lambda sheet: sheet.number)
    assert (newest.attempt, newest.number) == (2, 4)
    assert "needs a new sheet" not in client.get("/return").text


def test_progress_shows_attempts_and_what_changed(app, school):
    client = school.teacher(app)
    photo = school.reviewable()
    with school.sessions() as session:
        student = attempt_of_school(session, school.id, photo).student_id
    table = client.get(f"/progress/classes/{school.class_id}").text
    assert "to review" in table
    assert table.count("waiting") == 2
    page = client.get(f"/progress/classes/{school.class_id}/students/{student}").text
    assert "attempt 1" in page
    assert "steps hold" in page


def test_pictures_are_private(app, school):
    client = school.teacher(app)
    photo = school.reviewable()
    for name in ("original", "straight.jpg"):
        answer = client.get(f"/photographs/{photo}/{name}")
        assert answer.data[:2] == b"\xff\xd8"
        assert "private" in answer.headers["Cache-Control"]


def test_a_page_that_isnt_there_is_said_kindly(app, school):
    answer = school.teacher(app).get("/nowhere")
    assert answer.status_code == 404
    assert "There is no such page" in answer.text


def test_a_stumble_of_our_own_is_said_kindly_and_keeps_nothing_half_done(app, school, monkeypatch):
    def stumble(*_arguments):
        raise RuntimeError("a bug")

    client = school.teacher(app)
    monkeypatch.setattr("noema.actions.make_class.enrol", stumble)
    monkeypatch.setitem(app.config, "PROPAGATE_EXCEPTIONS", False)
    answer = client.post(f"/classes/{school.class_id}/roster", data={"text": "New Name"})
    assert answer.status_code == 500
    assert "Nothing was lost" in answer.text
    assert "3 students" in client.get(f"/classes/{school.class_id}").text


def test_an_address_that_isnt_there_is_said_kindly(app, school):
    answer = school.teacher(app).get("/review/999999")
    assert answer.status_code == 404
    assert "no such sheet" in answer.text
