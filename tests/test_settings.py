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


def test_each_can_be_set_from_outside():
    for setting in fields(Settings):
        text = "7" if setting.type is int else "/somewhere"
        given = settings_from({**URL, f"NOEMA_{setting.name.upper()}": text})
        assert str(getattr(given, setting.name)) == text


def test_nonsense_is_refused():
    with pytest.raises(Refused, match="whole number"):
        settings_from({**URL, "NOEMA_HEARTBEAT_S": "often"})
    with pytest.raises(Refused, match="make demo"):
        settings_from({})
