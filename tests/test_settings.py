"""Every setting can be set, says what it is, and refuses nonsense."""

from dataclasses import fields

import pytest

from noema.core.errors import Refused
from noema.settings import Settings, settings_from

URL = {"NOEMA_DATABASE_URL": "postgresql://x@127.0.0.1:1/x"}


def test_each_has_a_unit_and_a_sentence():
    for setting in fields(Settings):
        assert setting.metadata["unit"]
        assert setting.metadata["sentence"].endswith(".")


LIKELY = {
    "worker_metrics": "127.0.0.1:9101",
    "faults_to": "https://key@faults.school.example/1",
    "address": "https://noema.school.example",
    "secret_key": "x" * 40,
    "card_key": "y" * 40,
    "old_secret_keys": f"{'a' * 40} {'b' * 40}",
    "mail_security": "tls",
    "mail_from": "noema@school.example",
    "oidc_issuer": "https://id.school.example",
}


def test_each_can_be_set_from_outside():
    together = {"NOEMA_MAIL_USER": "noema", "NOEMA_MAIL_PASSWORD": "kept secret"}
    together |= {"NOEMA_OIDC_CLIENT": "noema", "NOEMA_OIDC_SECRET": "kept secret"}
    together |= {"NOEMA_OIDC_ISSUER": "https://id.school.example"}
    for setting in fields(Settings):
        text = str(setting.metadata["between"][1]) if setting.type is int else "/somewhere"
        text = LIKELY.get(setting.name, text)
        given = settings_from({**together, **URL, f"NOEMA_{setting.name.upper()}": text})
        assert str(getattr(given, setting.name)) == text


@pytest.mark.parametrize("name", [s.name.upper() for s in fields(Settings) if s.type is int])
def test_a_number_out_of_its_range_is_refused_with_what_would_do(name):
    [setting] = [s for s in fields(Settings) if s.name.upper() == name]
    least, most = setting.metadata["between"]
    for number in {most + 1, least - 1} - {-1}:
        with pytest.raises(Refused, match=f"from {least} to {most}"):
            settings_from({**URL, f"NOEMA_{name}": str(number)})


def test_https_is_on_or_off():
    with pytest.raises(Refused, match="NOEMA_HTTPS must be a whole number from 0 to 1"):
        settings_from({**URL, "NOEMA_HTTPS": "7"})


def test_nonsense_is_refused():
    with pytest.raises(Refused, match="whole number"):
        settings_from({**URL, "NOEMA_HEARTBEAT_S": "often"})
    with pytest.raises(Refused, match="make demo"):
        settings_from({})


@pytest.mark.parametrize(
    ("given", "sentence"),
    [
        ({"ADDRESS": "noema.example"}, "NOEMA_ADDRESS must be"),
        ({"ADDRESS": "http://noema.example", "HTTPS": "1"}, "use https there"),
        ({"SECRET_KEY": "short"}, "NOEMA_SECRET_KEY is too short"),
        ({"CARD_KEY": "short"}, "NOEMA_CARD_KEY is too short"),
        ({"OLD_SECRET_KEYS": "x" * 40 + " short"}, "NOEMA_OLD_SECRET_KEYS"),
        ({"MAIL_SECURITY": "hope"}, "none, starttls, tls"),
        ({"MAIL_USER": "noema"}, "go together"),
        ({"MAIL_USER": "a", "MAIL_PASSWORD": "b", "MAIL_SECURITY": "none"}, "for all to read"),
        ({"MAIL_FROM": "noema"}, "NOEMA_MAIL_FROM"),
        ({"OIDC_ISSUER": "https://id.example"}, "set all three"),
        (
            {"OIDC_ISSUER": "http://id.example", "OIDC_CLIENT": "a", "OIDC_SECRET": "b"},
            "begin with https",
        ),
    ],
)
def test_settings_that_make_no_sense_are_refused_in_a_sentence(given, sentence):
    with pytest.raises(Refused, match=sentence):
        settings_from({**URL, **{f"NOEMA_{name}": value for name, value in given.items()}})
