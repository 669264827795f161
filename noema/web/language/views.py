"""Choosing the language of one's pages."""

from flask import Blueprint, redirect, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.web.frame.forms import Exactly, TextLine, read_form
from noema.web.frame.ways_back import safe
from noema.web.language.catalogues import choose_language

language = Blueprint("language", __name__)


class LanguageForm(Form):
    """A language, and the page to go back to."""

    language = TextLine()
    back = Exactly()


@language.post("/language")
def choose() -> Response:
    """Keep the chosen language and show the page again."""
    given = read_form(LanguageForm)
    choose_language(given.language.data)
    return redirect(safe(given.back.data) or url_for("today.home"), 303)
