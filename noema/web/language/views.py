"""Choosing the language of one's pages, and whether swatches are named on them."""

from flask import Blueprint, redirect, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.web.drawings.named import show_names
from noema.web.frame.forms import Exactly, Said, TextLine, read_form
from noema.web.frame.ways_back import safe
from noema.web.language.catalogues import choose_language

language = Blueprint("language", __name__)


class LanguageForm(Form):
    """A language, and the page to go back to."""

    language = TextLine()
    back = Exactly()


class SwatchNamesForm(Form):
    """Whether names stand on swatches, and the page to go back to."""

    wanted = Said("yes", name="names")
    back = Exactly()


@language.post("/names")
def name_swatches() -> Response:
    """Show names and values on swatches from now on, or no longer."""
    given = read_form(SwatchNamesForm)
    show_names(wanted=given.wanted.data)
    return redirect(safe(given.back.data) or url_for("today.home"), 303)


@language.post("/language")
def choose() -> Response:
    """Keep the chosen language and show the page again."""
    given = read_form(LanguageForm)
    choose_language(given.language.data)
    return redirect(safe(given.back.data) or url_for("today.home"), 303)
