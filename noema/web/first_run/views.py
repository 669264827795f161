"""The first school and its administrator, where there is none yet."""

from dataclasses import dataclass, replace
from hmac import compare_digest

from flask import Blueprint, current_app, redirect, render_template, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.found_first import found_first_school, has_school
from noema.actions.set_time_zone import time_zones
from noema.core.errors import NotAllowed, NotFound, Refused
from noema.core.language import gettext
from noema.web.frame.access import let_teacher_in
from noema.web.frame.forms import Exactly, TextLine, read_form
from noema.web.frame.guessing import limits_of_account, slowed
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db

first_run = Blueprint("first_run", __name__)


@dataclass(frozen=True, kw_only=True)
class FirstRunPage:
    """The form of the first school."""

    frame: None = None
    zones: tuple[str, ...]
    asks_word: bool  # somebody set one, so that no stranger comes first
    school: str = ""
    time_zone: str = "Europe/London"
    name: str = ""
    email: str = ""
    sentence: str = ""


class SchoolForm(Form):
    """The first school and who runs it."""

    school = TextLine()
    time_zone = TextLine()
    name_ = TextLine(name="name")
    email = TextLine()
    password = Exactly()
    word = Exactly()


@first_run.get("/first-run")
def form() -> str:
    """Show the form; where there is a school there is no such page."""
    _check_none()
    return render_template("first_run/first_run.html", page=_page())


@first_run.post("/first-run")
def found() -> Response | tuple[str, int]:
    """Found the school and let its administrator in."""
    _check_none()
    given = read_form(SchoolForm)
    try:
        slowed(limits_of_account("first run"), lambda: _check_word(given.word.data))
        teacher = found_first_school(
            db(),
            given.school.data,
            given.email.data,
            given.name_.data,
            given.password.data,
            given.time_zone.data,
        )
    except Refused as refusal:
        page = _page(given, str(refusal))
        return render_template("first_run/first_run.html", page=page), status_of(refusal)
    let_teacher_in(teacher)
    return redirect(url_for("today.home"), 303)


def _check_none() -> None:
    if has_school(db()):
        raise NotFound(gettext("There is a school here already: log in."))


def _check_word(given: str) -> None:
    word = current_app.config["SETUP_WORD"]
    if word and not compare_digest(given.strip().encode(), word.encode()):
        raise NotAllowed(gettext("That isn’t the setup word: whoever runs Noema knows it."))


def _page(given: SchoolForm | None = None, sentence: str = "") -> FirstRunPage:
    page = FirstRunPage(zones=time_zones(), asks_word=bool(current_app.config["SETUP_WORD"]))
    if given is None:
        return page
    return replace(
        page,
        school=given.school.data,
        time_zone=given.time_zone.data,
        name=given.name_.data,
        email=given.email.data,
        sentence=sentence,
    )
