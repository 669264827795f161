"""Logging in and out."""

from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions import log_in as action
from noema.core.errors import NotAllowed, TooManyTries
from noema.web.frame.access import let_out, let_teacher_in
from noema.web.frame.forms import Exactly, read_form
from noema.web.frame.guessing import limits_of_account, slowed
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db
from noema.web.frame.ways_back import safe

logging_in = Blueprint("logging_in", __name__)


@dataclass(frozen=True, kw_only=True)
class LogInPage:
    """The log-in form."""

    frame: None = None
    email: str = ""
    wanted: str = ""
    sentence: str = ""


class LogInForm(Form):
    """Who somebody says they are."""

    email = Exactly()
    password = Exactly()
    wanted = Exactly()


@logging_in.get("/log-in")
def log_in() -> str:
    """Show the form."""
    return render_template(
        "logging_in/log_in.html", page=LogInPage(wanted=safe(request.args.get("wanted", "")))
    )


@logging_in.post("/log-in")
def log_in_now() -> Response | tuple[str, int]:
    """Check who it is and let them in."""
    given = read_form(LogInForm)
    email, wanted = given.email.data, safe(given.wanted.data)
    try:
        teacher = slowed(
            limits_of_account(email), lambda: action.log_in(db(), email, given.password.data)
        )
    except (NotAllowed, TooManyTries) as refusal:
        page = LogInPage(email=email, wanted=wanted, sentence=str(refusal))
        return render_template("logging_in/log_in.html", page=page), status_of(refusal)
    let_teacher_in(teacher)
    return redirect(wanted or url_for("today.home"))


@logging_in.post("/log-out")
def log_out() -> Response:
    """End the session."""
    let_out()
    return redirect(url_for("logging_in.log_in"))
