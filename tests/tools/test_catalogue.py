"""The committed catalogue is what a new collection of messages gives."""

import json
import re
from gettext import GNUTranslations
from io import BytesIO

import pytest

from tools.catalogue import (
    CLOSES,
    OPENS,
    OTHERS,
    PSEUDO,
    SCRIPTS,
    TEMPLATE,
    collected,
    compiled,
    pseudo,
    pseudo_of,
    scripts_of,
    spoken_by,
    template_of,
    translation,
    untranslated,
)

CATALOGUE = collected()
MEND = "run 'make catalogue' and commit what it writes"


def test_the_catalogue_is_up_to_date():
    assert TEMPLATE.read_bytes() == template_of(CATALOGUE), MEND
    assert SCRIPTS.read_text(encoding="utf-8") == scripts_of(CATALOGUE), MEND
    assert PSEUDO.read_bytes() == pseudo_of(CATALOGUE), MEND


@pytest.mark.parametrize("code", OTHERS)
def test_a_language_says_every_message(code):
    spoken = translation(code, CATALOGUE)
    assert [message.id for message in untranslated(spoken)] == []
    with spoken_by(code).open("rb") as file, BytesIO(compiled(spoken)) as now:
        assert GNUTranslations(file)._catalog == GNUTranslations(now)._catalog, MEND


@pytest.mark.parametrize("code", OTHERS)
def test_a_translation_fills_in_what_its_message_does(code):
    """What a template or a sentence puts in stands in every form, and no other; markup too."""
    wrong = []
    for message in translation(code, CATALOGUE):
        if not message.id:
            continue
        ids = message.id if isinstance(message.id, tuple) else (message.id,)
        said = message.string if isinstance(message.string, tuple) else (message.string,)
        asked = {name for one in ids for name in gaps(one)} - ENGLISH_ALONE
        marks = [re.findall(r"<[^>]+>", one) for one in ids]
        for one in said:
            if gaps(one) - {"count"} != asked - {"count"} or "%%" in one:
                wrong.append(one)
            if sorted(re.findall(r"<[^>]+>", one)) not in [sorted(tags) for tags in marks]:
                wrong.append(one)
    assert wrong == []


@pytest.mark.parametrize("code", OTHERS)
def test_a_translation_is_one(code):
    """Hardly any message of several words is the same in another language."""
    same = [
        message.id
        for message in translation(code, CATALOGUE)
        if isinstance(message.id, str) and message.id == message.string
        if len(re.findall(r"[a-z]{3,}", re.sub(r"%\(\w+\)s|<[^>]+>", "", message.id))) > 2
    ]
    assert same == []


def gaps(message: str) -> set[str]:
    """Give the names of what is filled in; a capital is only how a sentence begins."""
    return {name.lower() for pair in re.findall(GAP, message) for name in pair if name}


GAP = r"%\((\w+)\)[sg]|\{(\w+)\}"
ENGLISH_ALONE = {"article"}  # a or an


def test_messages_of_templates_scripts_python_and_data_are_collected():
    files = {file for message in CATALOGUE for file, _ in message.locations}
    assert {file.rpartition(".")[2] for file in files} == {"html", "js", "py", "toml", "csv"}
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
