"""Where there is no school yet, the first is founded in the browser, once."""

from concurrent.futures import ThreadPoolExecutor

import pytest

from noema.assemble_pages import web_application_of
from noema.settings import Settings
from noema.store.engine import bring_up_to_date, open_engine, open_sessions
from tests.trade import SECRET

FORM = {
    "school": "Saltmarsh Road School",
    "time_zone": "Europe/London",
    "name": "Ines Marlow",
    "email": "ines@saltmarsh.example",
    "password": "a fish called umber",
}


@pytest.fixture
def empty(empty_url, tmp_path):
    """Pages over a database without any school."""
    engine = open_engine(empty_url)
    bring_up_to_date(engine)
    settings = Settings(database_url=empty_url, files=str(tmp_path), secret_key=SECRET)
    app = web_application_of(settings, open_sessions(engine))
    app.config["WTF_CSRF_ENABLED"] = False
    yield app
    engine.dispose()


def test_a_school_is_founded_and_its_administrator_is_in(empty):
    client = empty.test_client()
    assert client.get("/log-in").headers["Location"].endswith("/first-run")
    assert "There is no school here yet" in client.get("/first-run").text
    for wrong in ({"password": "short"}, {"time_zone": "Nowhere"}, {"email": "x"}, {"school": ""}):
        assert client.post("/first-run", data={**FORM, **wrong}).status_code == 422
    assert client.post("/first-run", data=FORM).status_code == 303
    assert client.get("/school/people").status_code == 200
    assert client.get("/first-run").status_code == 404
    assert empty.test_client().post("/first-run", data=FORM).status_code == 404
    assert empty.test_client().get("/log-in").status_code == 200


def test_a_stranger_without_the_setup_word_founds_nothing(empty):
    empty.config["SETUP_WORD"] = "umber otter"
    client = empty.test_client()
    assert "Setup word" in client.get("/first-run").text
    refused = client.post("/first-run", data={**FORM, "word": "guess"})
    assert refused.status_code == 403
    assert client.post("/first-run", data={**FORM, "word": "umber otter"}).status_code == 303


def test_of_two_who_come_first_at_once_one_is(empty):
    def found(number):
        form = {**FORM, "school": f"School {number}", "email": f"a{number}@school.example"}
        return empty.test_client().post("/first-run", data=form).status_code

    with ThreadPoolExecutor(4) as pool:
        assert sorted(pool.map(found, range(4))) == [303, 404, 404, 404]
