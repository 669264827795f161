"""Logging in and out, with a code where somebody asked to be asked for one."""

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from flask import Blueprint, redirect, render_template, request, session, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions import log_in as action
from noema.actions.found_first import has_school
from noema.actions.own_account import asks_codes, check_second
from noema.core.errors import NotAllowed, TooManyTries
from noema.core.joining.deeds import Deed
from noema.store.people import TeacherRow, teacher_by_email, teacher_by_id
from noema.web.frame.access import let_out, let_teacher_in
from noema.web.frame.forms import Exactly, read_form
from noema.web.frame.guessing import limits_of_account, slowed
from noema.web.frame.noted import note, note_anyway
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db
from noema.web.frame.ways_back import safe
from noema.web.logging_in.by_passkey import add_routes as add_passkey_routes
from noema.web.logging_in.by_school import service_name

logging_in = Blueprint("logging_in", __name__)
add_passkey_routes(logging_in)

_HALF_IN = "half in"
_HALF_IN_LASTS = timedelta(minutes=10)


@dataclass(frozen=True, kw_only=True)
class LogInPage:
    """The log-in form, and that of the code."""

    frame: None = None
    email: str = ""
    wanted: str = ""
    sentence: str = ""
    service: str = ""  # the school's own, to sign in with


class LogInForm(Form):
    """Who somebody says they are."""

    email = Exactly()
    password = Exactly()
    wanted = Exactly()


class CodeForm(Form):
    """The code they are asked for besides."""

    code = Exactly()


@logging_in.get("/log-in")
def log_in() -> str | Response:
    """Show the form; where there is no school yet, that of the first."""
    if not has_school(db()):
        return redirect(url_for("first_run.form"))
    return render_template(
        "logging_in/log_in.html",
        page=LogInPage(wanted=safe(request.args.get("wanted", "")), service=service_name()),
    )


@logging_in.post("/log-in")
def log_in_now() -> Response | tuple[str, int]:
    """Check who it is and let them in, or ask for a code."""
    given = read_form(LogInForm)
    email, wanted = given.email.data, safe(given.wanted.data)
    try:
        teacher = slowed(
            limits_of_account(email), lambda: action.log_in(db(), email, given.password.data)
        )
    except (NotAllowed, TooManyTries) as refusal:
        known = teacher_by_email(db(), email)
        if known is not None:
            note_anyway(Deed.FAILED, known.email, known)
        page = LogInPage(email=email, wanted=wanted, sentence=str(refusal), service=service_name())
        return render_template("logging_in/log_in.html", page=page), status_of(refusal)
    if asks_codes(db(), teacher.id):
        until = (datetime.now(UTC) + _HALF_IN_LASTS).isoformat()
        session[_HALF_IN] = {"who": teacher.id, "until": until, "wanted": wanted}
        return redirect(url_for("logging_in.code"), 303)
    return _let_in(teacher, wanted)


@logging_in.get("/log-in/code")
def code() -> str | Response:
    """Ask for the code."""
    if _half_in() is None:
        return redirect(url_for("logging_in.log_in"))
    return render_template("logging_in/code.html", page=LogInPage())


@logging_in.post("/log-in/code")
def check_code() -> Response | tuple[str, int]:
    """Check the code and let them in."""
    teacher = _half_in()
    if teacher is None:
        return redirect(url_for("logging_in.log_in"), 303)
    typed = read_form(CodeForm).code.data
    try:
        slowed(
            limits_of_account(f"code {teacher.email}"),
            lambda: check_second(db(), teacher.id, typed, datetime.now(UTC)),
        )
    except (NotAllowed, TooManyTries) as refusal:
        note_anyway(Deed.FAILED, teacher.email, teacher)
        page = LogInPage(sentence=str(refusal))
        return render_template("logging_in/code.html", page=page), status_of(refusal)
    return _let_in(teacher, safe(str(session[_HALF_IN]["wanted"])))


def _half_in() -> TeacherRow | None:
    """Give who typed their password a moment ago and is asked for a code."""
    kept = session.get(_HALF_IN)
    if kept is None or datetime.fromisoformat(kept["until"]) < datetime.now(UTC):
        return None
    teacher = teacher_by_id(db(), kept["who"])
    return None if teacher is None or teacher.is_disabled else teacher


def _let_in(teacher: TeacherRow, wanted: str) -> Response:
    let_teacher_in(teacher)
    note(Deed.CAME_IN, by=teacher)
    return redirect(wanted or url_for("today.home"))


@logging_in.post("/log-out")
def log_out() -> Response:
    """End the session."""
    let_out()
    return redirect(url_for("logging_in.log_in"))
