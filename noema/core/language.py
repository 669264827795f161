"""Sentences in the language of whoever reads them.

Everything that is said to people is written here and there in English and looked up in a catalogue
when it is said. Whoever asks sets the catalogue while asking; without one it is English.
"""

from collections.abc import Sequence
from contextvars import ContextVar
from gettext import NullTranslations

_ENGLISH = NullTranslations()
_CATALOGUE: ContextVar[NullTranslations] = ContextVar("catalogue", default=_ENGLISH)


def say_by(catalogue: NullTranslations | None) -> None:
    """Say everything that follows by a catalogue; None: in English."""
    _CATALOGUE.set(catalogue or _ENGLISH)


def current_catalogue() -> NullTranslations:
    """Give the catalogue everything is said by now."""
    return _CATALOGUE.get()


def gettext(message: str, /, **values: object) -> str:
    """Say a message with its values filled in.

    >>> gettext("%(name)s is here already.", name="Ada")
    'Ada is here already.'
    """
    # The empty message is the catalogue's own head.
    said = _CATALOGUE.get().gettext(message) if message else ""
    return said % values if values else said


def ngettext(one: str, many: str, count: int, /, **values: object) -> str:
    """Say a message that depends on a count, which both forms may name.

    >>> ngettext("%(count)s cell", "%(count)s cells", 2)
    '2 cells'
    """
    return _CATALOGUE.get().ngettext(one, many, count) % {"count": count, **values}


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
