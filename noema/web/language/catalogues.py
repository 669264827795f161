"""Which language a page is in: a person's own, else their browser's choice, else their school's.

For development there is one more, which shows what isn't translated.
"""

import json
from pathlib import Path

from flask import Flask, current_app, request, session
from flask_login import current_user

from noema.actions.choose_language import choose_own_language
from noema.core import language as core_language
from noema.core.language import (
    ENGLISH,
    LANGUAGES,
    current_language,
    gettext,
    said_alone,
    said_alone_by_count,
    say_in,
    say_kept,
)
from noema.web.frame.request import db

PSEUDO = "en_001"
"""The pseudo-language borrows the code of a locale nobody chooses."""

_KEPT, _OFFERED = "language", "PSEUDO_LANGUAGE"
_SAID_BY_SCRIPTS: list[str] = json.loads(
    (Path(core_language.__file__).parent / "translations/scripts.json").read_text(encoding="utf-8")
)
_MARKED = {PSEUDO: "en-x-pseudo"}


def speak(app: Flask, *, pseudo_language: bool) -> None:
    """Let pages be said in the language of their reader."""
    app.config[_OFFERED] = pseudo_language
    app.jinja_env.add_extension("jinja2.ext.i18n")
    app.jinja_env.install_gettext_callables(  # type: ignore[attr-defined]
        said_alone, said_alone_by_count, newstyle=True
    )
    # Unlike the templates' own, these take words that may hold markup, and leave it inert.
    app.jinja_env.globals.update(say=gettext, say_kept=say_kept, said_by_scripts=said_by_scripts)
    app.before_request(_begin)
    app.teardown_request(_end)
    app.context_processor(_of_page)


def language_of_reader() -> str:
    """Give the language of who asks."""
    chosen = session.get(_KEPT)
    if chosen == PSEUDO and PSEUDO in offered():
        return PSEUDO
    own = current_user.language if current_user.is_authenticated else None
    at_school = current_user.school_language if current_user.is_authenticated else None
    for code in (own, chosen, at_school):
        if code in LANGUAGES:
            return str(code)
    return request.accept_languages.best_match(LANGUAGES) or ENGLISH


def choose_language(code: str) -> None:
    """Keep a language for who asks: theirs where somebody is in, else this browser's."""
    if code not in offered():
        return
    if code == PSEUDO or not current_user.is_authenticated:
        session[_KEPT] = code
        return
    if session.get(_KEPT) == PSEUDO:
        del session[_KEPT]
    choose_own_language(db(), current_user.who, code)


def begin_anew() -> None:
    """Forget all of a browser's session but the language chosen at its door."""
    chosen = session.get(_KEPT)
    session.clear()
    if chosen is not None:
        session[_KEPT] = chosen


def said_by_scripts() -> dict[str, str]:
    """Give what scripts say, in the language of the page."""
    return {message: gettext(message) for message in _SAID_BY_SCRIPTS}


def offered() -> dict[str, str]:
    """Give the languages to choose from, by code, as their speakers call them."""
    known = {code: one.name for code, one in LANGUAGES.items()}
    return known | {PSEUDO: PSEUDO} if current_app.config[_OFFERED] else known


def _of_page() -> dict[str, object]:
    spoken = current_language()
    return {
        "language": _MARKED.get(spoken, spoken),
        "is_english": spoken == ENGLISH,
        "languages": {code: name for code, name in offered().items() if code != spoken},
    }


def _begin() -> None:
    # What core says goes by the same catalogue as the templates.
    say_in(language_of_reader())


def _end(_wrong: BaseException | None) -> None:
    say_in(ENGLISH)
