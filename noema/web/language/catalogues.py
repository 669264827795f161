"""Which language a page is in: English, or for development one that shows what isn't translated."""

import json
from pathlib import Path

from flask import Flask, current_app, has_request_context, session
from flask_babel import Babel, get_locale, get_translations

from noema.core.language import current_catalogue, gettext, say_by, say_kept

ENGLISH, PSEUDO = "en", "en_001"
"""The pseudo-language borrows the code of a locale nobody chooses."""

_KEPT, _OFFERED = "language", "PSEUDO_LANGUAGE"
_SAID_BY_SCRIPTS: list[str] = json.loads(
    (Path(__file__).parents[1] / "translations/scripts.json").read_text(encoding="utf-8")
)
_SHOWN = {ENGLISH: "en", PSEUDO: "en-x-pseudo"}


def speak(app: Flask, *, pseudo_language: bool) -> None:
    """Let pages be said in the language their reader chose."""
    app.config[_OFFERED] = pseudo_language
    Babel(app, default_locale=ENGLISH, locale_selector=chosen_language)
    # The catalogue is looked for once a request, not once a message.
    app.jinja_env.install_gettext_callables(  # type: ignore[attr-defined]
        lambda message: current_catalogue().gettext(message),
        lambda one, many, count: current_catalogue().ngettext(one, many, count),
        newstyle=True,
    )
    # Unlike the templates' own, these take words that may hold markup, and leave it inert.
    app.jinja_env.globals.update(say=gettext, say_kept=say_kept, said_by_scripts=said_by_scripts)
    app.before_request(_begin)
    app.teardown_request(_end)
    app.context_processor(
        lambda: {"language": _SHOWN[chosen_language()], "languages": _languages(app)}
    )


def chosen_language() -> str:
    """Give the language of who asks."""
    if not has_request_context():
        return ENGLISH
    wanted = session.get(_KEPT, ENGLISH)
    return wanted if wanted in _SHOWN else ENGLISH


def choose_language(name: str) -> None:
    """Keep a language for this browser; one that isn't offered is English."""
    session[_KEPT] = name if name in _languages(current_app) else ENGLISH


def begin_anew() -> None:
    """Forget all of a browser's session but its language."""
    spoken = chosen_language()
    session.clear()
    choose_language(spoken)


def said_by_scripts() -> dict[str, str]:
    """Give what scripts say, in the language of the page."""
    return {message: gettext(message) for message in _SAID_BY_SCRIPTS}


def _languages(app: Flask) -> tuple[str, ...]:
    """Give the languages there are to choose from; one alone is no choice."""
    return tuple(_SHOWN) if app.config[_OFFERED] else ()


def _begin() -> None:
    # What core says goes by the same catalogue as the templates.
    say_by(get_translations())


def _end(_wrong: BaseException | None) -> None:
    say_by(None)


def locale_of_page() -> str:
    """Give the locale that dates are written in."""
    return str(get_locale())
