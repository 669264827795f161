"""The committed catalogue is what a new collection of messages gives."""

import json
import re

import pytest

from tools.catalogue import (
    CLOSES,
    OPENS,
    PSEUDO,
    SCRIPTS,
    TEMPLATE,
    collected,
    pseudo,
    pseudo_of,
    scripts_of,
    template_of,
)

CATALOGUE = collected()
MEND = "run 'make catalogue' and commit what it writes"


def test_the_catalogue_is_up_to_date():
    assert TEMPLATE.read_bytes() == template_of(CATALOGUE), MEND
    assert SCRIPTS.read_text(encoding="utf-8") == scripts_of(CATALOGUE), MEND
    assert PSEUDO.read_bytes() == pseudo_of(CATALOGUE), MEND


def test_messages_of_templates_scripts_python_and_data_are_collected():
    files = {file for message in CATALOGUE for file, _ in message.locations}
    assert {file.rpartition(".")[2] for file in files} == {"html", "js", "py", "toml"}
    assert "Aim at the sheet." in json.loads(SCRIPTS.read_text(encoding="utf-8"))


def test_what_is_filled_in_stands_in_every_form_of_a_message():
    for message in CATALOGUE:
        if isinstance(message.id, tuple):
            one, many = (set(re.findall(r"%\((\w+)\)s", form)) for form in message.id)
            assert one | {"count"} == many | {"count"}, message.id


@pytest.mark.parametrize(
    "message",
    [
        "Keep it",
        "%(count)s of %(all)s",
        "<b>%(name)s</b> isn't here",
        "100 %%",
        "{cells} look {tube}",
    ],
)
def test_the_pseudo_language_keeps_what_is_filled_in_and_changes_the_rest(message):
    said = pseudo(message)
    assert said.startswith(OPENS)
    assert said.endswith(CLOSES)
    kept = r"%\(\w+\)s|%%|<[^>]*>|\{\w+\}"
    assert re.findall(kept, said) == re.findall(kept, message)
    words = re.sub(kept, " ", message).split()
    assert not any(word in said for word in words if len(word) > 3)
