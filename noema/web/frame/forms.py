"""What pages send, declared field by field and read in one way.

A form is a class of fields; `read_form` reads it from the request and refuses with the first
fault's sentence. CSRF tokens are checked for all requests before.
"""

from datetime import date
from enum import Enum
from typing import Any, TypeVar

from flask import request
from werkzeug.datastructures import FileStorage, MultiDict
from wtforms import Field, FileField, Form, IntegerField, MultipleFileField, StringField
from wtforms.form import BaseForm
from wtforms.validators import ValidationError

from noema.core.errors import Refused
from noema.core.language import gettext

F = TypeVar("F", bound=Form)


class TextLine(StringField):
    """One line of words, without the blanks round it; empty where nothing was sent."""

    data: str

    def __init__(self, *, most: int | None = None, **bound: Any) -> None:
        super().__init__(default="", filters=(_stripped,), **bound)
        self.most = most

    def pre_validate(self, form: BaseForm) -> None:
        """Refuse what is longer than it may be."""
        if self.most is not None and len(self.data) > self.most:
            raise ValidationError(
                gettext("Write at most %(most)s characters here.", most=self.most)
            )


class Exactly(StringField):
    """Words as they were typed: passwords, lists, what is shown again."""

    data: str

    def __init__(self, **bound: Any) -> None:
        super().__init__(default="", filters=(_something,), **bound)


class Whole(IntegerField):
    """A whole number; None where nothing was sent."""

    def process_formdata(self, valuelist: list[str]) -> None:
        """Read it, or say what it isn't."""
        try:
            super().process_formdata([one for one in valuelist if one.strip()])
        except ValueError as wrong:
            given = valuelist[0][:20]
            raise ValueError(
                gettext("“%(given)s” is no whole number: write one such as 6.", given=given)
            ) from wrong


class Number(Field):
    """A number, with a comma or a point; None where nothing was sent."""

    data: Any

    def __init__(self, *, what: str = "", **bound: Any) -> None:
        super().__init__(**bound)
        self.what = what  # it is of, for who wrote something else

    def process_formdata(self, valuelist: list[str]) -> None:
        """Read it, or say what it isn't."""
        text = valuelist[0].strip() if valuelist else ""
        try:
            self.data = float(text.replace(",", ".")) if text else None
        except ValueError as wrong:
            raise ValueError(
                gettext(
                    "“%(text)s” is no number: write one such as 0.5 for %(what)s.",
                    text=text[:20],
                    what=gettext(self.what),
                )
            ) from wrong


class Day(Field):
    """A day as browsers send it, such as 2026-10-16; None where nothing was sent."""

    data: date | None

    def process_formdata(self, valuelist: list[str]) -> None:
        """Read it, or say what it isn't."""
        text = valuelist[0].strip() if valuelist else ""
        try:
            self.data = date.fromisoformat(text) if text else None
        except ValueError as wrong:
            raise ValueError(
                gettext("“%(text)s” is no day: choose one such as 2026-10-16.", text=text[:20])
            ) from wrong


class OneOf(Field):
    """One of several; `refusal` is said where what was sent is none of them."""

    data: Any

    def __init__(
        self, choices: type[Enum], refusal: str, *, usual: Enum | None = None, **bound: Any
    ) -> None:
        super().__init__(default=usual, **bound)
        self.choices, self.refusal = choices, refusal

    def process_formdata(self, valuelist: list[str]) -> None:
        """Read it."""
        given = valuelist[0] if valuelist else ""
        try:
            self.data = self.choices(given) if given else self.default
        except ValueError as wrong:
            raise ValueError(gettext(self.refusal)) from wrong

    def pre_validate(self, form: BaseForm) -> None:
        """Refuse where nothing was sent and nothing is usual."""
        if self.data is None and not self.process_errors:
            raise ValidationError(gettext(self.refusal))


class OneOrNone(OneOf):
    """One of several, or None where nothing was sent."""

    def pre_validate(self, form: BaseForm) -> None:
        """Take nothing for an answer."""


class Many(Field):
    """All values sent under one name, in order."""

    def process_formdata(self, valuelist: list[str]) -> None:
        """Keep them as they came."""
        self.data = tuple(valuelist)

    def process_data(self, value: Any) -> None:
        """Begin with none."""
        self.data = ()


class Said(Field):
    """Whether a button or a tick said one word."""

    def __init__(self, word: str, **bound: Any) -> None:
        super().__init__(default=False, **bound)
        self.word = word

    def process_formdata(self, valuelist: list[str]) -> None:
        """Look for the word."""
        self.data = self.word in valuelist


class SentFile(FileField):
    """One file: its bytes up to a limit and one more; empty where none was sent."""

    def __init__(self, most_bytes: int, **bound: Any) -> None:
        super().__init__(**bound)
        self.most_bytes = most_bytes

    @property
    def bytes(self) -> bytes:
        """What is in it."""
        return bytes(self.data.read(self.most_bytes + 1)) if self.data else b""

    @property
    def file_name(self) -> str:
        """What it is called."""
        return str(self.data.filename or "") if self.data else ""


class SentFiles(MultipleFileField):
    """Several files; those without a name are left out."""

    @property
    def files(self) -> list[FileStorage]:
        """Those that are there."""
        return [one for one in self.data or [] if isinstance(one, FileStorage) and one.filename]


def read_form(kind: type[F], given: MultiDict[str, Any] | None = None) -> F:
    """Read what was sent, or what is given instead, or refuse it."""
    if given is None:
        given = _as_fields(kind)
    form = kind(formdata=given)
    if not form.validate():
        raise Refused(next(str(one.errors[0]) for one in form if one.errors))
    return form


def _as_fields(kind: type[Form]) -> MultiDict[str, Any]:
    """Give files to fields of files and words to the others, whatever was sent under a name."""
    of_files = {field.name for field in kind() if isinstance(field, FileField)}
    fields: MultiDict[str, Any] = MultiDict()
    for sent, are_files in ((request.form, False), (request.files, True)):
        for name, value in sent.items(multi=True):
            if (name in of_files) is are_files:
                fields.add(name, value)
    return fields


def _stripped(given: str | None) -> str:
    return (given or "").strip()


def _something(given: str | None) -> str:
    return given or ""
