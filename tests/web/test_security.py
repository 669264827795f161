"""Log-in, forms, headers and uploads."""

import re
from dataclasses import replace
from datetime import timedelta
from io import BytesIO

import pytest
from sqlalchemy import text

from noema.assemble_pages import web_application_of
from noema.core.errors import Refused
from noema.store.people import teacher_by_email
from noema.store.students import join_of_class
from tests.trade import PASSWORD


def test_the_right_password_opens_and_the_wrong_one_says_nothing_more(app, school):
    client = app.test_client()
    wrong = client.post("/log-in", data={"email": school.email, "password": "guess"})
    nobody = client.post("/log-in", data={"email": "nobody@school.example", "password": "guess"})
    assert wrong.status_code == nobody.status_code == 403
    said = re.compile(r'role="alert">(.*?)<')
    assert said.findall(wrong.text) == said.findall(nobody.text)
    right = client.post("/log-in", data={"email": school.email.upper(), "password": PASSWORD})
    assert right.status_code == 302


@pytest.mark.parametrize(
    "wanted",
    ["https://elsewhere.example/", "//elsewhere.example", "/\\elsewhere.example", "javascript:x"],
)
def test_log_in_leads_nowhere_else(app, school, wanted):
    data = {"email": school.email, "password": PASSWORD, "wanted": wanted}
    assert app.test_client().post("/log-in", data=data).location == "/"


def test_log_out_ends_the_session(app, school):
    client = school.teacher(app)
    client.post("/log-out")
    assert client.get("/plan").status_code == 302


def test_guessing_is_slowed_down(settings, sessions, school):
    app = web_application_of(replace(settings, slows_guessing=1), sessions)
    app.config["WTF_CSRF_ENABLED"] = False
    client = app.test_client()

    def tried(password="z", email=school.email, address="10.0.0.1"):
        answer = client.post(
            "/log-in",
            data={"email": email, "password": password},
            environ_base={"REMOTE_ADDR": address},
        )
        return answer.status_code

    assert [tried() for _ in range(7)] == [403] * 5 + [429] * 2
    assert tried(address="10.0.0.2") == 429  # of one account, wherever from
    assert tried(email=school.colleague_email, password=PASSWORD) == 302  # others come in
    later(school, 31)
    assert tried(password=PASSWORD) == 302
    assert [tried() for _ in range(6)] == [403] * 5 + [429]  # begun anew
    many = [tried(email=f"{n}@nowhere.example", address="10.0.0.3") for n in range(32)]
    assert many == [403] * 30 + [429] * 2
    other = web_application_of(replace(settings, slows_guessing=1), sessions)  # another process
    other.config["WTF_CSRF_ENABLED"] = False
    data = {"email": school.email, "password": PASSWORD}
    assert other.test_client().post("/log-in", data=data).status_code == 429


def test_a_class_that_mistypes_is_not_locked_out(settings, sessions, school):
    app = web_application_of(replace(settings, slows_guessing=1), sessions)
    app.config["WTF_CSRF_ENABLED"] = False
    with school.sessions() as session:
        code = join_of_class(session, school.class_id).join_code
    client = app.test_client()

    def tried(code, address="10.1.0.1"):
        answer = client.post(
            "/join", data={"code": code, "card": "x"}, environ_base={"REMOTE_ADDR": address}
        )
        return answer.status_code

    assert [tried(code) for _ in range(22)] == [403] * 20 + [429] * 2
    assert tried("BCDFGH") == 403  # another class behind the same address
    assert tried(code, "10.1.0.2") == 403
    later(school, 10)
    assert tried(code) == 403


def later(school, seconds):
    with school.sessions.begin() as session:
        session.execute(
            text("UPDATE guess SET noted_at = noted_at - :s"), {"s": timedelta(seconds=seconds)}
        )


def test_a_form_without_its_token_is_refused(settings, sessions, school):
    app = web_application_of(settings, sessions)
    client = app.test_client()
    data = {"email": school.email, "password": PASSWORD}
    assert client.post("/log-in", data=data).status_code == 400
    token = re.search(r'name="csrf_token" value="([^"]+)"', client.get("/log-in").text).group(1)
    assert client.post("/log-in", data={**data, "csrf_token": token}).status_code == 302


def test_every_page_forbids_inline_scripts_and_styles(app, school):
    client = school.teacher(app)
    photo = school.reviewable()
    for url in (
        "/",
        "/plan",
        "/print",
        "/photograph",
        "/review",
        f"/review/{photo}",
        "/return",
        f"/progress/classes/{school.class_id}",
        f"/classes/{school.class_id}/assign",
    ):
        page = client.get(url)
        policy = page.headers["Content-Security-Policy"]
        assert "default-src 'self'" in policy
        assert "unsafe" not in policy
        assert not re.search(r"<script(?![^>]*src=)|<style|\sstyle=|\son[a-z]+=", page.text), url
        assert page.headers["X-Content-Type-Options"] == "nosniff"
        assert page.headers["X-Frame-Options"]


def test_cookies_are_kept_from_scripts(app, school):
    client = app.test_client()
    answer = client.post("/log-in", data={"email": school.email, "password": PASSWORD})
    cookie = answer.headers["Set-Cookie"]
    assert "HttpOnly" in cookie
    assert "SameSite=Lax" in cookie


def test_a_short_secret_is_refused(settings, sessions):
    with pytest.raises(Refused, match="32"):
        web_application_of(replace(settings, secret_key="short"), sessions)


def test_passwords_are_kept_hashed(sessions, school):
    with sessions() as session:
        assert teacher_by_email(session, school.email).password_hash.startswith("$argon2id$")


def test_names_cant_carry_markup(app, school):
    client = school.teacher(app)
    client.post(f"/classes/{school.class_id}/roster", data={"text": "<script>alert(1)</script>"})
    page = client.get(f"/classes/{school.class_id}").text
    assert "<script>alert" not in page
    assert "&lt;script&gt;" in page


def test_files_that_are_no_photographs_are_named_and_the_others_go_on(app, school):
    client = school.teacher(app)
    good = school.photo_of(school.sheets()[0])
    files = [
        (BytesIO(b"words"), "notes.jpg"),
        (BytesIO(good), "good.jpg"),
        (BytesIO(b""), "empty.png"),
        (BytesIO(good[: len(good) // 2]), "cut.jpg"),
    ]
    page = client.post("/photograph", data={"photos": files}).text
    refused = page[page.index('id="not-taken"') :].split("</ul>")[0]
    assert {n for n in ("notes.jpg", "empty.png", "cut.jpg", "good.jpg") if n in refused} == {
        "notes.jpg",
        "empty.png",
        "cut.jpg",
    }
    assert "0 of 1</b> photograph read" in page


def test_more_than_forty_at_once_are_refused(app, school):
    client = school.teacher(app)
    files = [(BytesIO(b"x"), f"{n}.jpg") for n in range(41)]
    assert "1 to 40" in client.post("/photograph", data={"photos": files}).text
