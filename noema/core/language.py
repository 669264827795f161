"""Sentences in the language of whoever reads them.

Everything that is said to people is written here and there in English and looked up in a catalogue
when it is said. Whoever asks sets the catalogue while asking; without one it is English.
"""

from collections.abc import Mapping, Sequence
from contextvars import ContextVar
from gettext import NullTranslations
from html import escape

ENGLISH = "en"
LANGUAGES: Mapping[str, str] = {
    ENGLISH: "English",
    "de": "Deutsch",
    "es": "Español",
    "fr": "Français",
}
"""The languages everything is said in: codes of ISO 639-1, and what their speakers call them."""

_POINT = "."
_ENGLISH = NullTranslations()
_CATALOGUE: ContextVar[NullTranslations] = ContextVar("catalogue", default=_ENGLISH)
_DECIMAL_SIGN: ContextVar[str] = ContextVar("decimal_sign", default=_POINT)


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


def say_by(catalogue: NullTranslations | None, decimal_sign: str = _POINT) -> None:
    """Say everything that follows by a catalogue; None: in English."""
    _CATALOGUE.set(catalogue or _ENGLISH)
    _DECIMAL_SIGN.set(decimal_sign)


def current_catalogue() -> NullTranslations:
    """Give the catalogue everything is said by now."""
    return _CATALOGUE.get()


def number(value: float, form: str = "g") -> str:
    """Write a number by a format of Python's, with the reader's decimal sign.

    >>> number(2.5), number(3.14159, ".1f")
    ('2.5', '3.1')
    """
    return format(value, form).replace(_POINT, _DECIMAL_SIGN.get())


def gettext(message: str, /, **values: object) -> str:
    """Say a message with its values filled in.

    >>> gettext("%(name)s is here already.", name="Ada")
    'Ada is here already.'
    """
    # The empty message is the catalogue's own head.
    said = _CATALOGUE.get().gettext(message) if message else ""
    return said % _said(values) if values else said


def ngettext(one: str, many: str, count: int, /, **values: object) -> str:
    """Say a message that depends on a count, which both forms may name.

    >>> ngettext("%(count)s cell", "%(count)s cells", 2)
    '2 cells'
    """
    return _CATALOGUE.get().ngettext(one, many, count) % {"count": count, **_said(values)}


def _said(values: Mapping[str, object]) -> dict[str, object]:
    return {
        name: gettext(value) if isinstance(value, Term) else value for name, value in values.items()
    }


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
