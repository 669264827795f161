"""Log-ins end on the server: by leaving, by being shown out, by a new password or card, by time."""

from datetime import UTC, datetime, timedelta

import pytest
from sqlalchemy import text

from noema.actions.come_in import show_out
from noema.actions.replace_card import replace_card
from noema.actions.set_password import set_password
from noema.core.errors import NotFound, Refused
from noema.store.log_ins import forget_ended
from tests.trade import PASSWORD


def copied(app, client):
    """Another browser with a copy of somebody's cookie."""
    cookie = client.get_cookie("session")
    other = app.test_client()
    other.set_cookie("session", cookie.value)
    return other


def teacher_of(app, school):
    return school.teacher(app), "/plan", "/log-out"


def student_of(app, school):
    return school.student(app), "/me", "/leave"


@pytest.mark.parametrize("who", [teacher_of, student_of])
def test_a_copied_cookie_opens_nothing_once_its_owner_left(app, school, who):
    client, page, way_out = who(app, school)
    copy = copied(app, client)
    assert copy.get(page).status_code == 200
    client.post(way_out)
    assert copy.get(page).status_code == 302


def test_a_new_password_ends_every_log_in_and_only_it_opens(app, school):
    here, there = school.teacher(app), school.teacher(app)
    colleague = school.teacher(app, school.colleague_email)
    with school.sessions.begin() as session:
        set_password(session, school.email.upper(), "another-password")
    assert [one.get("/plan").status_code for one in (here, there)] == [302, 302]
    assert colleague.get("/plan").status_code == 200
    client = app.test_client()
    tries = [
        client.post("/log-in", data={"email": school.email, "password": one}).status_code
        for one in (PASSWORD, "another-password")
    ]
    assert tries == [403, 302]
    with school.sessions() as session, pytest.raises(Refused, match="too short"):
        set_password(session, school.email, "short")
    with school.sessions() as session, pytest.raises(NotFound, match="No teacher"):
        set_password(session, "nobody@school.example", "another-password")


def test_somebody_can_be_shown_out(app, school):
    client = school.teacher(app)
    with school.sessions.begin() as session:
        assert show_out(session, school.email) == 1
    assert client.get("/plan").status_code == 302


def test_a_new_card_ends_what_was_begun_with_the_old(app, school):
    client = school.student(app)
    student = school.sheets()[0].student_id
    with school.sessions.begin() as session:
        replace_card(session, school.id, school.class_id, student)
    assert client.get("/me").status_code == 302


def test_time_ends_a_log_in_and_its_row(app, school):
    client = school.teacher(app)
    with school.sessions.begin() as session:
        earlier = {"s": timedelta(days=31), "t": school.teacher_id}
        session.execute(
            text(
                "UPDATE log_in SET made_at = made_at - :s, ends_at = now() + interval '1 hour', "
                "seen_at = now() - interval '2 minutes' WHERE teacher_id = :t"
            ),
            earlier,
        )
    assert client.get("/plan").status_code == 200  # seen, and noted: no longer than a month
    assert client.get("/plan").status_code == 302
    with school.sessions.begin() as session:
        assert forget_ended(session, datetime.now(UTC)) >= 1


def test_the_database_holds_nothing_a_browser_could_use(app, school):
    client = school.teacher(app)
    client.get("/plan")
    with client.session_transaction() as kept:
        token = kept["_user_id"].split(" ")[1]
    with school.sessions() as session:
        hashes = session.scalars(text("SELECT token_sha256 FROM log_in")).all()
    assert token not in hashes


def test_a_clock_set_back_shows_nobody_out(app, school, monkeypatch):
    client = school.teacher(app)
    back = datetime.now(UTC).timestamp() - 120
    monkeypatch.setattr("itsdangerous.timed.time.time", lambda: back)
    assert client.get("/plan").status_code == 200


def test_what_a_page_asks_by_itself_keeps_no_log_in_going(app, school):
    client = school.teacher(app)

    def seen():
        with school.sessions.begin() as session:
            asked = "SELECT seen_at FROM log_in WHERE teacher_id = :t"
            return session.scalar(text(asked), {"t": school.teacher_id})

    with school.sessions.begin() as session:
        session.execute(
            text("UPDATE log_in SET seen_at = now() - interval '10 minutes' WHERE teacher_id = :t"),
            {"t": school.teacher_id},
        )
    before = seen()
    answer = client.get("/stages?at=REVIEW")
    assert answer.status_code == 200
    assert "<html" not in answer.text
    assert seen() == before
    client.get("/plan")
    assert seen() > before
    client.post("/log-out")
    assert client.get("/stages").status_code == 204
