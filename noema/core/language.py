"""Sentences in the language of whoever reads them.

Everything that is said to people is written here and there in English and looked up in a catalogue
when it is said. Whoever asks sets the language while asking; without one it is English.
"""

from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass
from functools import cache
from gettext import GNUTranslations, NullTranslations
from html import escape
from pathlib import Path
from typing import cast

ENGLISH = "en"
_TRANSLATIONS = Path(__file__).parent / "translations"
_POINT, _COMMA = ".", ","


@dataclass(frozen=True, kw_only=True)
class Language:
    """A language that everything is said in."""

    name: str  # as its speakers call it
    decimal_sign: str


LANGUAGES: Mapping[str, Language] = {
    ENGLISH: Language(name="English", decimal_sign=_POINT),
    "de": Language(name="Deutsch", decimal_sign=_COMMA),
    "es": Language(name="Español", decimal_sign=_COMMA),
    "fr": Language(name="Français", decimal_sign=_COMMA),
}
"""The languages there are, by their codes of ISO 639-1."""


@dataclass(frozen=True, kw_only=True)
class _Voice:
    code: str
    catalogue: NullTranslations


_IN_ENGLISH = _Voice(code=ENGLISH, catalogue=NullTranslations())
_SPOKEN: ContextVar[_Voice] = ContextVar("spoken", default=_IN_ENGLISH)


class Term(str):
    """A trade word kept in English, such as a hue's name: said in its reader's language.

    It compares and is kept as what it is; filled into a sentence, or put on a page, it is said.
    Words that people chose themselves are in no catalogue and stay as they are.
    """

    __slots__ = ()

    def __html__(self) -> str:
        """Give it for a page."""
        return escape(gettext(self))

    def capitalize(self) -> str:
        """Begin a sentence with it."""
        said = gettext(self)
        return said[:1].upper() + said[1:]


class Figure(str):
    """A number as it was written, with its value: it can be written again."""

    value: float
    form: str


class Sentence(str):
    """A sentence as it was said, with what it was made of: it can be said again."""

    message: str
    values: Mapping[str, object]


def say_in(code: str) -> None:
    """Say everything that follows in a language, by its code; one without a catalogue: English."""
    _SPOKEN.set(_Voice(code=code, catalogue=_catalogue_of(code)))


@contextmanager
def speaking(code: str) -> Iterator[None]:
    """Say what is said inside in a language."""
    before = _SPOKEN.set(_Voice(code=code, catalogue=_catalogue_of(code)))
    try:
        yield
    finally:
        _SPOKEN.reset(before)


def current_language() -> str:
    """Give the code of the language everything is said in now."""
    return _SPOKEN.get().code


def written(value: float, form: str = "g") -> str:
    """Write a number by a format of Python's, with the reader's decimal sign.

    >>> written(2.5), written(3.14159, ".1f")
    ('2.5', '3.1')
    >>> with speaking("de"):
    ...     print(written(2.5))
    2,5
    """
    known = LANGUAGES.get(current_language(), LANGUAGES[ENGLISH])
    figure = Figure(format(value, form).replace(_POINT, known.decimal_sign))
    figure.value, figure.form = float(value), form
    return figure


def gettext(message: str, /, **values: object) -> str:
    """Say a message with its values filled in.

    >>> gettext("%(name)s is here already.", name="Ada")
    'Ada is here already.'
    """
    # The empty message is the catalogue's own head.
    said = _SPOKEN.get().catalogue.gettext(message) if message else ""
    sentence = Sentence(said % _said(values) if values else said)
    sentence.message, sentence.values = message, values
    return sentence


def ngettext(one: str, many: str, count: int, /, **values: object) -> str:
    """Say a message that depends on a count, which both forms may name.

    >>> ngettext("%(count)s cell", "%(count)s cells", 2)
    '2 cells'
    """
    said = _SPOKEN.get().catalogue.ngettext(one, many, count)
    return said % {"count": count, **_said(values)}


Source = Mapping[str, object]
"""What a sentence was made of, as plain values: its message in English and what fills it, each
with its own."""


def source_of(text: object) -> Source | None:
    """Give what a sentence or a term was made of; nothing else has a source.

    >>> source_of(gettext("%(label)s as it comes.", label=Term("rose")))
    {'message': '%(label)s as it comes.', 'values': {'label': {'message': 'rose', 'values': {}}}}
    """
    if isinstance(text, Term):
        return {"message": str(text), "values": {}}
    if isinstance(text, Figure):
        return {"number": text.value, "form": text.form}
    if not isinstance(text, Sentence) or not text.message:
        return None
    values = {name: source_of(value) or value for name, value in text.values.items()}
    return {"message": text.message, "values": values}


def said_again(source: Source) -> str:
    """Say by what a sentence was made of, in the language of today's reader.

    >>> with speaking("de"):
    ...     print(said_again(source_of(gettext("%(label)s as it comes.", label=Term("rose")))))
    Rosa, wie es aus der Tube kommt.
    """
    if "number" in source:
        return written(cast(float, source["number"]), str(source["form"]))
    filled = {
        name: said_again(value) if isinstance(value, Mapping) else value
        for name, value in cast(Mapping[str, object], source["values"]).items()
    }
    return gettext(str(source["message"]), **filled)


def said_alone(message: str, /) -> str:
    """Say a message whose gaps somebody else fills, such as a template."""
    return _SPOKEN.get().catalogue.gettext(message)


def said_alone_by_count(one: str, many: str, count: int, /) -> str:
    """Say the form for a count of a message whose gaps somebody else fills."""
    return _SPOKEN.get().catalogue.ngettext(one, many, count)


def said_together(words: Sequence[str]) -> str:
    """List words in a sentence.

    >>> said_together(["scarlet", "lemon", "white"])
    'scarlet and lemon and white'
    """
    together = words[0] if words else ""
    for word in words[1:]:
        together = gettext("%(others)s and %(last)s", others=together, last=word)
    return together


def N_(message: str, /) -> str:  # noqa: N802, as every catalogue's tools call it
    """Mark a message that is said later, by `gettext`."""
    return message


def NN_(one: str, many: str, /) -> tuple[str, str]:  # noqa: N802
    """Mark a message that is said later, by `ngettext`."""
    return one, many


def say_kept(text: str) -> str:
    r"""Say what was kept in English, each line a message of its own.

    >>> say_kept("It is kept.\nPhotograph it again.")
    'It is kept. Photograph it again.'
    """
    return " ".join(gettext(line) for line in text.split("\n"))


@cache
def _catalogue_of(code: str) -> NullTranslations:
    compiled = _TRANSLATIONS / code / "LC_MESSAGES/messages.mo"
    if not compiled.is_file():
        return NullTranslations()
    with compiled.open("rb") as file:
        return GNUTranslations(file)


def _said(values: Mapping[str, object]) -> dict[str, object]:
    return {
        name: gettext(value) if isinstance(value, Term) else value for name, value in values.items()
    }
