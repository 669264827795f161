"""What pages send is read by its declaration, and what makes no sense is said."""

from enum import Enum
from io import BytesIO

import pytest
from flask import Flask
from wtforms import Form

from noema.core.errors import Refused
from noema.web.frame.forms import (
    Exactly,
    Many,
    Number,
    OneOf,
    OneOrNone,
    Said,
    SentFile,
    SentFiles,
    TextLine,
    Whole,
    read_form,
)


class Wash(Enum):
    THIN, THICK = "thin", "thick"


class EveryForm(Form):
    name = TextLine(most=10)
    typed = Exactly()
    week = Whole()
    limit = Number(what="value")
    wash = OneOf(Wash, "Choose thin or thick.", usual=Wash.THIN)
    other = OneOrNone(Wash, "Choose thin or thick, or neither.")
    cell = Many()
    again = Said("needed", name="cells")
    file = SentFile(3)
    photos = SentFiles()


class NeededForm(Form):
    wash = OneOf(Wash, "Choose thin or thick.")


def read(data, kind=EveryForm):
    with Flask("forms").test_request_context(method="POST", data=data):
        form = read_form(kind)
        form.sent = form.file.bytes if kind is EveryForm else b""
        return form


def test_what_was_sent_is_read_by_its_type():
    form = read(
        {
            "name": "  a scale ",
            "typed": " as is ",
            "week": "6",
            "limit": "0,5",
            "wash": "thick",
            "other": "thin",
            "cell": ["a", "b"],
            "cells": "needed",
            "file": (BytesIO(b"12345"), "set.json"),
            "photos": [(BytesIO(b"1"), "one.jpg"), (BytesIO(b""), "")],
        }
    )
    assert (form.name.data, form.typed.data) == ("a scale", " as is ")
    assert (form.week.data, form.limit.data) == (6, 0.5)
    assert (form.wash.data, form.other.data) == (Wash.THICK, Wash.THIN)
    assert (form.cell.data, form.again.data) == (("a", "b"), True)
    assert (form.sent, form.file.file_name) == (b"1234", "set.json")
    assert [one.filename for one in form.photos.files] == ["one.jpg"]


def test_what_wasnt_sent_is_as_usual():
    form = read({})
    assert (form.name.data, form.typed.data, form.cell.data) == ("", "", ())
    assert (form.week.data, form.limit.data, form.other.data) == (None, None, None)
    assert (form.wash.data, form.again.data, form.photos.files) == (Wash.THIN, False, [])
    assert (form.sent, form.file.file_name) == (b"", "")


@pytest.mark.parametrize(
    ("data", "sentence"),
    [
        ({"name": "a very long name"}, "at most 10 characters"),
        ({"week": "six"}, "“six” is no whole number"),
        ({"week": "6.5"}, "“6.5” is no whole number"),
        ({"limit": "some"}, "“some” is no number: write one such as 0.5 for value"),
        ({"wash": "none"}, "Choose thin or thick."),
        ({"other": "none"}, "Choose thin or thick, or neither."),
    ],
)
def test_what_makes_no_sense_is_said_in_a_sentence(data, sentence):
    with pytest.raises(Refused, match=sentence):
        read(data)


def test_what_is_needed_and_wasnt_sent_is_said():
    with pytest.raises(Refused, match="Choose thin or thick"):
        read({}, NeededForm)
    assert read({"wash": "thin"}, NeededForm).wash.data is Wash.THIN
