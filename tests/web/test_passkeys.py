"""What no passkey opens."""

import json

import pytest

from noema.actions.passkeys import MOST, Site, ask_to_make
from noema.core.errors import Refused
from noema.store.passkeys import add_passkey
from noema.store.people import teacher_by_email
from tests.trade import PASSWORD

HERE = "http://noema.school.example"


def asked(client, path, **form):
    return client.post(path, data=form, base_url=HERE)


def test_a_passkey_is_asked_for_by_the_host_s_name_and_only_after_the_password(app, school):
    client = school.teacher(app)
    assert client.post("/account/passkeys/begin", data={"password": "wrong"}).status_code == 403
    client = app.test_client()
    asked(client, "/log-in", email=school.email, password=PASSWORD)
    options = asked(client, "/account/passkeys/begin", password=PASSWORD).get_json()
    assert options["rp"]["id"] == "noema.school.example"
    assert options["authenticatorSelection"]["userVerification"] == "required"
    nonsense = client.post("/account/passkeys", json={"id": "x"}, base_url=HERE)
    assert nonsense.status_code == 422
    again = client.post("/account/passkeys", json={"id": "x"}, base_url=HERE)
    assert again.status_code == 409  # each question is answered once


@pytest.mark.parametrize("answer", [{}, {"id": "!"}, {"id": "AAAA", "response": {}}, []])
def test_nonsense_lets_nobody_in(app, answer):
    client = app.test_client()
    assert client.post("/log-in/passkey", json=answer).status_code == 409  # nothing was asked
    client.post("/log-in/passkey/begin")
    assert client.post("/log-in/passkey", json=answer).status_code in (403, 409)
    assert client.get("/account").status_code == 302


def test_nobody_has_passkeys_without_number(app, school):
    with school.sessions.begin() as session:
        teacher = teacher_by_email(session, school.email)
        for number in range(MOST):
            key = json.dumps([school.id, number]).encode()
            add_passkey(
                session, teacher.id, credential=key, public_key=b"k", uses=0, device="a phone"
            )
        with pytest.raises(Refused, match=f"You have {MOST} passkeys"):
            ask_to_make(session, teacher, Site(host="a", origin="https://a"))
