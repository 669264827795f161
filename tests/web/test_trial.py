"""One sheet tried without a class, and the list of what one does first."""

from io import BytesIO
from random import randrange

import pypdfium2
import pytest

from noema.actions.create_school import create_school
from noema.actions.try_one_sheet import (
    CODE,
    give_up_trial,
    read_trial,
    trial_drawing,
    trial_layout,
)
from noema.core.sheet.paper import Paper
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.painter import Hand
from noema.stand_ins.studio import take_picture
from noema.store.files import named_files
from noema.store.people import teacher_by_email
from noema.store.trials import trial_of_teacher
from tests.trade import CAREFUL, PASSWORD, PICTURE_PX


@pytest.fixture
def newcomer(sessions, app):
    """Somebody whose school has nothing yet."""
    with sessions.begin() as session:
        email = f"new{randrange(10**9)}@school.example"
        create_school(session, f"School of {email}", email, "Ms Sepia", PASSWORD)
        teacher_id = teacher_by_email(session, email).id
    client = app.test_client()
    client.post("/log-in", data={"email": email, "password": PASSWORD})
    return client, teacher_id


def painted(paper=Paper.A4, hand=CAREFUL, seed=3):
    pdf = sheets_pdf([trial_drawing(paper, "Ms Sepia")], "t")
    return take_picture(
        trial_layout(paper), pdf, seed=seed, preset="easy", hand=hand, size_px=PICTURE_PX
    ).jpeg


def hands_in(client, jpeg):
    return client.post("/trial", data={"photo": (BytesIO(jpeg), "trial.jpg")})


def reads(sessions, files, teacher_id):
    with sessions.begin() as session:
        kept = trial_of_teacher(session, teacher_id)
        read_trial(session, files, kept.id)


@pytest.mark.parametrize("paper", Paper)
def test_a_trial_is_printed_painted_read_and_answered(newcomer, sessions, files, paper):
    client, teacher_id = newcomer
    pdf = client.get(f"/trial/sheet-{paper.value}.pdf").data
    text = pypdfium2.PdfDocument(pdf)[0].get_textpage().get_text_range()
    assert CODE in text
    assert hands_in(client, painted(paper)).status_code == 303
    part = client.get("/trial", headers={"HX-Request": "true"}).text
    assert "being read" in part
    assert "every 1s" in part
    reads(sessions, files, teacher_id)
    page = client.get("/trial").text
    assert "Yours above" in page
    assert "every 1s" not in page.split('id="tried"')[1]


def test_steps_that_crowd_are_told(newcomer, sessions, files):
    client, teacher_id = newcomer
    hands_in(client, painted(hand=Hand(step_noise=0.0, missed=0.0, ragged_mm=0.3, bunching=0.9)))
    reads(sessions, files, teacher_id)
    page = client.get("/trial").text.lower()
    assert (
        "crowd" in page
        or "close" in page
        or "jump" in page
        or "lighter" in page
        or ("darker" in page)
    )


def test_what_is_no_trial_sheet_is_said_and_kept(newcomer, sessions, files, school):
    client, teacher_id = newcomer
    assert hands_in(client, b"words").status_code == 422
    assert client.post("/trial").status_code == 422
    hands_in(client, school.photo_of(school.sheets()[0]))
    reads(sessions, files, teacher_id)
    page = client.get("/trial").text
    assert "Yours above" not in page
    assert 'class="notice"' in page.split('id="tried"')[1]
    with sessions.begin() as session:
        kept = trial_of_teacher(session, teacher_id)
        assert named_files(session, [kept.sha256]) == {kept.sha256}


def test_a_reader_that_stumbles_says_so(newcomer, sessions, files):
    client, teacher_id = newcomer
    hands_in(client, painted())
    with sessions.begin() as session:
        give_up_trial(session, trial_of_teacher(session, teacher_id).id)
    assert "stumbled" in client.get("/trial").text


def test_the_first_week_ticks_what_is_done_and_can_be_put_away(newcomer, sessions, files):
    client, _ = newcomer
    page = client.get("/").text
    assert page.count("○") == 8
    hands_in(client, painted())
    client.post("/classes/new", data={"name": "Y8", "starts_on": "2026-09-07", "weeks": "12"})
    page = client.get("/").text
    assert (page.count("○"), page.count("✓")) == (6, 2)
    client.post("/first-week")
    assert 'id="first-week"' not in client.get("/").text
