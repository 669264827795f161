"""Choosing the language of one's pages."""

from flask import Blueprint, redirect, request, url_for
from werkzeug.wrappers import Response

from noema.web.frame.ways_back import safe
from noema.web.language.catalogues import choose_language

language = Blueprint("language", __name__)


@language.post("/language")
def choose() -> Response:
    """Keep the chosen language and show the page again."""
    choose_language(request.form.get("language", ""))
    return redirect(safe(request.form.get("back", "")) or url_for("today.home"), 303)
