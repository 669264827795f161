"""Signing in with a school's own identity service, whose stand-in ships with Noema."""

from threading import Thread
from urllib.parse import urlencode, urlsplit

import pytest
import requests
from werkzeug.serving import make_server

from noema.assemble_pages import web_application_of
from noema.stand_ins.identity_service import CLIENT, SECRET, Somebody, identity_service
from noema.store.record import RecordWanted, record_of

PEOPLE = [
    Somebody(email="nobody@elsewhere.example", name="Nobody here"),
    Somebody(email="unsure@school.example", name="Unsure", is_verified=False),
]


@pytest.fixture
def signed(settings, sessions, school):
    """Pages that know a service, and the service, in which the school's teacher is known."""
    server = make_server("127.0.0.1", 0, lambda *_: [b""], threaded=True)
    issuer = f"http://127.0.0.1:{server.server_port}"
    teacher = Somebody(email=school.email.upper(), name="Ms Teal")
    server.app = identity_service([teacher, *PEOPLE], issuer)
    thread = Thread(target=server.serve_forever)
    thread.start()
    known = {"oidc_issuer": issuer, "oidc_client": CLIENT, "oidc_secret": SECRET}
    app = web_application_of(type(settings)(**{**vars(settings), **known}), sessions)
    yield app, teacher
    server.shutdown()
    thread.join()
    server.server_close()


def there_and_back(client, who):
    """Go to the service, say who one is, and give the page one comes back to."""
    sent = client.get("/sign-in")
    assert sent.status_code == 302
    chosen = f"{sent.headers['Location']}&{urlencode({'who': who})}"
    back = requests.get(chosen, allow_redirects=False, timeout=10).headers["Location"]
    return f"{urlsplit(back).path}?{urlsplit(back).query}"


def test_who_the_service_vouches_for_comes_in(signed, school):
    app, teacher = signed
    client = app.test_client()
    assert "Sign in with your school" in client.get("/log-in").text
    back = there_and_back(client, teacher.email)
    assert client.get(back).status_code == 302
    assert client.get("/plan").status_code == 200
    with school.sessions() as session:
        newest = record_of(session, school.id, RecordWanted(most=1))[0]
    assert newest.about == "your school"


def test_a_code_works_once_and_for_who_began_alone(signed):
    app, teacher = signed
    client, thief = app.test_client(), app.test_client()
    back = there_and_back(client, teacher.email)
    assert thief.get(back).status_code == 403
    assert client.get(back).status_code == 302
    assert thief.get(back).status_code == 403
    assert thief.get("/plan").status_code == 302


@pytest.mark.parametrize(
    ("who", "sentence"),
    [("nobody@elsewhere.example", "Nobody here has your e-mail"),
     ("unsure@school.example", "vouch for your e-mail")],
)  # fmt: skip
def test_who_isnt_known_or_vouched_for_stays_out(signed, who, sentence):
    app, _ = signed
    client = app.test_client()
    refused = client.get(there_and_back(client, who))
    assert refused.status_code == 403
    assert sentence in refused.text.replace("&#39;", "’")
    assert client.get("/plan").status_code == 302


def test_a_service_that_is_away_is_said(settings, sessions):
    known = {"oidc_issuer": "http://127.0.0.1:9", "oidc_client": CLIENT, "oidc_secret": SECRET}
    app = web_application_of(type(settings)(**{**vars(settings), **known}), sessions)
    refused = app.test_client().get("/sign-in")
    assert refused.status_code == 403
    assert "try it once more" in refused.text


def test_without_a_service_there_is_no_such_door(app):
    assert app.test_client().get("/sign-in").status_code == 404
    assert "Sign in with" not in app.test_client().get("/log-in").text
